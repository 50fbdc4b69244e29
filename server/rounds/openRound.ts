import { and, desc, eq, sql } from "drizzle-orm";
import { indexFacts, type FactIndex } from "@amigo/core/facts/indexFacts";
import { deriveFacts } from "@amigo/core/identity/deriveFacts";
import type { Facts } from "@amigo/core/facts/fact";
import type { Cause } from "@amigo/core/step/cause";
import { findCauses } from "@amigo/core/step/findCauses";
import { standingGuards } from "@amigo/core/step/guards/allGuards";
import { planRound, type Change } from "@amigo/core/step/planRound";
import type { Queries } from "../db/connect";
import { account, cause, house, membership, round, roundList, season, type RoundTotals } from "../db/schema";
import { notify } from "../events/events";
import { loadFacts } from "../facts/queries";
import { currentRecords, latestReadings, readingBefore } from "../readings/queries";
import { existingLists, listsToFill, loadRecipes } from "../membership/recipeLists";

/** Rounds are opened, decided and carried out one at a time; this lock orders them in the database. */
const ROUND_LOCK = 7_204_118;

export async function lockRounds(tx: Queries): Promise<void> {
  await tx.execute(sql`select pg_advisory_xact_lock(${ROUND_LOCK})`);
}

type Decision = "accepted" | "held";

/** What a round decides and has decided before, by the key of each cause. */
type Decisions = ReadonlyMap<string, { decision: Decision; history: string }>;

/**
 * Compares what the sources say now with the facts as they stand, and opens a round with the
 * causes, or brings the open one up to date. Without any cause the open round is dropped.
 * Call it in a transaction that holds the lock.
 *
 * @returns the number of the open round, or null when everything is in step
 */
export async function openRound(tx: Queries): Promise<{ number: number | null; causes: number }> {
  const [current] = await tx.select({ id: season.id }).from(season).where(eq(season.current, true));
  const [settings] = await tx.select({ studentAddress: house.studentAddress }).from(house);
  if (current === undefined || settings === undefined) return { number: null, causes: 0 };
  const stand = await loadFacts(tx, current.id);
  const { sources, readings } = await currentRecords(tx, current.id);
  const proposed = deriveFacts(sources, stand, settings);
  const causes = sources.length === 0 ? [] : findCauses(stand, proposed);
  const decisions = await earlierDecisions(tx);
  const [open] = await tx.select({ number: round.number, version: round.version }).from(round).where(eq(round.state, "open"));
  if (causes.length === 0) {
    if (open !== undefined) await tx.update(round).set({ state: "dropped", closedAt: sql`now()` }).where(eq(round.number, open.number));
    await notify(tx, "rounds", "board");
    return { number: null, causes: 0 };
  }

  const emptyTotals: RoundTotals = { joins: 0, leaves: 0, replaced: 0, lists: 0, accepted: 0, held: 0 };
  let number: number;
  if (open !== undefined) {
    number = open.number;
    await tx.delete(cause).where(eq(cause.round, number));
    await tx.update(round).set({ version: open.version + 1, readings: readings.map(({ id }) => id), openedAt: sql`now()` }).where(eq(round.number, number));
  } else {
    const [made] = await tx.insert(round).values({ seasonId: current.id, state: "open", totals: emptyTotals, guards: [], readings: readings.map(({ id }) => id) }).returning({ number: round.number });
    if (made === undefined) throw new Error("the round was not made");
    number = made.number;
  }
  await storeCauses(tx, number, causes, decisions, indexFacts(proposed));
  await countRound(tx, { number, seasonId: current.id, stand, proposed });
  await notify(tx, "rounds", "board");
  return { number, causes: causes.length };
}

/** What was decided in the open round, or what the last round that was carried out left held. */
async function earlierDecisions(tx: Queries): Promise<Decisions> {
  const [last] = await tx.select({ number: round.number, state: round.state, by: account.name }).from(round).leftJoin(account, eq(account.id, round.closedBy))
    .where(sql`${round.state} <> 'dropped'`).orderBy(desc(round.number)).limit(1);
  if (last === undefined) return new Map();
  const held = await tx.select({ key: cause.key, history: cause.history }).from(cause).where(and(eq(cause.round, last.number), eq(cause.decision, "held")));
  return new Map(held.map(({ key, history }) => {
    const again = last.state === "open" ? history : [history, `Held in round ${last.number}${last.by === null ? "" : ` by ${last.by}`}.`].filter((part) => part !== "").join(" ");
    return [key, { decision: "held", history: again }];
  }));
}

async function storeCauses(tx: Queries, number: number, causes: readonly Cause[], decisions: Decisions, index: FactIndex): Promise<void> {
  const rows = causes.map((found, position) => ({
    round: number, position, key: found.key, kind: found.kind, subject: found.subject, title: found.title, detail: found.detail, sentence: found.sentence, group: found.group,
    adds: found.adds, removes: found.removes, changes: [] as Change[],
    unreachable: found.kind === "joined" && isUnreachable(found.subject, index),
    decision: decisions.get(found.key)?.decision ?? ("accepted" as const), history: decisions.get(found.key)?.history ?? "",
  }));
  for (let at = 0; at < rows.length; at += 2000) await tx.insert(cause).values(rows.slice(at, at + 2000));
}

