import { day } from "@amigo/language/message";
import { factKey, type Fact } from "@amigo/core/facts/fact";
import type { Adding } from "@amigo/core/lists/recipe";
import type { Database, Queries } from "../db/connect";
import { notify } from "../events/events";
import { storeFacts } from "../facts/queries";
import { notFound, Refusal } from "../http/fault";
import { record } from "../events/record";
import { welcome } from "../membership/greet";
import { admit, outsideWords } from "../membership/outside";
import { whoBelongs } from "../membership/whoBelongs";
import type { Actor } from "./carryOut";
import { openRound, recountOpen } from "./openRound";
import { t } from "../texts/t";
import { listMemberAddresses, findList, findKeptAmong } from "../membership/queries";
import {
  listLeadRoles,
  answerWaiting,
  answerQuestionOf,
  storeMember,
  storeMembers,
  endMembershipsOf,
} from "./memberQueries";
import { findOpenOf, lockRounds } from "./queries";
import { listCausesAbout } from "./causeQueries";
import { askByHand, waitForLead } from "../membership/greetingQueries";

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
export async function keepAddress(
  db: Database,
  { actor, keep }: { actor: Actor; keep: WantedKeep },
): Promise<{ member: boolean }> {
  return db.transaction(async (tx) => {
    await lockRounds(tx);
    const { listId, address, side, reason, lastDay } = keep;
    if (side === "on") await refuseOrWait(tx, actor, listId, [address]);
    const { members } = await change(
      tx,
      actor,
      listId,
      [address],
      () => ({ side, reason, by: actor.name, lastDay }),
      t("rounds.keepsThisList", {
        name: actor.name,
        address,
        side,
        until: day(lastDay),
        reason,
      }),
    );
    return { member: members.has(address) };
  });
}

