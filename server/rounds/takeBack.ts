import { eq, sql } from "drizzle-orm";
import type { Fact } from "@amigo/core/facts/fact";
import { indexFacts, nameOf } from "@amigo/core/facts/indexFacts";
import { findCauses } from "@amigo/core/step/findCauses";
import type { StandingGuard } from "@amigo/core/step/guards/guard";
import { planRound } from "@amigo/core/step/planRound";
import { takeBack as undo } from "@amigo/core/step/takeBack";
import { counted } from "@amigo/core/text/sentence";
import type { Database, Queries } from "../db/connect";
import { cause, round, roundList, type RoundTotals } from "../db/schema";
import { notify } from "../events/events";
import { factsOfRound, loadFacts } from "../facts/queries";
import { notFound, Refusal } from "../http/fault";
import { record } from "../journal/record";
import { listsToFill, loadRecipes } from "../membership/recipeLists";
import { carryOut, type Actor } from "./carryOut";
import { countByList, guardStep } from "./guardStep";
import { describeCause, lockRounds, openRound } from "./openRound";

/** What taking a round back would do today. */
export interface TakeBackPlan {
  causes: { kind: string; title: string; detail: string; joins: number; leaves: number; replaced: number }[];
  totals: RoundTotals;
  guards: StandingGuard[];
  /** What has changed since and is left alone, in sentences. */
  leftAlone: string[];
}

async function plan(tx: Queries, number: number) {
  const [found] = await tx.select().from(round).where(eq(round.number, number));
  if (found === undefined) throw notFound("round");
  if (found.state !== "done") throw new Refusal(409, "round/not-done", `Round ${number} was not carried out, so there is nothing to take back.`);
  const [later] = await tx.select({ number: round.number }).from(round).where(eq(round.takesBack, number));
  if (later !== undefined) throw new Refusal(409, "round/taken-back", `Round ${number} was taken back already, by round ${later.number}.`);
  const stand = await loadFacts(tx, found.seasonId);
  const { began, ended } = await factsOfRound(tx, found.seasonId, number);
  const { facts, left } = undo(stand, began, ended);
  const causes = findCauses(stand, facts);
  const standing = indexFacts(stand);
  const cohorts = new Map([...standing.cohorts, ...indexFacts(facts).cohorts]);
  const { changes } = planRound(stand, causes, await listsToFill(tx, await loadRecipes(tx), cohorts, found.seasonId));
  const all = causes.flatMap(({ key }) => changes.get(key) ?? []);
  const of = (kind: string): number => all.filter((change) => change.kind === kind).length;
  const totals: RoundTotals = { joins: of("joins"), leaves: of("leaves"), replaced: of("replaced"), lists: countByList(all).size, accepted: causes.length, held: 0 };
  const guards = await guardStep(tx, found.seasonId, { changes: all, causes, stand, standing }, []);
  const everybody = indexFacts(new Map([...stand, ...[...began, ...ended].map((fact, at) => [`${at}`, fact] as const)]));
  const leftAlone = [...new Set(left.map(({ fact, why }) => sentenceOf(fact, why, (id) => everybody.cohorts.get(id)?.name ?? nameOf(everybody.people.get(id)))))];
  return { seasonId: found.seasonId, stand, facts, causes, changes, all, totals, guards, leftAlone };
}

/** What it would do to take a round back, without doing it. */
export async function planTakeBack(db: Queries, number: number): Promise<TakeBackPlan> {
  const { causes, changes, totals, guards, leftAlone } = await plan(db, number);
  const of = (key: string, kind: string): number => (changes.get(key) ?? []).filter((change) => change.kind === kind).length;
  return { causes: causes.map(({ key, kind, title, detail }) => ({ kind, title, detail, joins: of(key, "joins"), leaves: of(key, "leaves"), replaced: of(key, "replaced") })), totals, guards, leftAlone };
}

/**
 * Takes a past round back by a new round, computed against today: what has changed since is left alone and
 * named. What the sources still say of it comes back held, with its history.
 *
 * @throws Refusal 409 when it was taken back already, or nothing of it is left to undo; 422 when a guard stands
 */
export async function takeBack(db: Database, { actor, wanted }: { actor: Actor; wanted: { round: number; passed: Record<string, number> } }): Promise<{ round: number; lists: number; joins: number; leaves: number; next: number | null }> {
  return db.transaction(async (tx) => {
    await lockRounds(tx);
    const { seasonId, stand, facts, causes, changes, all, totals, guards, leftAlone } = await plan(tx, wanted.round);
    if (causes.length === 0) throw new Refusal(409, "round/nothing-left", `Nothing of round ${wanted.round} stands any more, so there is nothing to take back.`);
    const standing = guards.find((guard) => wanted.passed[guard.id] !== guard.count);
    if (standing !== undefined) throw new Refusal(422, "round/guard", `A guard stands: ${standing.about} ${standing.sentence} Type ${standing.count} beside it to let it pass.`, standing.id);
    const [made] = await tx.insert(round).values({ seasonId, state: "done", totals, guards: [], readings: sql`(select readings from round where state = 'done' order by number desc limit 1)`, closedAt: sql`now()`, closedBy: actor.id, closedByName: actor.id === null ? actor.name : "", takesBack: wanted.round, leftAlone }).returning({ number: round.number });
    if (made === undefined) throw new Error("the round was not made");
    const rows = causes.map((own, position) => ({ ...own, ...describeCause(own, changes.get(own.key) ?? []), round: made.number, position, changes: changes.get(own.key) ?? [], decision: "accepted" as const, history: `Takes back round ${wanted.round}.` }));
    for (let at = 0; at < rows.length; at += 1000) await tx.insert(cause).values(rows.slice(at, at + 1000));
    const lists = [...countByList(all)].map(([list, counts]) => ({ round: made.number, list, ...counts }));
    if (lists.length > 0) await tx.insert(roundList).values(lists);
    const done = await carryOut(tx, actor, { round: made.number, seasonId, words: `Round ${made.number}, which takes back round ${wanted.round}` }, stand, facts);
    await record(tx, { actorId: actor.id, actor: actor.name, action: "take back", sentence: `${actor.name} took back round ${wanted.round} by round ${made.number}: ${counted(done.lists, "list")}, ${done.joins} joined, ${done.leaves} left`, before: { round: wanted.round }, after: { round: made.number, leftAlone } });
    const next = await openRound(tx);
    await notify(tx, "rounds", "board", "people");
    return { round: made.number, lists: done.lists, joins: done.joins, leaves: done.leaves, next: next.number };
  });
}

function sentenceOf(fact: Fact, why: "changed since" | "has no owner now", name: (id: string) => string): string {
  const who = name(fact.subject);
  const what = fact.kind === "enrolment" ? `${who} in ${name(fact.ref)}` : fact.kind === "tie" ? `${who} as guardian of ${name(fact.ref)}` : fact.kind === "address" ? `${who}'s address ${fact.ref}` : fact.kind === "cohort" ? `${who}` : fact.kind === "kept" ? `${fact.ref}, kept ${fact.value.side} a list` : `${who}${fact.kind === "student" || fact.kind === "guardian" ? "" : `'s ${fact.kind}`}`;
  return why === "changed since" ? `${what}: changed since, so it stays as it is today.` : `${what}: not brought back, for whom it belongs to is gone.`;
}
