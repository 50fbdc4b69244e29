import { sql, type SQL } from "drizzle-orm";
import { KEPT } from "@amigo/core/step/listMembers";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { greeting } from "../db/schema/lists";
import { listYes, withdrawAsks, storeAsks, storeWelcomes } from "./greetingQueries";

/** Who is to come onto each list: list id to address to the people behind it. */
type Coming = ReadonlyMap<string, Map<string, Set<string>>>;

/**
 * Takes whoever has not said yes yet out of those who come onto lists that ask first, and asks them by mail. Who is kept on by
 * hand is not asked: somebody has agreed already. Questions to those who no longer belong are withdrawn.
 */
export async function askFirst(tx: Queries, by: { name: string }, lists: Coming): Promise<void> {
  if (lists.size === 0) return;
  const ids = JSON.stringify([...lists.keys()]);
  const said = await listYes(tx, ids);
  const agreed = new Set(said.rows.map(({ list_id: id, address }) => `${id} ${address}`));
  const asking: { l: string; a: string }[] = [];
  for (const [list, coming] of lists) {
    for (const [address, behind] of coming) {
      if (behind.has(KEPT) || agreed.has(`${list} ${address}`)) continue;
      coming.delete(address);
      asking.push({ l: list, a: address });
    }
  }
  const json = JSON.stringify(asking);
  await withdrawAsks(tx, ids, json);
  if (asking.length === 0) return;
  await storeAsks(tx, by.name, json);
  await notify(tx, "greetings");
}

/**
 * Sends a welcome to some addresses that have just come onto a list, to none of them twice.
 *
 * @param words an intake's own; empty for the list's
 */
export async function welcome(
  tx: Queries,
  listId: string,
  addresses: readonly string[],
  words = "",
): Promise<void> {
  if (addresses.length === 0) return;
  await storeWelcomes(tx, listId, words, addresses);
  await notify(tx, "greetings");
}

/** That a question was mailed with the secret of this hash, at first or when it was asked again. */
export function askedBy(hash: string): SQL {
  return sql`(${greeting.kind} = 'ask' and (${greeting.tokenHash} = ${hash} or ${greeting.reminderHash} = ${hash}))`;
}
