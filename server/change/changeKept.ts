import { noSuch, type Refused, refused } from "../refused";
import { factKey, type Fact } from "@amigo/core/facts/fact";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { storeFacts } from "../facts/queries";
import { record } from "../events/record";
import { whoBelongs } from "../membership/whoBelongs";
import type { Actor } from "./carryOut";
import { recountOpen } from "./countRound";
import { openRound } from "./openRound";
import { t } from "../texts/t";
import { findList, findKeptAmong } from "../membership/queries";
import { beginMemberships, endMembershipsOf } from "./membershipQueries";
import { findOpenOf } from "./roundQueries";
import { listCausesAbout } from "./causeQueries";

/** How an address is kept. */
type KeptValue = Extract<Fact, { kind: "kept" }>["value"];

/**
 * Keeps addresses on a list or off it, or ends that, and writes the memberships that follow. The open round is counted again.
 *
 * @param valueOf how each address is kept; undefined where its audience alone decides from now on
 * Refused with 409 when the list is closed.
 */
export async function changeKept(
  tx: Queries,
  actor: Actor,
  listId: string,
  addresses: readonly string[],
  valueOf: ((address: string) => KeptValue) | undefined,
  sentence: () => string,
): Promise<{ members: Set<string> } | Refused> {
  const list = await findList(tx, listId);
  if (list === undefined) return noSuch("list");
  if (list.closedAt !== null) return refused(409, "list/closed", t("rounds.thisListIsClosedSo"));
  const old = (await findKeptAmong(tx, list.seasonId, list.key, addresses)) as Fact[];
  if (valueOf === undefined && old.length === 0) return noSuch("entry");
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
  await beginMemberships(
    tx,
    [...members].map((address) => ({
      listId,
      address,
      origin: belonging.has(address) ? "audience" : "kept on",
    })),
  );
  await endMembershipsOf(tx, listId, others);
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

/** Counts the open round again. Where a cause of it is about what is kept on this very list, it is worked out again. */
async function renewRound(tx: Queries, seasonId: number, key: string): Promise<void> {
  const open = await findOpenOf(tx, seasonId);
  const about = open === undefined ? [] : await listCausesAbout(tx, open.number, key);
  if (about.length > 0) {
    await openRound(tx);
    return;
  }
  await recountOpen(tx, seasonId);
}
