import { eq } from "drizzle-orm";
import { say } from "@amigo/language/say";
import type { Facts } from "@amigo/core/facts/fact";
import { sharedIndex, type FactIndex } from "@amigo/core/facts/indexFacts";
import { isReached, type Stopped } from "@amigo/core/reach/reach";
import { packFacts } from "@amigo/core/facts/packFacts";
import { deriveFacts } from "@amigo/core/identity/deriveFacts";
import type { Question } from "@amigo/core/identity/question";
import { dayIn } from "@amigo/core/schedule/dayIn";
import { carryByHand } from "@amigo/core/step/carryByHand";
import type { Cause } from "@amigo/core/step/cause";
import { findCauses } from "@amigo/core/step/findCauses";
import { planRound, type Change } from "@amigo/core/step/planRound";
import type { Queries } from "../db/connect";
import { loadStopped } from "../membership/queries";
import { copyInto, type CopyValue } from "../db/copyInto";
import { notify } from "../events/events";
import { loadByHand, loadFacts } from "../facts/queries";
import { currentRecords, latestReadings, type FreshReading } from "../facts/readingQueries";
import { countByList, guardStep, sourcesBefore } from "./guardStep";
import { t } from "../texts/t";
import type { RowRecord } from "@amigo/core/sheet/rowRecord";
import { type RoundTotals, round } from "../db/schema/rounds";
import { loadHouse, loadCurrentSeason } from "../db/houseQueries";
import {
  findOpenRound,
  storeDerivedFrom,
  dropRound,
  renewOpenRound,
  storeOpenRound,
  removeQuestions,
  storeQuestionRows,
  findOpenOf,
  storeNextVersion,
  removeRoundLists,
  keepDerived,
} from "./queries";
import {
  removeCauses,
  listDecidedBefore,
  listDecidedNow,
  listCauses,
  storeListUpdates,
} from "./causeQueries";

type Decision = "accepted" | "held";

/** What a round decides and has decided before, by the key of each cause. */
type Decisions = ReadonlyMap<string, { decision: Decision; history: string }>;

/** What a round was opened with. */
export interface OpenedRound {
  /** The number of the open round, or null when everything is in step. */
  number: number | null;
  causes: number;
  /** Students of the fresh reading whom the house knew already, and whom it did not; undefined where nothing was derived anew. */
  met: { known: number; fresh: number } | undefined;
}

/** Hears how far a long task is, in words and as a share from 0 to 1. */
export type OnProgress = (step: string, share: number) => void;

/**
 * Compares what the sources say now with the facts as they stand, and opens a round with the causes, or brings
 * the open one up to date. Without any cause the open round is dropped. Where neither a reading nor anything else
 * has changed since the last time, nothing is derived again. Call it in a transaction that holds the lock.
 *
 * @param fresh the reading that was just stored, whose records are at hand
 */
