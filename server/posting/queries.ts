import { account } from "../db/schema/accounts";
import { sql, eq, inArray } from "drizzle-orm";
import type { HELD_DECISIONS } from "@amigo/contract/posts";
import { accountInForce } from "../callers/inForce";
import type { Queries } from "../db/connect";
import { picture } from "../db/schema/house";
import { list } from "../db/schema/lists";
import { message, type MergeParts, post, postList, listMessage } from "../db/schema/posts";
import { type MessageRead, BEGINNING } from "./readMessage";
import { isAnswer, baseSubject } from "@amigo/core/mail/thread";

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
  /** Addresses of people beside the lists, who get a copy that names no list. */
  privately?: readonly string[];
  /** Its text and the messages that it answers, for finding it and its thread. */
  about?: Pick<MessageRead, "text" | "answers" | "attachments">;
  /** Whether it comes from the list itself. */
  asList?: boolean;
  /** Until then it waits and can be taken back. */
  leavesAt?: Date | undefined;
  /** Members' addresses that are left out this once. */
  leftOut?: readonly string[];
  /** Whether everybody gets it in their next digest, also whoever else gets every message at once. */
  inDigest?: boolean | undefined;
  /** By what else than its id the same mail would be known if it came again. */
  signatures?: readonly string[] | undefined;
  /** What is filled in for each recipient, by address. */
  fields?: ReadonlyMap<string, Record<string, string>> | undefined;
}

/** What can be decided on a mail that is held. */
export type HeldDecision = (typeof HELD_DECISIONS)[number];

export interface CopiesToQueue {
  id: string;
  /** The id and the sender of the mail: whoever got it already by another list gets it no second time. */
  messageId?: string;
  sender?: string;
  messageRow: string;
  reaches: "members" | "leads";
  lists: readonly string[];
  leavesAt?: Date | undefined;
  leftOut?: readonly string[];
  inDigest?: boolean | undefined;
}

/** Stores a message as it is sent, and returns its id. */
export async function storeRaw(
  db: Queries,
  raw: Buffer,
  messageId: string,
  more: { arc?: typeof message.$inferInsert.arc; merge?: MergeParts | null },
) {
  const [found] = await db
    .insert(message)
    .values({ raw, size: raw.length, messageId, ...more })
    .returning({ id: message.id });
  return found;
}

/** Stores a post that goes out. */
export async function storePost(
  db: Queries,
  id: string,
  wanted: PostToAccept,
  reaches: "leads" | "members",
  leavesAt: Date | undefined,
): Promise<void> {
  await db.insert(post).values({
    id,
    messageId: wanted.messageRow,
    subject: wanted.subject,
    fromName: wanted.from.name,
    fromAddress: wanted.from.address,
    accountId: wanted.accountId,
    outcome: "goes out",
    reaches,
    returnPath: wanted.returnPath ?? "",
    reasons: [...wanted.reasons],
    leavesAt: leavesAt ?? null,
    asList: wanted.asList ?? false,
    ...(await placeOf(db, id, wanted)),
  });
}

/** Where a post belongs: its thread, the words by which it is found, and what is shown of it where it is held. */
export async function placeOf(tx: Queries, id: string, wanted: PostToAccept) {
  const { text = "", answers = [], attachments = [] } = wanted.about ?? {};
  return {
    thread: await threadOf(tx, id, wanted, answers),
    words: sql`search_words(${`${wanted.subject} ${wanted.from.name} ${text}`.slice(0, 200_000)})`,
    beginning: text.slice(0, BEGINNING),
    attachments: attachments.length,
  };
}

/** Stores to which lists a post goes. */
export async function storePostLists(
  db: Queries,
  listIds: readonly string[],
  postId: string,
): Promise<void> {
  await db.insert(postList).values(listIds.map((listId) => ({ postId, listId })));
}

/** Queues copies of a post to people of private lists and to single addresses. */
export function queuePrivately(
  db: Queries,
  messageId: string,
  postId: string,
  leavesAt: Date | undefined,
  privately: readonly string[],
) {
  return db.execute(sql`
    insert into delivery (message_id, post_id, address, token, next_at) select ${messageId}::uuid, ${postId}::uuid, address, replace(gen_random_uuid()::text, '-', ''), ${(leavesAt ?? new Date(0)).toISOString()}::timestamptz from json_array_elements_text(${JSON.stringify(privately)}::json) as own(address)
    on conflict (post_id, address) do nothing`);
}

/** Stores what is filled into each address's copy of a post. */
export async function storeFields(
  db: Queries,
  fields: ReadonlyMap<string, Record<string, string>>,
  postId: string,
): Promise<void> {
  await db.execute(
    sql`update delivery set fields = own.f from json_to_recordset(${JSON.stringify([...fields].map(([a, f]) => ({ a, f })))}::json) as own(a text, f jsonb) where delivery.post_id = ${postId}::uuid and delivery.address = own.a`,
  );
}

/** Lists the titles of some lists. */
export function listTitles(db: Queries, ids: string[]) {
  return db.select({ id: list.id, title: list.title }).from(list).where(inArray(list.id, ids));
}

/** Stores that lists have taken a message, by its id and its signatures, and returns those that had none of these before. */
export async function storeListMessages(
  db: Queries,
  listIds: readonly string[],
  marks: readonly string[],
): Promise<string[]> {
  const stored = await db
    .insert(listMessage)
    .values(listIds.flatMap((listId) => marks.map((messageId) => ({ listId, messageId }))))
    .onConflictDoNothing()
    .returning({ listId: listMessage.listId });
  return listIds.filter(
    (id) => stored.filter(({ listId }) => listId === id).length === new Set(marks).size,
  );
}

