import { and, eq, isNull, sql } from "drizzle-orm";
import { factKey, type Fact } from "@amigo/core/facts/fact";
import type { Database, Queries } from "../db/connect";
import { cause, cohort, fact, list, membership, recipe, round } from "../db/schema";
import { notify } from "../events/events";
import { factColumns, storeFacts } from "../facts/queries";
import { notFound } from "../http/fault";
import { record } from "../journal/record";
import { whoBelongs } from "../membership/whoBelongs";
import type { Actor } from "./carryOut";
import { keepDerived, lockRounds, openRound, recountRound } from "./openRound";

/** Whom to keep on or off a list, why, and until when. `lastDay` is a calendar date, empty for no end. */
export interface WantedKeep {
  listId: string;
  address: string;
  side: "on" | "off";
  reason: string;
  lastDay: string;
}

/**
 * Keeps an address on a list, or off it, whatever the sheets say. It holds at once, survives every reading, and
 * ends by a cause of its own once its last day is over.
 */
export async function keepAddress(db: Database, { actor, keep }: { actor: Actor; keep: WantedKeep }): Promise<{ member: boolean }> {
  return db.transaction(async (tx) => {
    await lockRounds(tx);
    const { listId, address, side, reason, lastDay } = keep;
    const wanted: Fact = { subject: listId, kind: "kept", ref: address, value: { side, reason, by: actor.name, lastDay }, origin: { from: "hand", by: actor.name, at: new Date().toISOString() } };
    const until = lastDay === "" ? "" : ` until ${lastDay}`;
    return change(tx, actor, listId, address, wanted, `${actor.name} keeps ${address} ${side} this list${until}${reason === "" ? "" : `: ${reason}`}`);
  });
}

/** Ends it again: from now on the audience alone decides. */
export async function letGo(db: Database, { actor, listId, address }: { actor: Actor; listId: string; address: string }): Promise<{ member: boolean }> {
  return db.transaction(async (tx) => {
    await lockRounds(tx);
    return change(tx, actor, listId, address, undefined, `${actor.name} no longer keeps ${address} on or off this list; the sheets decide again`);
  });
}

async function change(tx: Queries, actor: Actor, listId: string, address: string, wanted: Fact | undefined, sentence: string): Promise<{ member: boolean }> {
  const [own] = await tx.select({ seasonId: list.seasonId, cohortKey: cohort.key, audience: recipe.audience }).from(list).leftJoin(cohort, eq(cohort.id, list.cohortId)).leftJoin(recipe, eq(recipe.id, list.recipeId)).where(eq(list.id, listId));
  if (own === undefined) throw notFound("list");
  const [old] = await tx.select(factColumns).from(fact).where(and(eq(fact.seasonId, own.seasonId), eq(fact.subject, listId), eq(fact.kind, "kept"), eq(fact.ref, address), isNull(fact.validUntil))) as Fact[];
  if (wanted === undefined && old === undefined) throw notFound("entry");
  const mapOf = (one: Fact | undefined) => new Map(one === undefined ? [] : [[factKey(one), one]]);
  await storeFacts(tx, own.seasonId, null, mapOf(old), mapOf(wanted));
  const belongs = own.cohortKey !== null && own.audience !== null && (await whoBelongs(tx, { seasonId: own.seasonId, cohortKey: own.cohortKey, audience: own.audience })).some(({ addresses }) => addresses.includes(address));
  const side = wanted?.kind === "kept" ? wanted.value.side : undefined;
  const member = side === undefined ? belongs : side === "on";
  if (member) await tx.insert(membership).values({ listId, address, validFrom: sql`now()`, origin: belongs ? "audience" : "kept on" }).onConflictDoNothing();
  else await tx.update(membership).set({ validUntil: sql`now()` }).where(and(eq(membership.listId, listId), eq(membership.address, address), isNull(membership.validUntil)));
  await record(tx, { actorId: actor.id, actor: actor.name, action: wanted === undefined ? "let go" : `keep ${side ?? ""}`, listId, sentence, before: old?.value, after: wanted?.value });
  await renewRound(tx, own.seasonId, listId);
  await notify(tx, "board", "rounds", "people");
  return { member };
}

/** Counts the open round again. Where a cause of it is about what is kept on this very list, it is worked out anew. */
async function renewRound(tx: Queries, seasonId: number, listId: string): Promise<void> {
  const [open] = await tx.select({ number: round.number, seasonId: round.seasonId, version: round.version }).from(round).where(and(eq(round.state, "open"), eq(round.seasonId, seasonId)));
  const about = open === undefined ? [] : await tx.select({ position: cause.position }).from(cause).where(and(eq(cause.round, open.number), eq(cause.subject, listId))).limit(1);
  if (about.length > 0) {
    await openRound(tx);
    return;
  }
  if (open !== undefined) {
    await tx.update(round).set({ version: open.version + 1 }).where(eq(round.number, open.number));
    await recountRound(tx, open);
  }
  await keepDerived(tx, seasonId);
}