export async function openRound(
  tx: Queries,
  fresh?: FreshReading,
  tell: OnProgress = () => undefined,
): Promise<OpenedRound> {
  const current = await loadCurrentSeason(tx);
  const settings = await loadHouse(tx);
  if (current === undefined || settings === undefined)
    return { number: null, causes: 0, met: undefined };
  const readings = await latestReadings(tx, current.id);
  const today = dayIn(settings.timeZone, new Date());
  const derivedFrom = fingerprint(readings, current.version, today);
  const open = await findOpenRound(tx);
  if (current.derivedFrom === derivedFrom)
    return {
      number: open?.number ?? null,
      causes: open === undefined ? 0 : open.totals.accepted + open.totals.held,
      met: undefined,
    };

  tell(t("rounds.fetchingWhatStands"), 0.3);
  const stand = await loadFacts(tx, current.id);
  const sources = await currentRecords(tx, readings, fresh);
  tell(t("rounds.knowingThePeopleBehindThe"), 0.4);
  const derived = deriveFacts(sources, stand, {
    studentAddress: settings.studentAddress,
    ...(await loadByHand(tx, current.id)),
  });
  const proposed = carryByHand(stand, derived.facts, today);
  tell(t("rounds.findingWhatHasChanged"), 0.55);
  const causes = sources.length === 0 ? [] : findCauses(stand, proposed);
  await storeQuestions(tx, current.id, derived.questions);
  await storeDerivedFrom(tx, derivedFrom, current.id);
  const met = fresh === undefined ? undefined : countMet(fresh, derived.students, stand);
  if (causes.length === 0) {
    if (open !== undefined) await dropRound(tx, open.number);
    await notify(tx, "rounds", "board");
    return { number: null, causes: 0, met };
  }

  const decisions = await earlierDecisions(tx, current.id);
  const emptyTotals: RoundTotals = {
    joins: 0,
    leaves: 0,
    replaced: 0,
    lists: 0,
    accepted: 0,
    held: 0,
  };
  let number: number;
  if (open !== undefined) {
    number = open.number;
    await removeCauses(tx, number);
    await renewOpenRound(tx, open.version, readings, number);
  } else {
    const made = await storeOpenRound(tx, current.id, emptyTotals, readings);
    if (made === undefined) throw new Error("the round was not made");
    number = made.number;
  }
  tell(t("rounds.workingOutWhatEachList"), 0.65);
  const index = sharedIndex(proposed);
  const stopped = await loadStopped(tx);
  const rows = causes.map((found, position): CauseRow => ({
    ...found,
    position,
    unreachable: found.kind === "joined" && !isReachedIn(found.subject, index, stopped),
    decision: decisions.get(found.key)?.decision ?? "accepted",
    history: decisions.get(found.key)?.history ?? "",
  }));
  const plan = await countRound(tx, { number, seasonId: current.id, stand, rows });
  tell(t("rounds.writingTheRoundDown"), 0.8);
  await storeCauses(tx, number, rows, plan);
  await notify(tx, "rounds", "board");
  return { number, causes: causes.length, met };
}

function fingerprint(readings: readonly { id: string }[], version: number, today: string): string {
  return [version, today, ...readings.map(({ id }) => id)].join(" ");
}

function countMet(
  fresh: FreshReading,
  students: ReadonlyMap<RowRecord, string>,
  stand: Facts,
): { known: number; fresh: number } {
  const ids = new Set(fresh.records.flatMap((record) => students.get(record) ?? []));
  const known = [...ids].filter((id) => stand.has(`${id}|student|`)).length;
  return { known, fresh: ids.size - known };
}

async function storeQuestions(
  tx: Queries,
  seasonId: number,
  questions: readonly Question[],
): Promise<void> {
  await removeQuestions(tx, seasonId);
  for (let at = 0; at < questions.length; at += 500)
    await storeQuestionRows(tx, questions, at, seasonId);
}

/**
 * What was decided of causes before: in the open round, else what past rounds left held, or what was taken back, and nobody
 * has accepted since. Rounds count in the order in which they closed, for one that was opened later can close earlier.
 */
async function earlierDecisions(tx: Queries, seasonId: number): Promise<Decisions> {
  const decisions = new Map<string, { decision: Decision; history: string }>();
  const { rows } = await listDecidedBefore(tx, seasonId);
  for (const { key, history, round: number, by, undone } of rows) {
    const was = t("rounds.inRound", { undone: undone, number, by });
    decisions.set(key, {
      decision: "held",
      history: [history, was].filter((part) => part !== "").join(" "),
    });
  }
  const open = await listDecidedNow(tx);
  for (const { key, decision, history } of open) decisions.set(key, { decision, history });
  return decisions;
}

interface CauseRow extends Cause {
  position: number;
  unreachable: boolean;
  decision: Decision;
  history: string;
}

async function storeCauses(
  tx: Queries,
  number: number,
  rows: readonly CauseRow[],
  changes: ReadonlyMap<string, Change[]>,
): Promise<void> {
  function* values(): Generator<CopyValue[]> {
    for (const row of rows) {
      const change = changes.get(row.key) ?? [];
      const { sources, joins, leaves, replaced, lists } = describeCause(row, change);
      yield [
        number,
        row.position,
        row.key,
        row.kind,
        row.subject,
        say(row.title),
        say(row.detail),
        say(row.sentence),
        row.group,
        packFacts(row.adds),
        packFacts(row.removes),
        sources,
        JSON.stringify(change),
        joins,
        leaves,
        replaced,
        lists,
        row.unreachable,
        row.decision,
        row.history,
      ];
    }
  }
  await copyInto(
    tx,
    `cause (round, position, key, kind, subject, title, detail, sentence, "group", adds, removes, sources, changes, joins, leaves, replaced, lists, unreachable, decision, history)`,
    values(),
  );
}

