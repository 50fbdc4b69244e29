import { randomUUID } from "node:crypto";
import { inArray, sql } from "drizzle-orm";
import { counted, joined } from "@amigo/core/text/sentence";
import { accountInForce } from "../callers/caller";
import type { Queries } from "../db/connect";
import { delivery, list, listMessage, message, post, postList } from "../db/schema";
import { notify } from "../events/events";
import { record } from "../journal/record";

/** A post that the rules let out. `id` makes sending it idempotent. */
export interface PostToAccept {
  id?: string;
  messageRow: string;
  messageId: string;
  subject: string;
  from: { name: string; address: string };
  accountId: string | null;
  lists: readonly string[];
  reasons: readonly string[];
  /** Whom it reaches: everybody on the lists, or their leads alone. */
  reaches?: "members" | "leads";
  /** Where a note goes when it is returned, now or later. */
  returnPath?: string;
  /** Addresses of people on the writer's private lists, who get a copy that names no list. */
  privately?: readonly string[];
}

/** Keeps a message as it came in, octet for octet. */
export async function storeMessage(db: Queries, raw: Buffer, messageId: string): Promise<string> {
  const [row] = await db.insert(message).values({ raw, size: raw.length, messageId }).returning({ id: message.id });
  if (row === undefined) throw new Error("the message was not stored");
  return row.id;
}

/**
 * Takes a post for delivery: one row a recipient, whichever of the lists leads to them, the first list
 * that holds an address being the one whose copy it gets. A message id that a list has had before
 * goes out to it no second time.
 *
 * @returns how many addresses it goes to
 */
export async function acceptPost(tx: Queries, wanted: PostToAccept): Promise<{ id: string; addresses: number }> {
  const id = wanted.id ?? randomUUID();
  const { privately = [], reaches = "members" } = wanted;
  const lists = await notYetTaken(tx, wanted.lists, wanted.messageId);
  if (lists.length === 0 && privately.length === 0) return { id, addresses: 0 };
  await tx.insert(post).values({ id, messageId: wanted.messageRow, subject: wanted.subject, fromName: wanted.from.name, fromAddress: wanted.from.address, accountId: wanted.accountId, outcome: "goes out", reaches, returnPath: wanted.returnPath ?? "", reasons: [...wanted.reasons] });
  if (lists.length > 0) await tx.insert(postList).values(lists.map((listId) => ({ postId: id, listId })));
  const made = await queueFor(tx, { id, messageRow: wanted.messageRow, reaches, lists });
  const alone = privately.length === 0 ? undefined : await tx.execute(sql`
    insert into delivery (message_id, post_id, address, token) select ${wanted.messageRow}::uuid, ${id}::uuid, address, replace(gen_random_uuid()::text, '-', '') from json_array_elements_text(${JSON.stringify(privately)}::json) as own(address)
    on conflict (post_id, address) do nothing`);
  const addresses = made + (alone?.rowCount ?? 0);
  const titles = lists.length === 0 ? [] : await tx.select({ id: list.id, title: list.title }).from(list).where(inArray(list.id, lists));
  const sentence = `${wanted.from.name || wanted.from.address} wrote "${wanted.subject}" to ${reaches === "leads" ? "the leads of " : ""}${joined(titles.map(({ title }) => title)) || "people of their own choice"}: ${counted(addresses, "address", "addresses")}`;
  await record(tx, ...(lists.length === 0 ? [undefined] : lists).map((listId) => ({ actorId: wanted.accountId, actor: wanted.from.name || wanted.from.address, action: "post", listId, sentence })));
  await notify(tx, "posts", "queue");
  return { id, addresses };
}

/** The lists that have not had a message of this id, which they have from now on. */
async function notYetTaken(tx: Queries, lists: readonly string[], messageId: string): Promise<string[]> {
  if (lists.length === 0) return [];
  const fresh = await tx.insert(listMessage).values(lists.map((listId) => ({ listId, messageId }))).onConflictDoNothing().returning({ listId: listMessage.listId });
  return lists.filter((own) => fresh.some(({ listId }) => listId === own));
}

/** Queues the copies of a post that was held and is let out. Answers how many. */
export async function queueCopies(tx: Queries, held: { id: string; messageRow: string; messageId: string; reaches: "members" | "leads"; lists: readonly string[] }): Promise<number> {
  return queueFor(tx, { ...held, lists: await notYetTaken(tx, held.lists, held.messageId) });
}

