import { useEffect, useEffectEvent, useState, type Dispatch, type SetStateAction } from "react";
import { useSearchParams } from "react-router";
import { may } from "@amigo/core/access/may";
import type { PersonLine, Family } from "@amigo/contract/people";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { Empty, FaultLine, Loading, PageHead } from "../ui/Page";
import { Tabs } from "../ui/Tabs";
import { usePeopleQuery, useQuestionsQuery } from "../data/people";
import { ByHand } from "./ByHand";
import { FamilyCard } from "./FamilyCard";
import { Left } from "./Left";
import { Questions } from "./Questions";
import { Ticked } from "./Ticked";
import { t } from "../texts/people";

const AT_ONCE = 30;
/** The address of the page follows what is typed after this many milliseconds. */
const SETTLES_AFTER = 150;

/** Families as cards, found by any part of a name, number or address; the questions that only a person can settle; what was said by hand. */
export function PeoplePage() {
  const [search, setSearch] = useSearchParams();
  const me = useMe();
  const { data: questions = [] } = useQuestionsQuery();
  const show = search.get("show") ?? "";
  return (
    <div className="flex flex-col lg:min-h-0 lg:flex-1">
      <PageHead
        title={t("people.people")}
        line={
          questions.length === 0
            ? t("people.familiesInYourRoster")
            : t("people.questionsToAnswer", { questions: questions.length })
        }
      />
      <Tabs
        label={t("people.people")}
        value={show}
        onChange={(value) => setSearch(value === "" ? {} : { show: value })}
        tabs={[
          ["", t("people.families2")],
          ["questions", t("people.questions", { questions: questions.length })],
          ["hand", t("people.manualChanges")],
          ...(may(me.role, "forget people") ? [["left", t("people.formerMembers")] as const] : []),
        ]}
      />
      {show === "" && <Families />}
      {show === "questions" && <Questions questions={questions} />}
      {show === "hand" && <ByHand />}
      {show === "left" && may(me.role, "forget people") && <Left />}
    </div>
  );
}

function Families() {
  const [search, setSearch] = useSearchParams();
  const q = search.get("q") ?? "";
  const from = Number(search.get("from") ?? 0);
  const only = search.get("only") === "unreachable" ? "unreachable" : "";
  const { data, error, isFetching } = usePeopleQuery({ q, only, from });
  const [typed, setTyped] = useState(q);
  const [ticked, setTicked] = useState<readonly PersonLine[]>([]);
  const set = (name: string, value: string): void =>
    setSearch(
      (before) => {
        if (name !== "from") before.delete("from");
        if (value === "") before.delete(name);
        else before.set(name, value);
        return before;
      },
      { replace: true },
    );
  const settle = useEffectEvent(() => {
    if (typed !== q) set("q", typed);
  });
  useEffect(() => {
    const timer = setTimeout(settle, SETTLES_AFTER);
    return () => clearTimeout(timer);
  }, [typed]);
  return (
    <>
      <FamilyFilters
        typed={typed}
        setTyped={setTyped}
        only={only}
        set={set}
        data={data}
        isFetching={isFetching}
        from={from}
      />
      {error !== undefined ? (
        <FaultLine error={error} />
      ) : data === undefined ? (
        <Loading what={t("people.theFamilies")} />
      ) : data.families.length === 0 ? (
        <NoFamilies q={q} only={only} />
      ) : (
        <div className="grid grid-cols-[repeat(auto-fill,minmax(min(340px,100%),1fr))] items-start gap-3.5">
          {data.families.map((family) => (
            <FamilyCard
              key={family.id}
              family={family}
              ticks={{
                has: (id) => ticked.some((person) => person.id === id),
                toggle: (person) =>
                  setTicked(
                    ticked.some(({ id }) => id === person.id)
                      ? ticked.filter(({ id }) => id !== person.id)
                      : [...ticked, person],
                  ),
              }}
            />
          ))}
        </div>
      )}
      {ticked.length > 0 && <Ticked people={ticked} onClear={() => setTicked([])} />}
    </>
  );
}

function FamilyFilters({
  typed,
  setTyped,
  only,
  set,
  data,
  isFetching,
  from,
}: {
  typed: string;
  setTyped: Dispatch<SetStateAction<string>>;
  only: "" | "unreachable";
  set: (name: string, value: string) => void;
  data: { total: number; families: Family[] } | undefined;
  isFetching: ReturnType<typeof usePeopleQuery>["isFetching"];
  from: number;
}) {
  return (
    <div className="mb-3 flex flex-wrap items-center gap-3">
      <input
        type="search"
        aria-label={t("people.findPeople")}
        placeholder={t("people.partOfANameNumber")}
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        className="h-[34px] w-80 max-w-full rounded-md border border-hair bg-panel px-2.5"
      />
      <label className="flex items-center gap-2">
        <input
          type="checkbox"

          checked={only !== ""}
          onChange={(event) => set("only", event.target.checked ? "unreachable" : "")}
        />
        {t("people.onlyFamiliesWithoutAWorking")}
      </label>
      {data !== undefined && (
        <span role="status" className="text-[13px] text-ink-3">
          {t("people.families", { total: data.total, isFetching: String(isFetching) })}
        </span>
      )}
      {data !== undefined && data.total > AT_ONCE && (
        <span className="ml-auto flex items-center gap-2 text-[13px]">
          <Button
            disabled={from === 0}
            onClick={() => set("from", from <= AT_ONCE ? "" : String(from - AT_ONCE))}
          >
            {t("people.before")}
          </Button>
          {from + 1}–{Math.min(from + AT_ONCE, data.total)}
          <Button
            disabled={from + AT_ONCE >= data.total}
            onClick={() => set("from", String(from + AT_ONCE))}
          >
            {t("people.next")}
          </Button>
        </span>
      )}
    </div>
  );
}

function NoFamilies({ q, only }: { q: string; only: "" | "unreachable" }) {
  return (
    <Empty
      title={
        q !== ""
          ? t("people.nobodyHereHasInName", { q })
          : only !== ""
            ? t("people.everyFamilyCanBeReached")
            : t("people.nobodyIsKnownYet")
      }
    >
      <p>
        {q !== ""
          ? t("people.tryFewerLetters")
          : only !== ""
            ? t("people.eachStudentHasAGuardian")
            : t("people.peopleComeFromYourSheets")}
      </p>
    </Empty>
  );
}