function countKind(changes: readonly Change[], kind: Change["kind"]): number {
  return changes.reduce((sum, change) => (change.kind === kind ? sum + 1 : sum), 0);
}

function listsOf(changes: readonly Change[]): string[] {
  return [...new Set(changes.map(({ list }) => list))];
}

/** What goes with a cause in its row: its sources, and its changes counted. */
export function describeCause(cause: Cause, changes: readonly Change[]) {
  return {
    sources: sourcesOf(cause),
    joins: countKind(changes, "joins"),
    leaves: countKind(changes, "leaves"),
    replaced: countKind(changes, "replaced"),
    lists: listsOf(changes),
  };
}

function sourcesOf({ adds, removes }: Pick<Cause, "adds" | "removes">): string[] {
  const sources = new Set<string>();
  for (const { origin } of adds) if (origin.from === "row") sources.add(origin.source);
  for (const { origin } of removes) if (origin.from === "row") sources.add(origin.source);
  return [...sources];
}

function isReachedIn(id: string, index: FactIndex, stopped: Stopped): boolean {
  const student = index.people.get(id);
  return student !== undefined && isReached(student, index, stopped);
}

/** Counts the open round again after other decisions, and writes down what each cause does by now. */
export async function recountRound(
  tx: Queries,
  open: { number: number; seasonId: number },
): Promise<void> {
  const rows = await listCauses(tx, open.number);
  const stand = await loadFacts(tx, open.seasonId);
  const changes = await countRound(tx, { ...open, stand, rows });
  const updates = rows.map(({ position, key }) => {
    const change = changes.get(key) ?? [];
    return {
      position,
      changes: JSON.stringify(change),
      joins: countKind(change, "joins"),
      leaves: countKind(change, "leaves"),
      replaced: countKind(change, "replaced"),
      lists: listsOf(change).join("\n"),
    };
  });
  await storeListUpdates(tx, updates, open.number);
}

/** Counts the open round of a season again, where there is one, after a change by hand that was taken into account already. */
export async function recountOpen(tx: Queries, seasonId: number): Promise<void> {
  const open = await findOpenOf(tx, seasonId);
  if (open !== undefined) {
    await storeNextVersion(tx, open.version, open.number);
    await recountRound(tx, open);
  }
  await keepDerived(tx, seasonId);
}

/**
 * Works out what every cause of a round does, as it is decided now: the changes of each, the totals of what is
 * accepted, the difference of every list, and the guards that stand.
 */
async function countRound(
  tx: Queries,
  {
    number,
    seasonId,
    stand,
    rows,
  }: {
    number: number;
    seasonId: number;
    stand: Facts;
    rows: readonly (Cause & { decision: Decision })[];
  },
): Promise<ReadonlyMap<string, Change[]>> {
  const accepted = rows.filter(({ decision }) => decision === "accepted");
  const ordered = [...accepted, ...rows.filter(({ decision }) => decision === "held")];
  const standing = sharedIndex(stand);
  const { changes, index: after } = planRound(stand, ordered);
  const all = countByList(rows.flatMap(({ key }) => changes.get(key) ?? []));
  const acceptedChanges = accepted.flatMap(({ key }) => changes.get(key) ?? []);
  const byList = countByList(acceptedChanges);
  await removeRoundLists(tx, number);
  await copyInto(
    tx,
    "round_list (round, list, joins, leaves)",
    [...all].map(([key, { joins, leaves }]): CopyValue[] => [number, key, joins, leaves]),
  );
  const of = (kind: Change["kind"]): number =>
    acceptedChanges.filter((change) => change.kind === kind).length;
  const totals: RoundTotals = {
    joins: of("joins"),
    leaves: of("leaves"),
    replaced: of("replaced"),
    lists: byList.size,
    accepted: accepted.length,
    held: rows.length - accepted.length,
  };
  await tx
    .update(round)
    .set({
      totals,
      guards: await guardStep(
        tx,
        seasonId,
        {
          changes: acceptedChanges,
          causes: accepted,
          stand,
          standing,
          all: after,
          after: accepted.length === rows.length ? after : undefined,
        },
        await sourcesBefore(tx, seasonId),
      ),
    })
    .where(eq(round.number, number));
  return changes;
}