function queueFor(tx: Queries, { id, messageRow, reaches, lists }: { id: string; messageRow: string; reaches: "members" | "leads"; lists: readonly string[] }): Promise<number> {
  return reaches === "leads" ? queueForLeads(tx, id, messageRow, lists) : queueForMembers(tx, id, messageRow, lists);
}

/** One copy for each member who gets every message and has not paused, under the first list that holds them. Answers how many. */
async function queueForMembers(tx: Queries, id: string, messageRow: string, lists: readonly string[]): Promise<number> {
  const made = await tx.execute(sql`
    insert into delivery (message_id, post_id, list_id, address, token)
    select ${messageRow}::uuid, ${id}::uuid, list_id, address, replace(gen_random_uuid()::text, '-', '')
    from (
      select distinct on (membership.address) membership.list_id, membership.address
      from membership join json_array_elements_text(${JSON.stringify(lists)}::json) with ordinality as wanted(list_id, place) on wanted.list_id::uuid = membership.list_id
        join list on list.id = membership.list_id
        left join receiving on receiving.list_id = membership.list_id and receiving.address = membership.address
      where membership.valid_until is null and coalesce(receiving.how_often, list.rules->>'howOften') <> 'nothing'
        and not exists (select 1 from pause, house where pause.address = membership.address and pause.until >= (now() at time zone house.time_zone)::date)
      order by membership.address, wanted.place) as recipients`);
  return made.rowCount ?? 0;
}

/** One copy for each lead; for the coordinators where no lead of a list can sign in. Answers how many. */
async function queueForLeads(tx: Queries, id: string, messageRow: string, lists: readonly string[]): Promise<number> {
  const made = await tx.execute(sql`
    insert into delivery (message_id, post_id, list_id, address, token)
    select ${messageRow}::uuid, ${id}::uuid, list_id, email, replace(gen_random_uuid()::text, '-', '')
    from (
      select distinct on (account.email) wanted.list_id::uuid as list_id, account.email
      from json_array_elements_text(${JSON.stringify(lists)}::json) with ordinality as wanted(list_id, place)
        join account on ${accountInForce} and (
          exists (select 1 from list_role where list_role.list_id = wanted.list_id::uuid and list_role.account_id = account.id and list_role.role = 'lead')
          or (account.role = 'coordinator' and not exists (select 1 from list_role join account as lead on lead.id = list_role.account_id where list_role.list_id = wanted.list_id::uuid and list_role.role = 'lead' and (lead.ended_at is null or lead.ended_at > now()))))
      order by account.email, wanted.place) as leads`);
  return made.rowCount ?? 0;
}

/** Records a mail that did not go out, or not yet, and why. */
export async function recordRefused(tx: Queries, wanted: PostToAccept & { outcome: "held" | "returned" | "dropped" }): Promise<string> {
  const [row] = await tx.insert(post).values({ ...(wanted.id === undefined ? {} : { id: wanted.id }), messageId: wanted.messageRow, subject: wanted.subject, fromName: wanted.from.name, fromAddress: wanted.from.address, accountId: wanted.accountId, outcome: wanted.outcome, reaches: wanted.reaches ?? "members", returnPath: wanted.returnPath ?? "", reasons: [...wanted.reasons] }).returning({ id: post.id });
  if (row === undefined) throw new Error("the post was not recorded");
  if (wanted.lists.length > 0) await tx.insert(postList).values(wanted.lists.map((listId) => ({ postId: row.id, listId })));
  await record(tx, ...wanted.lists.map((listId) => ({ actor: wanted.from.name || wanted.from.address, action: wanted.outcome, listId, sentence: `Mail of ${wanted.from.name || wanted.from.address} was ${wanted.outcome}: ${wanted.reasons[wanted.reasons.length - 1] ?? ""}` })));
  await notify(tx, "posts");
  return row.id;
}

/** Queues a mail of Amigo's own to one address, ahead of announcements. */
export async function queueNote(tx: Queries, raw: Buffer, messageId: string, address: string): Promise<void> {
  const messageRow = await storeMessage(tx, raw, messageId);
  await tx.insert(delivery).values({ messageId: messageRow, address, token: randomUUID().replace(/-/g, ""), priority: 3 });
  await notify(tx, "queue");
}
