import { inOrder } from "@amigo/language/inOrder";
import type { z } from "zod";
import type { getJournal } from "@amigo/contract/house";
import { journalWords } from "@amigo/core/journal/journalAction";
import { say } from "@amigo/language/say";
import { useEffect, useState } from "react";
import { useSearchParams } from "react-router";
import { useJournalQuery } from "../data/house";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Empty, FaultLine, Loading, PageHead, Panel } from "../ui/Page";
import { SearchField } from "../ui/SearchField";
import { moment, today } from "../ui/time";
import { DayField } from "../ui/DayField";
import { t } from "../texts/house";
import type { Me } from "@amigo/contract/accounts";

const FILTERS = ["q", "actor", "action", "from", "to"] as const;
const SETTLES_AFTER = 200;

/** Who did what, newest first; filtered by what stands in the address of the page, and exported as it is filtered. */
export function Journal() {
  const me = useMe();
  const [search, setSearch] = useSearchParams();
  const filters = Object.fromEntries(
    FILTERS.flatMap((name) => {
      const value = search.get(name) ?? "";
      return value === "" ? [] : [[name, value]];
    }),
  );
  const before = search.get("before");
  const { data, error } = useJournalQuery({
    ...filters,
    ...(before === null ? {} : { before: Number(before) }),
  });
  const set = (name: string, value: string): void =>
    setSearch(
      (search) => {
        search.delete("before");
        if (value === "") search.delete(name);
        else search.set(name, value);
        return search;
      },
      { replace: true },
    );
  const page = (id: number | undefined): void =>
    setSearch((search) => {
      if (id === undefined) search.delete("before");
      else search.set("before", String(id));
      return search;
    });
  return (
    <>
      <JournalFilters search={search} set={set} data={data} me={me} filters={filters} />
      <FaultLine error={error} />
      {data === undefined ? (
        error === undefined && <Loading what={t("house.theJournal")} />
      ) : data.entries.length === 0 ? (
        <Panel>
          <Empty title={t("house.noJournalEntriesFound")}>
            <p>{t("house.tryFewerWordsOrOther")}</p>
          </Empty>
        </Panel>
      ) : (
        <Panel className="overflow-hidden">
          <JournalEntries data={data} me={me} />
          <div className="flex gap-2 p-3">
            {before !== null && (
              <Button onClick={() => page(undefined)}>{t("house.newest")}</Button>
            )}
            {data.more && (
              <Button onClick={() => page(data.entries[data.entries.length - 1]?.id)}>
                {t("house.older")}
              </Button>
            )}
          </div>
        </Panel>
      )}
    </>
  );
}

/** The journal as a page of its own: for a site coordinator what is about the lists of their site. */
export function JournalPage() {
  const me = useMe();
  return (
    <>
      <PageHead
        title={t("house.journal")}
        line={me.role === "coordinator" ? t("house.whoDidWhat") : t("house.whoDidWhatToThe")}
      />
      <Journal />
    </>
  );
}

/** A search field whose filter follows once the typing rests. */
function Typed({
  label,
  placeholder,
  value,
  onChange,
}: {
  label: string;
  placeholder: string;
  value: string;
  onChange: (value: string) => void;
}) {
  const [typed, setTyped] = useState(value);
  useEffect(() => {
    if (typed === value) return;
    const timer = setTimeout(() => onChange(typed), SETTLES_AFTER);
    return () => clearTimeout(timer);
  }, [typed, value, onChange]);
  return (
    <SearchField
      label={label}
      placeholder={placeholder}
      value={typed}
      onChange={setTyped}
      className="w-52"
    />
  );
}

/** The kinds of entries as choices, in the order of their words. */
function wordsOf(actions: readonly string[]): { value: string; name: string }[] {
  return actions
    .map((action) => ({ value: action, name: say(journalWords(action)) }))
    .sort((one, other) => inOrder(one.name, other.name));
}

function JournalFilters({
  search,
  set,
  data,
  me,
  filters,
}: {
  search: URLSearchParams;
  set: (name: string, value: string) => void;
  data: z.output<typeof getJournal.answer> | undefined;
  me: Me;
  filters: { [k: string]: string };
}) {
  return (
    <div className="mb-3 flex flex-wrap items-center gap-2">
      <Typed
        label={t("house.findInTheJournal")}
        placeholder={t("house.aListANameA")}
        value={search.get("q") ?? ""}
        onChange={(value) => set("q", value)}
      />
      <Typed
        label={t("house.byWhom")}
        placeholder={t("house.byWhom2")}
        value={search.get("actor") ?? ""}
        onChange={(value) => set("actor", value)}
      />
      <Choice
        label={t("house.what")}
        value={search.get("action") ?? ""}
        onChange={(value) => set("action", value)}
        options={[{ value: "", name: t("house.everything") }, ...wordsOf(data?.actions ?? [])]}
      />
      {(["from", "to"] as const).map((name) => (
        <DayField
          key={name}
          inline
          label={name === "from" ? t("house.from") : t("house.to")}
          value={search.get(name) ?? ""}
          onChange={(day) => set(name, day)}
          max={today(me.timeZone)}
        />
      ))}
      <a
        className="ml-auto text-petrol underline underline-offset-2"
        href={`/api/journal/export?${new URLSearchParams(filters)}`}
        download
      >
        {t("house.exportAllAsCsv", { is: String(Object.keys(filters).length === 0) })}
      </a>
    </div>
  );
}

function JournalEntries({ data, me }: { data: z.output<typeof getJournal.answer>; me: Me }) {
  return (
    <ul>
      {data.entries.map((entry) => (
        <li key={entry.id} className="flex flex-wrap gap-x-4 border-b border-hair-soft px-4 py-2">
          <span className="w-32 shrink-0 text-ink-3">{moment(entry.at, me.timeZone)}</span>
          <span className="min-w-0 flex-1 basis-60 wrap-anywhere">{entry.sentence}</span>
          <span className="shrink-0 text-right text-[13px] md:w-28 text-ink-3">
            {say(journalWords(entry.action))}
          </span>
        </li>
      ))}
    </ul>
  );
}
