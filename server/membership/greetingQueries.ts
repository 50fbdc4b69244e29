import { sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";

/** Addresses that somebody wants to keep on a list. `words` is what they are welcomed with after a yes; undefined for no welcome. */
export interface ByHand {
  listId: string;
  addresses: readonly string[];
  by: string;
  reason: string;
  lastDay: string;
  words?: string | undefined;
}

/** Asks some addresses by mail whether they want to be on a list. */
export async function askByHand(tx: Queries, wanted: ByHand): Promise<void> {
  await tx.execute(sql`insert into greeting (list_id, address, kind, by, origin, reason, last_day, words) select ${wanted.listId}::uuid, address, 'ask', ${wanted.by}, 'hand', ${wanted.reason}, ${wanted.lastDay}, ${wanted.words ?? null} from json_array_elements_text(${JSON.stringify(wanted.addresses)}::json) as new(address)
    on conflict (list_id, address) where kind <> 'welcome' and answer is null do update set origin = 'hand', by = excluded.by, reason = excluded.reason, last_day = excluded.last_day, words = excluded.words`);
  await notify(tx, "greetings");
}

/** Writes down addresses that come onto a list once a lead agrees. Nothing is mailed to them before. */
export async function waitForLead(tx: Queries, wanted: ByHand): Promise<void> {
  await tx.execute(sql`insert into greeting (list_id, address, kind, by, origin, reason, last_day, words, mailed_at) select ${wanted.listId}::uuid, address, 'agree', ${wanted.by}, 'hand', ${wanted.reason}, ${wanted.lastDay}, ${wanted.words ?? null}, now() from json_array_elements_text(${JSON.stringify(wanted.addresses)}::json) as new(address)
    on conflict (list_id, address) where kind <> 'welcome' and answer is null do nothing`);
}

/** Lists the addresses that have said yes to being on lists. */
export function listYes(db: Queries, ids: string) {
  return db.execute<{ list_id: string; address: string }>(
    sql`select list_id, address from greeting where kind = 'ask' and answer = 'yes' and list_id in (select id::uuid from json_array_elements_text(${ids}::json) as list(id))`,
  );
}

/** Withdraws the unanswered questions to addresses that no longer belong on lists. */
export async function withdrawAsks(db: Queries, ids: string, wanted: string): Promise<void> {
  await db.execute(sql`update greeting set answer = 'withdrawn', answered_at = now() where kind = 'ask' and answer is null and origin = 'audience' and list_id in (select id::uuid from json_array_elements_text(${ids}::json) as list(id))
    and not exists (select 1 from json_to_recordset(${wanted}::json) as still(l uuid, a text) where still.l = greeting.list_id and still.a = greeting.address)`);
}

/** Stores the questions to addresses whether they want to be on lists, one each. */
export async function storeAsks(db: Queries, by: string, wanted: string): Promise<void> {
  await db.execute(
    sql`insert into greeting (list_id, address, kind, by, origin) select l, a, 'ask', ${by}, 'audience' from json_to_recordset(${wanted}::json) as new(l uuid, a text) on conflict (list_id, address) where kind <> 'welcome' and answer is null do nothing`,
  );
}

/** Stores the welcomes to addresses of a list, but for those who were welcomed before. */
export async function storeWelcomes(
  db: Queries,
  listId: string,
  words: string,
  addresses: readonly string[],
): Promise<void> {
  await db.execute(sql`insert into greeting (list_id, address, kind, by, origin, words) select ${listId}::uuid, address, 'welcome', '', 'audience', ${words} from json_array_elements_text(${JSON.stringify(addresses)}::json) as new(address)
    where not exists (select 1 from greeting as sent where sent.list_id = ${listId}::uuid and sent.address = new.address and sent.kind = 'welcome')`);
}
