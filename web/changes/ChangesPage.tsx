import { useRef, useState } from "react";
import { Link, useLocation, useParams, useSearchParams } from "react-router";
import type { CauseLine, RoundPage } from "@amigo/contract/rounds";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { Empty, FaultLine, FaultPage, Loading, PageHead, Panel } from "../ui/Page";
import { Progress } from "../ui/Progress";
import { Minus, Plus, Tilde, Warn } from "../ui/Signs";
import { moment } from "../ui/time";
import { useKeys } from "../ui/Keys";
import { useNarrow } from "../ui/useNarrow";
import { CauseDetail } from "./CauseDetail";
import { CauseList } from "./CauseList";
import { CorrectDialog } from "./CorrectDialog";
import { Filters, FILTERS, passes, type CauseFilter } from "./Filters";
import { groupCauses, groupKey } from "./groupCauses";
import { Guards, unpassed as stillToPass } from "../edits/Guards";
import { PastRounds } from "./PastRounds";
import { TakeBackDialog } from "./TakeBackDialog";
import {
  useCauseQuery,
  useDecideMutation,
  useOpenRoundQuery,
  useRoundQuery,
  useStepMutation,
} from "../data/rounds";
import { t } from "../texts/t";
import { Rich } from "../texts/Rich";
import { RoundHead } from "./RoundHead";

/** The open round by cause, or a past one: what happened, which lists it touches, the evidence, the decision. */
export function ChangesPage() {
  const { number } = useParams();
  return number === "past" ? <PastPage /> : <RoundPlace number={number} />;
}

/** The past rounds alone, when a round is open. */
function PastPage() {
  const [done, setDone] = useState<string>();
  return (
    <>
      <PageHead title={t("changes.pastRounds")} line={t("changes.setsOfChangesThatWere")}>
        <Link to="/changes" className="text-petrol underline underline-offset-2">
          {t("changes.goToTheOpenRound")}
        </Link>
      </PageHead>
      {done !== undefined && <Done sentence={done} />}
      <PastRounds onDone={setDone} />
    </>
  );
}

function RoundPlace({ number }: { number: string | undefined }) {
  const open = useOpenRoundQuery(undefined, { skip: number !== undefined });
  const past = useRoundQuery(Number(number), { skip: number === undefined });
  const imported = (useLocation().state as { imported?: string } | null)?.imported;
  const [done, setDone] = useState(imported === undefined ? undefined : `${imported}.`);
  const { data, error } = number === undefined ? open : past;
  if (error !== undefined) return <FaultPage error={error} />;
  if (data === undefined) return <Loading what={t("changes.theRound")} />;
  if (data === null)
    return (
      <>
        <PageHead title={t("changes.changes2")} line={t("changes.everythingIsInStep")} />
        {done !== undefined && <Done sentence={done} />}
        <Panel>
          <Empty title={t("changes.noRoundIsOpen")}>
            <p>
              <Rich
                id="changes.whenAnImportFindsSomething"
                link={(chunks) => (
                  <Link className="text-petrol underline" to="/sources">
                    {chunks}
                  </Link>
                )}
              />
            </p>
          </Empty>
        </Panel>
        <PastRounds onDone={setDone} />
      </>
    );
  return <Round key={data.number} round={data} done={done} onDone={setDone} />;
}

function Done({ sentence }: { sentence: string }) {
  return (
    <p role="status" className="mb-3 rounded-md border border-leaf bg-leaf-soft px-3 py-2">
      <b className="text-leaf-ink">✓ </b>
      {sentence}{" "}
      <Link className="text-petrol underline" to="/">
        {t("changes.seeTheBoard")}
      </Link>
    </p>
  );
}

