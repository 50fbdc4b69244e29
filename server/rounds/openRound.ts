import { and, eq, sql } from "drizzle-orm";
import { said, say } from "@amigo/language/say";
import type { Facts } from "@amigo/core/facts/fact";
import { sharedIndex, type FactIndex } from "@amigo/core/facts/indexFacts";
import { packFacts } from "@amigo/core/facts/packFacts";
import { deriveFacts } from "@amigo/core/identity/deriveFacts";
import type { Question } from "@amigo/core/identity/question";
import { dayIn } from "@amigo/core/schedule/dayIn";
import { carryByHand } from "@amigo/core/step/carryByHand";
import type { Cause } from "@amigo/core/step/cause";
import { findCauses } from "@amigo/core/step/findCauses";
import { planRound, type Change } from "@amigo/core/step/planRound";
import type { Queries } from "../db/connect";
import { copyInto, type CopyValue } from "../db/copyInto";
import { notify } from "../events/events";
import { loadByHand, loadFacts } from "../facts/queries";
import { currentRecords, latestReadings, type FreshReading } from "../readings/queries";
import { countByList, guardStep, sourcesBefore } from "./guardStep";
import { t } from "../texts/t";
import type { RowRecord } from "@amigo/core/sheet/rowRecord";
import { house, season } from "../db/schema/house";
import { question } from "../db/schema/people";
import { type RoundTotals, round, cause, roundList } from "../db/schema/rounds";

/** Rounds are opened, decided and carried out one at a time; this lock orders them in the database. */
const ROUND_LOCK = 7_204_118;

export async function lockRounds(tx: Queries): Promise<void> {
  await tx.execute(sql`select pg_advisory_xact_lock(${ROUND_LOCK})`);
}

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
  const [current] = await tx.select().from(season).where(eq(season.current, true));
  const [settings] = await tx.select().from(house);
  if (current === undefined || settings === undefined)
    return { number: null, causes: 0, met: undefined };
  const readings = await latestReadings(tx, current.id);
  const today = dayIn(settings.timeZone, new Date());
  const derivedFrom = fingerprint(readings, current.version, today);
  const [open] = await tx
    .select({ number: round.number, version: round.version, totals: round.totals })
    .from(round)
    .where(eq(round.state, "open"));
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
  await tx.update(season).set({ derivedFrom }).where(eq(season.id, current.id));
  const met = fresh === undefined ? undefined : countMet(fresh, derived.students, stand);
  if (causes.length === 0) {
    if (open !== undefined)
      await tx
        .update(round)
        .set({ state: "dropped", closedAt: sql`clock_timestamp()` })
        .where(eq(round.number, open.number));
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
    await tx.delete(cause).where(eq(cause.round, number));
    await tx
      .update(round)
      .set({
        version: open.version + 1,
        readings: readings.map(({ id }) => id),
        openedAt: sql`now()`,
      })
      .where(eq(round.number, number));
  } else {
    const [made] = await tx
      .insert(round)
      .values({
        seasonId: current.id,
        state: "open",
        totals: emptyTotals,
        guards: [],
        readings: readings.map(({ id }) => id),
      })
      .returning({ number: round.number });
    if (made === undefined) throw new Error("the round was not made");
    number = made.number;
  }
  tell(t("rounds.workingOutWhatEachList"), 0.65);
  const index = sharedIndex(proposed);
  const rows = causes.map((found, position): CauseRow => ({
    ...found,
    position,
    unreachable: found.kind === "joined" && isUnreachable(found.subject, index),
    decision: decisions.get(found.key)?.decision ?? "accepted",
    history: decisions.get(found.key)?.history ?? "",
  }));
  const plan = await countRound(tx, { number, seasonId: current.id, stand, rows });
  tell(t("rounds.writingTheRoundDown"), 0.8);
  await storeCauses(tx, number, rows, plan);
  await notify(tx, "rounds", "board");
  return { number, causes: causes.length, met };
}

/**
 * Says that one change of facts, just made, was already taken into account: what was derived before it still goes
 * with what is there. Where something else had changed as well, or the day, the next look derives anew.
 */
export async function keepDerived(tx: Queries, seasonId: number): Promise<void> {
  await tx
    .update(season)
    .set({ derivedFrom: sql`${season.version} || substring(${season.derivedFrom} from ' .*$')` })
    .where(
      and(
        eq(season.id, seasonId),
        sql`split_part(${season.derivedFrom}, ' ', 1) = (${season.version} - 1)::text`,
      ),
    );
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
  await tx.delete(question).where(eq(question.seasonId, seasonId));
  for (let at = 0; at < questions.length; at += 500)
    await tx
      .insert(question)
      .values(
        questions
          .slice(at, at + 500)
          .map((own, index) => ({ seasonId, position: at + index, ...said(own) })),
      );
}

