import { and, eq, inArray, isNull, sql } from "drizzle-orm";
import { factKey, type Fact } from "@amigo/core/facts/fact";
import { counted } from "@amigo/core/text/sentence";
import type { Adding } from "@amigo/core/lists/recipe";
import type { Database, Queries } from "../db/connect";
import { cause, fact, greeting, list, membership, round } from "../db/schema";
import { notify } from "../events/events";
import { factColumns, storeFacts } from "../facts/queries";
import { notFound, Refusal } from "../http/fault";
import { record } from "../journal/record";
import { askByHand, welcome } from "../membership/greet";
import { whoBelongs } from "../membership/whoBelongs";
import type { Actor } from "./carryOut";
import { lockRounds, openRound, recountOpen } from "./openRound";

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
    const until = lastDay === "" ? "" : ` until ${lastDay}`;
    const { members } = await change(tx, actor, listId, [address], { side, reason, by: actor.name, lastDay }, `${actor.name} keeps ${address} ${side} this list${until}${reason === "" ? "" : `: ${reason}`}`);
    return { member: members.has(address) };
  });
}

/** Ends it again: from now on the audience alone decides. */
export async function letGo(db: Database, { actor, listId, address }: { actor: Actor; listId: string; address: string }): Promise<{ member: boolean }> {
  return db.transaction(async (tx) => {
    await lockRounds(tx);
    const { members } = await change(tx, actor, listId, [address], undefined, `${actor.name} no longer keeps ${address} on or off this list; the sheets decide again`);
    return { member: members.has(address) };
  });
}

/** Many addresses to be put on one list, and how. */
export interface WantedMembers {
  listId: string;
  addresses: readonly string[];
  how: Adding;
  reason: string;
  lastDay: string;
}

/** Puts addresses on a list by hand: quietly, with its welcome, or by asking each of them first. Who is on it is left as they are. */
export async function addMembers(db: Database, { actor, wanted }: { actor: Actor; wanted: WantedMembers }): Promise<{ added: number; asked: number; already: number }> {
  return db.transaction(async (tx) => {
    await lockRounds(tx);
    const { listId, how, reason, lastDay } = wanted;
    const there = new Set((await tx.select({ address: membership.address }).from(membership).where(and(eq(membership.listId, listId), isNull(membership.validUntil)))).map(({ address }) => address));
    const fresh = [...new Set(wanted.addresses)].filter((address) => !there.has(address));
    const already = new Set(wanted.addresses).size - fresh.length;
    if (fresh.length === 0) return { added: 0, asked: 0, already };
    if (how === "ask") {
      await askByHand(tx, { listId, addresses: fresh, by: actor.name, reason, lastDay });
      await record(tx, { actorId: actor.id, actor: actor.name, action: "ask", listId, sentence: `${actor.name} asked ${counted(fresh.length, "address", "addresses")} whether they want to be on this list: ${reason}`, after: { asked: fresh } });
      return { added: 0, asked: fresh.length, already };
    }
    await change(tx, actor, listId, fresh, { side: "on", reason, by: actor.name, lastDay }, `${actor.name} put ${counted(fresh.length, "address", "addresses")} on this list${lastDay === "" ? "" : ` until ${lastDay}`}: ${reason}`);
    if (how === "welcome") await welcome(tx, listId, fresh);
    return { added: fresh.length, asked: 0, already };
  });
}