function isUnreachable(student: string, index: FactIndex): boolean {
  return ![...(index.people.get(student)?.ties.keys() ?? [])].some((guardian) => (index.people.get(guardian)?.addresses.size ?? 0) > 0);
}

/**
 * Works out what every cause of the open round does, as it is decided now: the changes of each, the
 * totals of what is accepted, the difference of every list, and the guards that stand.
 */
export async function countRound(tx: Queries, { number, seasonId, stand, proposed }: { number: number; seasonId: number; stand: Facts; proposed?: Facts }): Promise<void> {
  const rows = await tx.select({ position: cause.position, key: cause.key, kind: cause.kind, subject: cause.subject, title: cause.title, detail: cause.detail, sentence: cause.sentence, group: cause.group, adds: cause.adds, removes: cause.removes, decision: cause.decision }).from(cause).where(eq(cause.round, number)).orderBy(cause.position);
  const ordered = [...rows.filter(({ decision }) => decision === "accepted"), ...rows.filter(({ decision }) => decision === "held")];
  const cohorts = new Map([...indexFacts(stand).cohorts, ...(proposed === undefined ? rows.flatMap(({ adds }) => adds).flatMap((fact) => (fact.kind === "cohort" ? [[fact.subject, fact.value] as const] : [])) : indexFacts(proposed).cohorts)]);
  const lists = await listsToFill(tx, await loadRecipes(tx), cohorts, seasonId);
  const plan = planRound(stand, ordered, lists);

  const updates = rows.map(({ position, key }) => ({ position, changes: plan.changes.get(key) ?? [] }));
  await tx.execute(sql`
    update cause set changes = new.changes
    from json_to_recordset(${JSON.stringify(updates)}::json) as new(position int, changes jsonb)
    where cause.round = ${number} and cause.position = new.position`);

  const all = countByList(rows.flatMap(({ key }) => plan.changes.get(key) ?? []));
  const acceptedChanges = rows.filter(({ decision }) => decision === "accepted").flatMap(({ key }) => plan.changes.get(key) ?? []);
  const accepted = countByList(acceptedChanges);
  await tx.delete(roundList).where(eq(roundList.round, number));
  if (all.size > 0) await tx.insert(roundList).values([...all].map(([key, counts]) => ({ round: number, list: key, ...counts })));

  const totals: RoundTotals = {
    joins: acceptedChanges.filter(({ kind }) => kind === "joins").length,
    leaves: acceptedChanges.filter(({ kind }) => kind === "leaves").length,
    replaced: acceptedChanges.filter(({ kind }) => kind === "replaced").length,
    lists: accepted.size,
    accepted: rows.filter(({ decision }) => decision === "accepted").length,
    held: rows.filter(({ decision }) => decision === "held").length,
  };
  const guards = standingGuards({ lists: await listsBefore(tx, seasonId, accepted), sources: await sourcesBefore(tx, seasonId) });
  await tx.update(round).set({ totals, guards }).where(eq(round.number, number));
}

function countByList(changes: readonly Change[]): Map<string, { joins: number; leaves: number }> {
  const counts = new Map<string, { joins: number; leaves: number }>();
  for (const { list, kind } of changes) {
    const entry = counts.get(list) ?? { joins: 0, leaves: 0 };
    counts.set(list, entry);
    if (kind !== "leaves") entry.joins++;
    if (kind !== "joins") entry.leaves++;
  }
  return counts;
}

async function listsBefore(tx: Queries, seasonId: number, accepted: ReadonlyMap<string, { joins: number; leaves: number }>) {
  const existing = await existingLists(tx, seasonId);
  const counts = await tx.select({ listId: membership.listId, count: sql<number>`count(*)`.mapWith(Number) }).from(membership).where(sql`${membership.validUntil} is null`).groupBy(membership.listId);
  const byId = new Map(counts.map(({ listId, count }) => [listId, count]));
  return [...accepted].flatMap(([key, change]) => {
    const own = existing.get(key);
    return own === undefined ? [] : [{ key, name: own.title, before: byId.get(own.id) ?? 0, ...change }];
  });
}

/** Row counts of the sources that were read since the last round was carried out. */
async function sourcesBefore(tx: Queries, seasonId: number) {
  const [done] = await tx.select({ readings: round.readings }).from(round).where(eq(round.state, "done")).orderBy(desc(round.number)).limit(1);
  const found = [];
  for (const latest of await latestReadings(tx, seasonId)) {
    if (done?.readings.includes(latest.id) === true) continue;
    const before = await readingBefore(tx, latest.sourceId, latest.number);
    if (before !== undefined) found.push({ name: latest.sourceName, rowsBefore: before.rows, rowsNow: latest.rows });
  }
  return found;
}
