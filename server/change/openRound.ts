import { keyOf, type Facts } from "@amigo/core/facts/fact";
import { sharedIndex } from "@amigo/core/facts/indexFacts";
import type { FactIndex } from "@amigo/core/facts/factIndex";
import { isReached, type Stopped } from "@amigo/core/reach/reach";
import { deriveFacts } from "@amigo/core/identity/deriveFacts";
import type { Question } from "@amigo/core/identity/question";
import { dayIn } from "@amigo/core/schedule/dayIn";
import { carryByHand } from "@amigo/core/step/carryByHand";
import { findCauses } from "@amigo/core/step/findCauses";
import { countRound } from "./countRound";
import { storeCauses, type CauseRow, type Decision } from "./storeCauses";
import type { Queries } from "../db/connect";
import { loadStopped } from "../membership/addressQueries";
import { notify } from "../events/events";
import { loadByHand } from "../facts/queries";
import { standingFacts } from "../facts/standing";
import { currentRecords, latestReadings, type FreshReading } from "../facts/readingQueries";
import { inStaffLanguage } from "../texts/inLanguage";
import { t } from "../texts/t";
import type { RowRecord } from "@amigo/core/sheet/rowRecord";
import type { RoundTotals } from "../db/schema/rounds";
import { loadHouse, loadCurrentSeason } from "../db/houseQueries";
import {
  findOpenRound,
  storeDerivedFrom,
  dropRound,
  renewOpenRound,
  storeOpenRound,
  removeQuestions,
  storeQuestionRows,
} from "./roundQueries";
import { removeCauses, listDecidedBefore, listDecidedNow } from "./causeQueries";

/** What a round decides and has decided before, by the key of each cause. */
type Decisions = ReadonlyMap<string, { decision: Decision; history: string }>;

/** What a round was opened with. */
export interface OpenedRound {
  /** The number of the open round, or null when everything is in step. */
  number: number | null;
  causes: number;
  /** Students of the fresh reading whom the house knew already, and whom it did not; undefined where nothing was derived again. */
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
  const stand = await standingFacts(tx, current.id);
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
  const known = [...ids].filter((id) => stand.has(keyOf(id, "student"))).length;
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
    const was = inStaffLanguage(() => t("rounds.inRound", { undone, number, by }));
    decisions.set(key, {
      decision: "held",
      history: [history, was].filter((part) => part !== "").join(" "),
    });
  }
  const open = await listDecidedNow(tx);
  for (const { key, decision, history } of open) decisions.set(key, { decision, history });
  return decisions;
}

function isReachedIn(id: string, index: FactIndex, stopped: Stopped): boolean {
  const student = index.people.get(id);
  return student !== undefined && isReached(student, index, stopped);
}
