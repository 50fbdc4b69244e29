import { sql, type SQL } from "drizzle-orm";
import { KEPT } from "@amigo/core/step/listMembers";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { greeting } from "../db/schema/lists";

/** Who is to come onto each list: list id to address to the people behind it. */
type Coming = ReadonlyMap<string, Map<string, Set<string>>>;

/**
 * Takes whoever has not said yes yet out of those who come onto lists that ask first, and asks them by mail. Who is kept on by
 * hand is not asked: somebody has agreed already. Questions to those who no longer belong are withdrawn.
 */
export async function askFirst(tx: Queries, by: { name: string }, lists: Coming): Promise<void> {
  if (lists.size === 0) return;
  const ids = JSON.stringify([...lists.keys()]);
  const said = await tx.execute<{ list_id: string; address: string }>(
    sql`select list_id, address from greeting where kind = 'ask' and answer = 'yes' and list_id in (select id::uuid from json_array_elements_text(${ids}::json) as list(id))`,
  );
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
  await tx.execute(sql`update greeting set answer = 'withdrawn', answered_at = now() where kind = 'ask' and answer is null and origin = 'audience' and list_id in (select id::uuid from json_array_elements_text(${ids}::json) as list(id))
    and not exists (select 1 from json_to_recordset(${json}::json) as still(l uuid, a text) where still.l = greeting.list_id and still.a = greeting.address)`);
  if (asking.length === 0) return;
  await tx.execute(
    sql`insert into greeting (list_id, address, kind, by, origin) select l, a, 'ask', ${by.name}, 'audience' from json_to_recordset(${json}::json) as new(l uuid, a text) on conflict (list_id, address) where kind <> 'welcome' and answer is null do nothing`,
  );
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
  await tx.execute(sql`insert into greeting (list_id, address, kind, by, origin, words) select ${listId}::uuid, address, 'welcome', '', 'audience', ${words} from json_array_elements_text(${JSON.stringify(addresses)}::json) as new(address)
    where not exists (select 1 from greeting as sent where sent.list_id = ${listId}::uuid and sent.address = new.address and sent.kind = 'welcome')`);
  await notify(tx, "greetings");
}

/** Addresses that somebody wants to keep on a list. `words` is what they are welcomed with after a yes; undefined for no welcome. */
export interface ByHand {
  listId: string;
  addresses: readonly string[];
  by: string;
  reason: string;
  lastDay: string;
  words?: string | undefined;
}

/** That a question was mailed with the secret of this hash, at first or when it was asked again. */
export function askedBy(hash: string): SQL {
  return sql`(${greeting.kind} = 'ask' and (${greeting.tokenHash} = ${hash} or ${greeting.reminderHash} = ${hash}))`;
}