/**
 * What was decided of causes before: in the open round, else what past rounds left held, or what was taken back, and nobody
 * has accepted since. Rounds count in the order in which they closed, for one that was opened later can close earlier.
 */
async function earlierDecisions(tx: Queries, seasonId: number): Promise<Decisions> {
  const decisions = new Map<string, { decision: Decision; history: string }>();
  const { rows } = await tx.execute<{
    key: string;
    history: string;
    round: number;
    by: string;
    undone: boolean;
  }>(sql`
    with done as (
      select round.number, round.takes_back, round.closed_at, coalesce(account.name, round.closed_by_name) as by
      from round left join account on account.id = round.closed_by
      where round.state = 'done' and round.season_id = ${seasonId}),
    held as (
      select cause.key, cause.history, done.number, done.by, done.closed_at, false as undone
      from cause join done on done.number = cause.round where cause.decision = 'held'
      union all
      select cause.key, cause.history, done.number, done.by, done.closed_at, true
      from done join cause on cause.round = done.takes_back and cause.decision = 'accepted')
    select held.key, held.history, held.number as round, held.by, held.undone
    from held
    where not exists (
      select 1 from cause join done on done.number = cause.round
      where cause.key = held.key and cause.decision = 'accepted' and done.takes_back is null
        and (done.closed_at, done.number) > (held.closed_at, held.number))
    order by held.closed_at, held.number`);
  for (const { key, history, round: number, by, undone } of rows) {
    const was = t("rounds.inRound", { undone: undone, number, by });
    decisions.set(key, {
      decision: "held",
      history: [history, was].filter((part) => part !== "").join(" "),
    });
  }
  const open = await tx
    .select({ key: cause.key, decision: cause.decision, history: cause.history })
    .from(cause)
    .innerJoin(round, eq(round.number, cause.round))
    .where(eq(round.state, "open"));
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
      const own = changes.get(row.key) ?? [];
      const { sources, joins, leaves, replaced, lists } = describeCause(row, own);
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
        JSON.stringify(own),
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
export function describeCause(own: Cause, changes: readonly Change[]) {
  return {
    sources: sourcesOf(own),
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

function isUnreachable(student: string, index: FactIndex): boolean {
  return ![...(index.people.get(student)?.ties.keys() ?? [])].some(
    (guardian) => (index.people.get(guardian)?.addresses.size ?? 0) > 0,
  );
}

/** Counts the open round again after other decisions, and writes down what each cause does by now. */
export async function recountRound(
  tx: Queries,
  open: { number: number; seasonId: number },
): Promise<void> {
  const rows = await tx
    .select({
      position: cause.position,
      key: cause.key,
      kind: cause.kind,
      subject: cause.subject,
      title: cause.title,
      detail: cause.detail,
      sentence: cause.sentence,
      group: cause.group,
      adds: cause.adds,
      removes: cause.removes,
      decision: cause.decision,
    })
    .from(cause)
    .where(eq(cause.round, open.number))
    .orderBy(cause.position);
  const stand = await loadFacts(tx, open.seasonId);
  const changes = await countRound(tx, { ...open, stand, rows });
  const updates = rows.map(({ position, key }) => {
    const own = changes.get(key) ?? [];
    return {
      position,
      changes: JSON.stringify(own),
      joins: countKind(own, "joins"),
      leaves: countKind(own, "leaves"),
      replaced: countKind(own, "replaced"),
      lists: listsOf(own).join("\n"),
    };
  });
  await tx.execute(sql`
    update cause set changes = new.changes, joins = new.joins, leaves = new.leaves, replaced = new.replaced, lists = coalesce(string_to_array(nullif(new.lists, ''), chr(10)), '{}')
    from json_to_recordset(${JSON.stringify(updates)}::json) as new(position int, changes text, joins int, leaves int, replaced int, lists text)
    where cause.round = ${open.number} and cause.position = new.position and cause.changes <> new.changes`);
}

/** Counts the open round of a season again, where there is one, after a change by hand that was taken into account already. */
export async function recountOpen(tx: Queries, seasonId: number): Promise<void> {
  const [open] = await tx
    .select({ number: round.number, seasonId: round.seasonId, version: round.version })
    .from(round)
    .where(and(eq(round.state, "open"), eq(round.seasonId, seasonId)));
  if (open !== undefined) {
    await tx
      .update(round)
      .set({ version: open.version + 1 })
      .where(eq(round.number, open.number));
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
  await tx.delete(roundList).where(eq(roundList.round, number));
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