/** Makes others who take a message of the same id wait until this transaction ends, so that each address gets it once. */
export async function lockMessageId(db: Queries, messageId: string): Promise<void> {
  await db.execute(
    sql`select pg_advisory_xact_lock(hashtextextended(${`amigo message ${messageId}`}, 0))`,
  );
}

/**
 * One copy for each member under the first list that holds them, whoever gets every message, has not paused and whose address
 * works; for those with a digest, or for all where it is wanted so, the post waits for the next one. Returns how many get it, either way.
 */
export async function queueForMembers(
  tx: Queries,
  {
    id,
    messageRow,
    lists,
    leavesAt,
    leftOut = [],
    inDigest = false,
    messageId = "",
    sender = "",
  }: CopiesToQueue,
): Promise<number> {
  const made = await tx.execute<{ address: string }>(sql`
    with same as (
      select post.id from message join post on post.message_id = message.id
      where message.message_id = ${messageId} and post.id <> ${id}::uuid and post.from_address = ${sender} and post.outcome = 'goes out' and post.reaches = 'members'
    ), had as (
      select address from delivery where post_id in (select id from same) and state <> 'cancelled'
      union select address from digest_item where post_id in (select id from same)
    ), recipients as (
      select distinct on (membership.address) membership.list_id, membership.address, coalesce(receiving.how_often, list.rules->>'howOften') as how_often
      from membership join json_array_elements_text(${JSON.stringify(lists)}::json) with ordinality as wanted(list_id, place) on wanted.list_id::uuid = membership.list_id
        join list on list.id = membership.list_id
        left join receiving on receiving.list_id = membership.list_id and receiving.address = membership.address
      where membership.valid_until is null and coalesce(receiving.how_often, list.rules->>'howOften') <> 'nothing'
        and membership.address not in (select json_array_elements_text(${JSON.stringify(leftOut)}::json))
        and membership.address not in (select address from had)
        and not exists (select 1 from address_trouble where address_trouble.address = membership.address and address_trouble.state = 'stopped')
        and not exists (select 1 from pause, house where pause.address = membership.address and pause.until >= (now() at time zone house.time_zone)::date)
      order by membership.address, (coalesce(receiving.how_often, list.rules->>'howOften') <> 'every message'), wanted.place
    ), digests as (
      insert into digest_item (list_id, address, post_id) select list_id, address, ${id}::uuid from recipients where ${inDigest} or how_often in ('daily', 'weekly') on conflict do nothing returning address
    ), copies as (
      insert into delivery (message_id, post_id, list_id, address, token, next_at)
      select ${messageRow}::uuid, ${id}::uuid, list_id, address, replace(gen_random_uuid()::text, '-', ''), ${(leavesAt ?? new Date(0)).toISOString()}::timestamptz from recipients where not ${inDigest} and how_often not in ('daily', 'weekly') on conflict (post_id, address) do nothing returning address
    ) select address from digests union all select address from copies`);
  return made.rows.length;
}

/** One copy for each lead; for the coordinators where no lead of a list can sign in. Returns how many. */
export async function queueForLeads(
  tx: Queries,
  id: string,
  messageRow: string,
  lists: readonly string[],
): Promise<number> {
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

/** Returns the picture of the house and its type, undefined where it has none. */
export async function housePicture(
  db: Queries,
): Promise<{ type: string; content: Buffer } | undefined> {
  const [found] = await db.select({ type: picture.type, content: picture.content }).from(picture);
  return found;
}

/** The thread of the nearest post that is answered, on one of the same lists; by the subject where nothing else says; else its own. */
export async function threadOf(
  tx: Queries,
  id: string,
  { lists, subject }: PostToAccept,
  answers: readonly string[],
): Promise<string> {
  if (lists.length === 0) return id;
  const onThese = sql`exists (select 1 from post_list where post_list.post_id = post.id and post_list.list_id in (select own::uuid from json_array_elements_text(${JSON.stringify(lists)}::json) as lists(own)))`;
  if (answers.length > 0) {
    const { rows } = await tx.execute<{ thread: string }>(
      sql`select post.thread from json_array_elements_text(${JSON.stringify(answers)}::json) with ordinality as answered(message_id, place) join message on message.message_id = answered.message_id join post on post.message_id = message.id where post.thread is not null and ${onThese} order by answered.place limit 1`,
    );
    if (rows[0] !== undefined) return rows[0].thread;
  }
  if (!isAnswer(subject)) return id;
  const { rows } = await tx.execute<{ thread: string; subject: string }>(
    sql`select post.thread, post.subject from post where post.thread is not null and post.outcome = 'goes out' and post.at > now() - interval '60 days' and ${onThese} order by post.at desc limit 200`,
  );
  const base = baseSubject(subject);
  return (
    (base === "" ? undefined : rows.find((row) => baseSubject(row.subject) === base)?.thread) ?? id
  );
}

/** Returns in which language the account with an address reads; empty for the house's, and where there is no such account. */
export async function findStaffLanguage(db: Queries, address: string): Promise<string> {
  const [found] = await db
    .select({ language: account.language })
    .from(account)
    .where(eq(account.email, address));
  return found?.language ?? "";
}
