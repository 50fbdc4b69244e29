import { Refused, noSuch, refused } from "../refused";
import { inTransaction } from "../db/inTransaction";
import { day } from "@amigo/language/message";
import type { Adding } from "@amigo/core/lists/recipe";
import type { Database, Queries } from "../db/connect";
import { record } from "../events/record";
import { welcome } from "../membership/greet";
import { admit, outsideWords } from "../membership/outside";
import type { Actor } from "./carryOut";
import { changeKept } from "./changeKept";
import { loadHouse } from "../db/houseQueries";
import { t } from "../texts/t";
import { listMemberAddresses, findList } from "../membership/queries";
import { listLeadRoles } from "./memberQueries";
import { lockRounds } from "./roundQueries";
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
): Promise<{ member: boolean } | Refused> {
  return inTransaction(db, async (tx) => {
    await lockRounds(tx);
    return keepAddressIn(tx, actor, keep);
  });
}

/** The same within a transaction that holds the lock. */
export async function keepAddressIn(
  tx: Queries,
  actor: Actor,
  { listId, address, side, reason, lastDay }: WantedKeep,
): Promise<{ member: boolean } | Refused> {
  if (side === "on") {
    const wrong = await refuseOrWait(tx, actor, listId, [address]);
    if (wrong instanceof Refused) return wrong;
  }
  const changed = await changeKept(
    tx,
    actor,
    listId,
    [address],
    () => ({ side, reason, by: actor.name, lastDay }),
    () =>
      t("rounds.keepsThisList", {
        name: actor.name,
        address,
        side,
        until: day(lastDay),
        reason,
      }),
  );
  if (changed instanceof Refused) return changed;
  const { members } = changed;
  return { member: members.has(address) };
}

/** Ends it again: from now on the audience alone decides. */
export async function letGo(
  db: Database,
  { actor, listId, address }: { actor: Actor; listId: string; address: string },
): Promise<{ member: boolean } | Refused> {
  return inTransaction(db, async (tx) => {
    await lockRounds(tx);
    const changed = await changeKept(tx, actor, listId, [address], undefined, () =>
      t("rounds.noLongerKeepsOnOr", { name: actor.name, address }),
    );
    if (changed instanceof Refused) return changed;
    const { members } = changed;
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
): Promise<AddedMembers | Refused> {
  return inTransaction(db, async (tx) => {
    await lockRounds(tx);
    const added = await addMembersIn(tx, actor, wanted);
    return added instanceof Refused ? added : countAdded(added);
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
 * Refused with 422 when the rules of the list do not take one of the addresses.
 */
export async function addMembersIn(
  tx: Queries,
  actor: Actor,
  wanted: WantedMembers,
): Promise<AddedAddresses | Refused> {
  const { listId, how, reason, lastDay, reasons, words = how === "ask" ? undefined : "" } = wanted;
  const there = new Set((await listMemberAddresses(tx, listId)).map(({ address }) => address));
  const all = [...new Set(wanted.addresses)];
  const fresh = all.filter((address) => !there.has(address));
  const waiting = await refuseOrWait(tx, actor, listId, fresh);
  if (waiting instanceof Refused) return waiting;
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
      sentence: () =>
        t("rounds.wouldPutOnThisList", { name: actor.name, addresses: waiting.size, reason }),
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
      sentence: () =>
        t("rounds.askedWhetherTheyWantTo", { name: actor.name, now: now.length, reason }),
      after: { asked: now },
    });
    return { ...answer, asked: now };
  }
  const wrong = await changeKept(
    tx,
    actor,
    listId,
    now,
    (address) => ({ side: "on", reason: reasons?.get(address) ?? reason, by: actor.name, lastDay }),
    () =>
      t("rounds.putOnThisList", {
        name: actor.name,
        addresses: now.length,
        lastDay: day(lastDay),
        reason,
      }),
  );
  if (wrong instanceof Refused) return wrong;
  if (how === "welcome") await welcome(tx, listId, now, words);
  return { ...answer, added: now };
}

/** Refuses outside addresses that the rules of a list do not take; returns those that wait until a lead agrees, where it is not a lead who adds them. */
async function refuseOrWait(
  tx: Queries,
  actor: Actor,
  listId: string,
  addresses: readonly string[],
): Promise<Set<string> | Refused> {
  const list = await findList(tx, listId);
  if (list === undefined) return noSuch("list");
  const house = await loadHouse(tx);
  const ofList = addresses.find((address) => address.endsWith(`@${house?.listDomain ?? ""}`));
  if (house !== undefined && ofList !== undefined)
    return refused(422, "keep/list", t("rounds.isAListsAddress", { address: ofList }), "address");
  const { refused: barred, waiting } = await admit(tx, list, addresses);
  const [first] = barred;
  if (first !== undefined)
    return refused(
      422,
      "keep/outside",
      t("rounds.outsideYourDomainsAnd", {
        first,
        more: barred.size - 1,
        why: outsideWords(list.rules),
      }),
      "outside",
    );
  const [leads] =
    waiting.size === 0 || actor.id === null ? [] : await listLeadRoles(tx, listId, actor.id);
  return leads === undefined ? waiting : new Set();
}