/** Ends it again: from now on the audience alone decides. */
export async function letGo(
  db: Database,
  { actor, listId, address }: { actor: Actor; listId: string; address: string },
): Promise<{ member: boolean }> {
  return db.transaction(async (tx) => {
    await lockRounds(tx);
    const { members } = await change(
      tx,
      actor,
      listId,
      [address],
      undefined,
      t("rounds.noLongerKeepsOnOr", { name: actor.name, address }),
    );
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
  /** A reason for single addresses, in place of the one for all. */
  reasons?: ReadonlyMap<string, string>;
  /** The words of the welcome, where they are not the list's; with a yes, too, where it is waited for. */
  words?: string;
}

/** Puts addresses on a list by hand: quietly, with its welcome, or by asking each of them first. Who is on it is left as they are. */
export async function addMembers(
  db: Database,
  { actor, wanted }: { actor: Actor; wanted: WantedMembers },
): Promise<AddedMembers> {
  return db.transaction(async (tx) => {
    await lockRounds(tx);
    return countAdded(await addMembersIn(tx, actor, wanted));
  });
}

/** How many addresses came onto a list, were asked, were there already, and wait until a lead agrees. */
export interface AddedMembers {
  added: number;
  asked: number;
  already: number;
  waiting: number;
}

/** The same, address by address. */
export type AddedAddresses = Record<keyof AddedMembers, string[]>;

export function countAdded({ added, asked, already, waiting }: AddedAddresses): AddedMembers {
  return {
    added: added.length,
    asked: asked.length,
    already: already.length,
    waiting: waiting.length,
  };
}

/**
 * The same within a transaction that holds the lock, told address by address.
 *
 * @throws Refusal 422 when the rules of the list do not take one of the addresses
 */
export async function addMembersIn(
  tx: Queries,
  actor: Actor,
  wanted: WantedMembers,
): Promise<AddedAddresses> {
  const { listId, how, reason, lastDay, reasons, words = how === "ask" ? undefined : "" } = wanted;
  const there = new Set((await listMemberAddresses(tx, listId)).map(({ address }) => address));
  const all = [...new Set(wanted.addresses)];
  const fresh = all.filter((address) => !there.has(address));
  const waiting = await refuseOrWait(tx, actor, listId, fresh);
  const now = fresh.filter((address) => !waiting.has(address));
  const byReason = (addresses: readonly string[]): Map<string, string[]> => {
    const groups = new Map<string, string[]>();
    for (const address of addresses) {
      const foundReason = reasons?.get(address) ?? reason;
      groups.set(foundReason, [...(groups.get(foundReason) ?? []), address]);
    }
    return groups;
  };
  if (waiting.size > 0) {
    for (const [why, addresses] of byReason([...waiting]))
      await waitForLead(tx, {
        listId,
        addresses,
        by: actor.name,
        reason: why,
        lastDay,
        words: how === "welcome" ? words : undefined,
      });
    await record(tx, {
      actorId: actor.id,
      actor: actor.name,
      action: "wait",
      listId,
      sentence: t("rounds.wouldPutOnThisList", {
        name: actor.name,
        addresses: waiting.size,
        reason,
      }),
      after: { waiting: [...waiting] },
    });
  }
  const answer: AddedAddresses = {
    added: [],
    asked: [],
    already: all.filter((address) => there.has(address)),
    waiting: [...waiting],
  };
  if (now.length === 0) return answer;
  if (how === "ask") {
    for (const [why, addresses] of byReason(now))
      await askByHand(tx, { listId, addresses, by: actor.name, reason: why, lastDay, words });
    await record(tx, {
      actorId: actor.id,
      actor: actor.name,
      action: "ask",
      listId,
      sentence: t("rounds.askedWhetherTheyWantTo", { name: actor.name, now: now.length, reason }),
      after: { asked: now },
    });
    return { ...answer, asked: now };
  }
  await change(
    tx,
    actor,
    listId,
    now,
    (address) => ({ side: "on", reason: reasons?.get(address) ?? reason, by: actor.name, lastDay }),
    t("rounds.putOnThisList", {
      name: actor.name,
      addresses: now.length,
      lastDay: day(lastDay),
      reason,
    }),
  );
  if (how === "welcome") await welcome(tx, listId, now, words);
  return { ...answer, added: now };
}

/** Refuses outside addresses that the rules of a list do not take; answers those that wait until a lead agrees, where it is not a lead who adds them. */
async function refuseOrWait(
  tx: Queries,
  actor: Actor,
  listId: string,
  addresses: readonly string[],
): Promise<Set<string>> {
  const list = await findList(tx, listId);
  if (list === undefined) throw notFound("list");
  const { refused, waiting } = await admit(tx, list, addresses);
  const [first] = refused;
  if (first !== undefined)
    throw new Refusal(
      422,
      "keep/outside",
      t("rounds.outsideYourDomainsAnd", {
        first,
        more: refused.size - 1,
        why: outsideWords(list.rules),
      }),
      "outside",
    );
  const [leads] =
    waiting.size === 0 || actor.id === null ? [] : await listLeadRoles(tx, listId, actor.id);
  return leads === undefined ? waiting : new Set();
}

/** A lead's word on addresses that wait: they come onto the list, or they do not. Answers how many came. */
export async function agree(
  db: Database,
  {
    actor,
    listId,
    ids,
    yes,
  }: { actor: Actor; listId: string; ids: readonly string[]; yes: boolean },
): Promise<{ members: number }> {
  return db.transaction(async (tx) => {
    await lockRounds(tx);
    const rows = await answerWaiting(tx, yes, listId, ids);
    if (rows.length === 0)
      throw new Refusal(409, "agree/done", t("rounds.somebodyHasDecidedOnThis"));
    for (const { address, reason, lastDay, by, words } of yes ? rows : []) {
      await change(
        tx,
        actor,
        listId,
        [address],
        () => ({
          side: "on",
          reason: t("rounds.reasonAgreedBy", { reason: reason, by: actor.name }),
          by,
          lastDay,
        }),
        t("rounds.agreedThatComesOntoThis", { name: actor.name, address, by }),
      );
      if (words !== null) await welcome(tx, listId, [address], words);
    }
    if (!yes)
      await record(tx, {
        actorId: actor.id,
        actor: actor.name,
        action: "not agreed",
        listId,
        sentence: t("rounds.didNotAgreeToOn", { name: actor.name, rows: rows.length }),
        after: { addresses: rows.map(({ address }) => address) },
      });
    await notify(tx, "board");
    return { members: yes ? rows.length : 0 };
  });
}

/** Takes the yes of somebody who was asked. Said twice, it holds once; for a list that no longer wants them nothing happens. */
export async function answerAsk(
  db: Database,
  { id }: { id: string },
): Promise<{ member: boolean }> {
  return db.transaction(async (tx) => {
    await lockRounds(tx);
    const asked = await answerQuestionOf(tx, id);
    if (asked === undefined) return { member: true };
    const { listId, address, reason, lastDay, by, words } = asked;
    if (asked.origin === "hand") {
      await change(
        tx,
        { id: null, name: address },
        listId,
        [address],
        () => ({ side: "on", reason: t("rounds.askedBySaidYes", { reason, by }), by, lastDay }),
        t("rounds.wasAskedByAndSaid", { address, by }),
      );
      if (words !== null) await welcome(tx, listId, [address], words);
      return { member: true };
    }
    const list = await findList(tx, listId);
    if (
      list === undefined ||
      list.closedAt !== null ||
      !(await whoBelongs(tx, list)).some(({ addresses }) => addresses.includes(address))
    )
      return { member: false };
    await storeMember(tx, listId, address);
    await record(tx, {
      actorId: null,
      actor: address,
      action: "said yes",
      listId,
      sentence: t("rounds.wasAskedAndSaidYes", { address }),
    });
    await notify(tx, "board", "people");
    return { member: true };
  });
}

/** How an address is kept. */
type KeptValue = Extract<Fact, { kind: "kept" }>["value"];

async function change(
  tx: Queries,
  actor: Actor,
  listId: string,
  addresses: readonly string[],
  valueOf: ((address: string) => KeptValue) | undefined,
  sentence: string,
): Promise<{ members: Set<string> }> {
  const list = await findList(tx, listId);
  if (list === undefined) throw notFound("list");
  if (list.closedAt !== null) throw new Refusal(409, "list/closed", t("rounds.thisListIsClosedSo"));
  const old = (await findKeptAmong(tx, list.seasonId, list.key, addresses)) as Fact[];
  if (valueOf === undefined && old.length === 0) throw notFound("entry");
  const at = new Date().toISOString();
  const values = new Map(
    addresses.flatMap((address) =>
      valueOf === undefined ? [] : [[address, valueOf(address)] as const],
    ),
  );
  const wanted = [...values].map(([ref, value]): Fact => ({
    subject: list.key,
    kind: "kept",
    ref,
    value,
    origin: { from: "hand", by: actor.name, at },
  }));
  const mapOf = (facts: readonly Fact[]) => new Map(facts.map((one) => [factKey(one), one]));
  await storeFacts(tx, list.seasonId, null, mapOf(old), mapOf(wanted));
  const belonging = new Set((await whoBelongs(tx, list)).flatMap((person) => person.addresses));
  const members = new Set(
    addresses.filter((address) => {
      const value = values.get(address);
      return value === undefined ? belonging.has(address) : value.side === "on";
    }),
  );
  const others = addresses.filter((address) => !members.has(address));
  if (members.size > 0) await storeMembers(tx, members, listId, belonging);
  if (others.length > 0) await endMembershipsOf(tx, listId, others);
  const [value] = values.values();
  await record(tx, {
    actorId: actor.id,
    actor: actor.name,
    action: value === undefined ? "let go" : `keep ${value.side}`,
    listId,
    sentence,
    before: old.map(({ ref, value: was }) => ({ address: ref, was })),
    after: { addresses, value },
  });
  await renewRound(tx, list.seasonId, list.key);
  await notify(tx, "board", "rounds", "people");
  return { members };
}

/** Counts the open round again. Where a cause of it is about what is kept on this very list, it is worked out anew. */
async function renewRound(tx: Queries, seasonId: number, key: string): Promise<void> {
  const open = await findOpenOf(tx, seasonId);
  const about = open === undefined ? [] : await listCausesAbout(tx, open.number, key);
  if (about.length > 0) {
    await openRound(tx);
    return;
  }
  await recountOpen(tx, seasonId);
}