function Round({
  round,
  done,
  onDone,
}: {
  round: RoundPage;
  done: string | undefined;
  onDone: (sentence: string) => void;
}) {
  const me = useMe();
  const [search, setSearch] = useSearchParams();
  const [decide, deciding] = useDecideMutation();
  const [step, stepping] = useStepMutation();
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set());
  const button = useRef<HTMLButtonElement>(null);
  const asking = useRef<{ abort: () => void }>(undefined);
  const [correcting, setCorrecting] = useState(false);
  const [taking, setTaking] = useState(false);
  const isOpen = round.state === "open";
  const narrow = useNarrow();
  const filter: CauseFilter = {
    list: search.get("list") ?? "",
    group: search.get("group") ?? "",
    kind: search.get("kind") ?? "",
    source: search.get("source") ?? "",
  };
  const setFilter = (name: string, value: string): void =>
    setSearch(
      (before) => {
        before.delete("cause");
        if (value === "") before.delete(name);
        else before.set(name, value);
        return before;
      },
      { replace: true },
    );
  const isFiltered = FILTERS.some((name) => filter[name] !== "");
  const shown = isFiltered ? round.causes.filter((cause) => passes(cause, filter)) : round.causes;
  const held = shown.filter(({ decision }) => decision === "held");
  const isByClass = round.classes.length > 0;
  const groups = groupCauses(shown, isByClass);
  const visible = groups.flatMap((group) =>
    group.classes === undefined
      ? group.causes
      : group.classes.flatMap(({ name, causes }) =>
          opened.has(`${group.key} ${name}`) ? causes : [],
        ),
  );
  const asked = search.get("cause");
  const chosen = shown.find(({ position }) => String(position) === asked) ?? visible[0];
  // A narrow screen has room for one of the two: the list, or what was chosen from it.
  const showsDetail = !narrow || (asked !== null && chosen !== undefined);
  const showsList = !narrow || !showsDetail;
  const at = visible.findIndex((cause) => cause === chosen);
  const { data: page } = useCauseQuery(
    { round: round.number, position: chosen?.position ?? 0, version: round.version },
    { skip: chosen === undefined },
  );
  const nowRow =
    page?.position === chosen?.position
      ? page?.evidence.find(({ when }) => when === "now")
      : undefined;
  const choose = (cause: CauseLine | undefined): void => {
    if (cause === undefined) return;
    setSearch(
      (before) => {
        before.set("cause", String(cause.position));
        return before;
      },
      { replace: true },
    );
    document.getElementById(`cause-${cause.position}`)?.scrollIntoView({ block: "nearest" });
  };
  const put = (causes: readonly CauseLine[], decision: "accepted" | "held"): void => {
    if (isOpen)
      void decide({
        round: round.number,
        causes: causes.map(({ position }) => position),
        decision,
      });
  };
  const decideAndGo = (decision: "accepted" | "held"): void => {
    if (chosen !== undefined) {
      put([chosen], decision);
      choose(visible[at + 1]);
    }
  };
  useKeys({
    j: () => choose(visible[Math.min(at + 1, visible.length - 1)]),
    k: () => choose(visible[Math.max(at - 1, 0)]),
    a: () => decideAndGo("accepted"),
    h: () => decideAndGo("held"),
    s: () => button.current?.focus(),
    c: () => {
      if (isOpen && nowRow !== undefined) setCorrecting(true);
    },
    o: () => {
      const next =
        chosen === undefined
          ? groups
              .flatMap(({ key, classes }) => (classes ?? []).map(({ name }) => `${key} ${name}`))
              .find((key) => !opened.has(key))
          : `${groupKey(chosen.kind, isByClass)} ${chosen.group}`;
      if (next !== undefined)
        setOpened(
          opened.has(next)
            ? new Set([...opened].filter((key) => key !== next))
            : new Set([...opened, next]),
        );
    },
  });
  const unpassed = stillToPass(round.guards, typed);
  const run = async (): Promise<void> => {
    const request = step({
      round: round.number,
      version: round.version,
      passed: Object.fromEntries(round.guards.map(({ id }) => [id, Number(typed[id])])),
    });
    asking.current = request;
    const answer = await request;
    if (answer.data === undefined) return;
    const { lists, joins, leaves, next } = answer.data;
    onDone(
      t("changes.listsBroughtInStepAddresses", {
        lists,
        joins,
        leaves,
        isNext: String(next === null),
      }),
    );
  };
  const { totals } = round;
  const from = round.sources
    .map(({ name, readAt }) => t("changes.imported", { name, when: moment(readAt, me.timeZone) }))
    .join("; ");
  return (
    <div className="flex flex-col lg:min-h-0 lg:flex-1">
      <RoundHead isOpen={isOpen} round={round} from={from} me={me} setTaking={setTaking} />
      {done !== undefined && <Done sentence={done} />}
      {round.causes.length > 1 && (
        <div className="mb-2.5">
          <Filters round={round} filter={filter} onFilter={setFilter} shown={shown.length} />
        </div>
      )}
      {isOpen && held.length > 0 && (
        <p className="mb-2.5 flex flex-wrap items-center gap-2.5 text-[13px]">
          <span>{t("changes.changesOnHoldUntilSomebody", { held: held.length })}</span>
          <Button
            className="min-h-[26px]! px-2!"
            disabled={deciding.isLoading}
            onClick={() => put(held, "accepted")}
          >
            {t("changes.acceptHeld", { held: held.length })}
          </Button>
        </p>
      )}
      {round.leftAlone.length > 0 && <LeftAlone round={round} />}
      {isOpen && (
        <Guards
          guards={round.guards}
          typed={typed}
          onType={(id, value) => setTyped({ ...typed, [id]: value })}
        />
      )}
      <div className="grid gap-3.5 md:grid-cols-[minmax(280px,430px)_minmax(0,1fr)] lg:min-h-[320px] lg:flex-1">
        {showsList && (
          <CauseList
            groups={groups}
            joining={isFiltered ? [] : round.classes}
            opened={opened}
            onOpen={setOpened}
            chosen={chosen?.position}
            decidable={isOpen}
            onChoose={choose}
            onDecide={put}
          />
        )}
        {showsDetail && (
          <Panel scrolls={t("changes.selectedChange")} className="min-w-0">
            {narrow && (
              <div className="px-3 pt-2">
                <Button look="quiet" onClick={() => setFilter("cause", "")}>
                  {t("changes.allChanges")}
                </Button>
              </div>
            )}
            {chosen === undefined ? (
              <Empty
                title={
                  shown.length === 0
                    ? t("changes.nothingMatchesYourFilters")
                    : t("changes.chooseAChange")
                }
              >
                <p>
                  {shown.length === 0
                    ? t("changes.showAllChangesAgainAbove")
                    : t("changes.openAClassOnThe")}
                </p>
              </Empty>
            ) : (
              <CauseDetail
                round={round.number}
                version={round.version}
                cause={chosen}
                decidable={isOpen}
                onDecide={decideAndGo}
                onCorrect={() => setCorrecting(true)}
              />
            )}
          </Panel>
        )}
      </div>
      {(deciding.error !== undefined || stepping.error !== undefined) && (
        <div className="mt-2">
          <FaultLine error={stepping.error ?? deciding.error} />
        </div>
      )}
      <div className="sticky -bottom-4 z-20 -mx-3 -mb-4 mt-3 flex flex-wrap items-center gap-x-5 gap-y-2 border-t border-hair bg-panel px-3 py-2.5 md:-mx-5 md:px-5">
        <span>
          <Rich
            id="changes.acceptedOnHold"
            changes={
              <b className="font-[650]">
                {t("changes.changes3", { count: totals.accepted + totals.held })}
              </b>
            }
            accepted={totals.accepted}
            held={totals.held}
          />
        </span>
        <span className="flex gap-3">
          <span>
            <Rich
              id="changes.join"
              plus={<Plus count={totals.joins} />}
              isJoins={String(totals.joins > 0)}
            />
          </span>
          <span>
            <Rich
              id="changes.leave"
              minus={<Minus count={totals.leaves} />}
              isLeaves={String(totals.leaves > 0)}
            />
          </span>
          <span>
            <Tilde count={totals.replaced} />
            {totals.replaced > 0 && t("changes.replaced", { replaced: totals.replaced })}
          </span>
        </span>
        {isOpen && stepping.isLoading && (
          <div className="w-full md:ml-auto md:w-96">
            <Progress what={t("changes.bringingInStep")} onStop={() => asking.current?.abort()} />
          </div>
        )}
        {isOpen && !stepping.isLoading && (
          <span className="flex flex-wrap items-center gap-3 max-md:w-full md:ml-auto">
            {unpassed.length > 0 && totals.accepted > 0 && (
              <span className="text-marigold-ink">
                {t("changes.safetyChecksToConfirmAbove", { unpassed: unpassed.length })}
              </span>
            )}
            <Button
              ref={button}
              look="go"
              disabled={deciding.isLoading || totals.accepted === 0 || unpassed.length > 0}
              onClick={() => void run()}
            >
              {totals.accepted === 0
                ? t("changes.allChangesAreOnHold")
                : totals.lists === 0
                  ? t("changes.acceptChanges", { accepted: totals.accepted })
                  : t("changes.bringListsInStep", { lists: totals.lists })}
            </Button>
          </span>
        )}
      </div>
      {correcting && chosen !== undefined && nowRow !== undefined && page !== undefined && (
        <CorrectDialog
          sentence={page.sentence}
          row={nowRow}
          onClose={() => setCorrecting(false)}
          onDone={(sentence) => {
            setCorrecting(false);
            onDone(sentence);
          }}
        />
      )}
      {taking && (
        <TakeBackDialog
          number={round.number}
          onClose={() => setTaking(false)}
          onDone={(sentence) => {
            setTaking(false);
            onDone(sentence);
          }}
        />
      )}
    </div>
  );
}

function LeftAlone({ round }: { round: RoundPage }) {
  return (
    <details className="mb-2.5 rounded-md border border-marigold-line bg-marigold-soft px-3 py-1.5 text-[13px]">
      <summary className="cursor-pointer">
        <Warn>{t("changes.thingsLeftAsTheyAre", { leftAlone: round.leftAlone.length })}</Warn>
      </summary>
      <ul>
        {round.leftAlone.map((sentence) => (
          <li key={sentence} className="py-0.5">
            {sentence}
          </li>
        ))}
      </ul>
    </details>
  );
}