/** Takes the yes of somebody who was asked. Said twice, it holds once; for a list that no longer wants them nothing happens. */
export async function answerAsk(db: Database, { id }: { id: string }): Promise<{ member: boolean }> {
  return db.transaction(async (tx) => {
    await lockRounds(tx);
    const [asked] = await tx.update(greeting).set({ answer: "yes", answeredAt: sql`now()` }).where(and(eq(greeting.id, id), eq(greeting.kind, "ask"), isNull(greeting.answer))).returning();
    if (asked === undefined) return { member: true };
    const { listId, address, reason, lastDay, by } = asked;
    if (asked.origin === "hand") {
      await change(tx, { id: null, name: address }, listId, [address], { side: "on", reason: `${reason} (asked by ${by}, said yes)`, by, lastDay }, `${address} was asked by ${by} and said yes`);
      return { member: true };
    }
    const [own] = await tx.select({ seasonId: list.seasonId, key: list.key, closedAt: list.closedAt }).from(list).where(eq(list.id, listId));
    if (own === undefined || own.closedAt !== null || !(await whoBelongs(tx, own)).some(({ addresses }) => addresses.includes(address))) return { member: false };
    await tx.insert(membership).values({ listId, address, validFrom: sql`now()`, origin: "audience" }).onConflictDoNothing();
    await record(tx, { actorId: null, actor: address, action: "said yes", listId, sentence: `${address} was asked and said yes` });
    await notify(tx, "board", "people");
    return { member: true };
  });
}

async function change(tx: Queries, actor: Actor, listId: string, addresses: readonly string[], value: Extract<Fact, { kind: "kept" }>["value"] | undefined, sentence: string): Promise<{ members: Set<string> }> {
  const [own] = await tx.select({ seasonId: list.seasonId, key: list.key, closedAt: list.closedAt }).from(list).where(eq(list.id, listId));
  if (own === undefined) throw notFound("list");
  if (own.closedAt !== null) throw new Refusal(409, "list/closed", "This list is closed, so nobody comes onto it or leaves it. Open it again first.");
  const old = await tx.select(factColumns).from(fact).where(and(eq(fact.seasonId, own.seasonId), eq(fact.subject, own.key), eq(fact.kind, "kept"), inArray(fact.ref, [...addresses]), isNull(fact.validUntil))) as Fact[];
  if (value === undefined && old.length === 0) throw notFound("entry");
  const at = new Date().toISOString();
  const wanted = value === undefined ? [] : addresses.map((ref): Fact => ({ subject: own.key, kind: "kept", ref, value, origin: { from: "hand", by: actor.name, at } }));
  const mapOf = (facts: readonly Fact[]) => new Map(facts.map((one) => [factKey(one), one]));
  await storeFacts(tx, own.seasonId, null, mapOf(old), mapOf(wanted));
  const belonging = new Set((await whoBelongs(tx, own)).flatMap((person) => person.addresses));
  const members = new Set(addresses.filter((address) => (value === undefined ? belonging.has(address) : value.side === "on")));
  const others = addresses.filter((address) => !members.has(address));
  if (members.size > 0) await tx.insert(membership).values([...members].map((address) => ({ listId, address, validFrom: sql`now()`, origin: belonging.has(address) ? "audience" as const : "kept on" as const }))).onConflictDoNothing();
  if (others.length > 0) await tx.update(membership).set({ validUntil: sql`now()` }).where(and(eq(membership.listId, listId), inArray(membership.address, others), isNull(membership.validUntil)));
  await record(tx, { actorId: actor.id, actor: actor.name, action: value === undefined ? "let go" : `keep ${value.side}`, listId, sentence, before: old.map(({ ref, value: was }) => ({ address: ref, was })), after: { addresses, value } });
  await renewRound(tx, own.seasonId, own.key);
  await notify(tx, "board", "rounds", "people");
  return { members };
}

/** Counts the open round again. Where a cause of it is about what is kept on this very list, it is worked out anew. */
async function renewRound(tx: Queries, seasonId: number, key: string): Promise<void> {
  const [open] = await tx.select({ number: round.number }).from(round).where(and(eq(round.state, "open"), eq(round.seasonId, seasonId)));
  const about = open === undefined ? [] : await tx.select({ position: cause.position }).from(cause).where(and(eq(cause.round, open.number), eq(cause.subject, key))).limit(1);
  if (about.length > 0) {
    await openRound(tx);
    return;
  }
  await recountOpen(tx, seasonId);
}
