import { canonicalAddress } from "@amigo/core/address/domainName";
import { and, desc, eq, inArray, sql, type SQL } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { delivery } from "../db/schema/deliveries";
import { list } from "../db/schema/lists";
import { mailIn, mailInPart } from "../db/schema/mailLog";
import { message, post, postList } from "../db/schema/posts";
import { headOfNote } from "../posting/subjectOfNote";

/** How many lines a page has. */
export const LINES = 60;
/** In how many of the latest copies an answer of the relay is looked for. */
const LATEST = 200_000;

/** What is looked for. */
export interface Sought {
  /** Who looks: what others write to people of their own choice is theirs alone. */
  account: string;
  /** All of it, as it was typed. */
  words: string;
  /** The lists of that name, title or address. */
  lists: readonly string[];
}

const pattern = (words: string): string => `%${words.replace(/[\\%_]/g, "\\$&")}%`;

/** Lists the lists that somebody means by a name, a title or an address. */
export async function listMeant(db: Queries, words: string): Promise<string[]> {
  if (words.length < 2) return [];
  const name = canonicalAddress(words).replace(/@.*$/, "");
  const { rows } = await db.execute<{ id: string }>(sql`
    select distinct list.id from list left join list_address on list_address.list_id = list.id
    where list_address.name = ${name} or list.title ilike ${pattern(words)} limit 50`);
  return rows.map(({ id }) => id);
}

/** Lists mails that came in, the newest first. */
export async function listIncoming(db: Queries, sought: Sought, before: Date) {
  const rows = await db
    .select()
    .from(mailIn)
    .where(and(sql`${mailIn.at} < ${before.toISOString()}::timestamptz`, incomingOf(sought)))
    .orderBy(desc(mailIn.at))
    .limit(LINES);
  const parts =
    rows.length === 0
      ? []
      : await db
          .select({ part: mailInPart, title: list.title })
          .from(mailInPart)
          .leftJoin(list, eq(list.id, mailInPart.listId))
          .where(
            inArray(
              mailInPart.mailId,
              rows.map(({ id }) => id),
            ),
          )
          .orderBy(mailInPart.mailId, mailInPart.place);
  return rows.map((row) => ({
    ...row,
    parts: parts.filter(({ part }) => part.mailId === row.id),
  }));
}

/** The mails that somebody means, as one set: each way of meaning one has an index of its own. */
function incomingOf({ words, lists }: Sought): SQL {
  if (words === "") return sql`true`;
  const small = canonicalAddress(words);
  const mails = (condition: SQL): SQL => sql`select ${mailIn.id} from ${mailIn} where ${condition}`;
  const parts = (condition: SQL): SQL =>
    sql`select ${mailInPart.mailId} from ${mailInPart} where ${condition}`;
  const ways = [
    mails(eq(mailIn.id, words.toUpperCase())),
    mails(eq(mailIn.messageId, words)),
    mails(eq(mailIn.fromAddress, small)),
    mails(eq(mailIn.returnPath, small)),
    parts(eq(mailInPart.recipient, small)),
    ...(lists.length === 0 ? [] : [parts(inArray(mailInPart.listId, [...lists]))]),
    ...(words.includes("@")
      ? []
      : [
          mails(sql`${mailIn.subject} ilike ${pattern(words)}`),
          mails(sql`${mailIn.fromName} ilike ${pattern(words)}`),
        ]),
  ];
  return sql`${mailIn.id} in (${sql.join(ways, sql` union `)})`;
}

/** Lists posts that were written here, the newest first; mail that came in has a line of its own. */
export async function listWritten(db: Queries, { words, lists, account }: Sought, before: Date) {
  const found =
    words === ""
      ? sql`true`
      : sql`(${sql.join(
          [
            sql`message.message_id = ${words}`,
            sql`post.from_address = ${canonicalAddress(words)}`,
            ...(lists.length === 0
              ? []
              : [
                  sql`exists (select 1 from ${postList} where ${postList.postId} = post.id and ${inArray(postList.listId, [...lists])})`,
                ]),
            ...(words.includes("@")
              ? []
              : [
                  sql`post.subject ilike ${pattern(words)}`,
                  sql`post.words @@ plainto_tsquery('simple', ${words})`,
                ]),
          ],
          sql` or `,
        )})`;
  const { rows } = await db.execute<{
    id: string;
    at: Date;
    subject: string;
    from_name: string;
    from_address: string;
    lists: string[] | null;
    sent: number;
    waiting: number;
    failed: number;
  }>(sql`
    with found as (
      select post.id, post.at, post.subject, post.from_name, post.from_address
      from post join message on message.id = post.message_id
      where post.at < ${before.toISOString()}::timestamptz and post.outcome = 'goes out' and ${found}
        and not exists (select 1 from mail_in_part where mail_in_part.post_id = post.id)
        and (post.account_id = ${account} or exists (select 1 from post_list where post_list.post_id = post.id))
      order by post.at desc limit ${LINES}
    ) select found.*,
      (select array_agg(list.title order by list.title) from post_list join list on list.id = post_list.list_id where post_list.post_id = found.id) as lists,
      (select count(*)::int from delivery where delivery.post_id = found.id and state = 'sent') as sent,
      (select count(*)::int from delivery where delivery.post_id = found.id and state in ('queued', 'sending', 'deferred')) as waiting,
      (select count(*)::int from delivery where delivery.post_id = found.id and state = 'bounced') as failed
    from found order by found.at desc`);
  return rows;
}

/** Lists mails to single addresses, the newest first: to an address, or with some words in the relay's answer. */
export function listCopies(db: Queries, { words, account }: Sought, before: Date) {
  const at = sql<Date>`coalesce(${delivery.sentAt}, ${delivery.createdAt})`.mapWith(
    delivery.createdAt,
  );
  return db
    .select({
      id: delivery.id,
      address: delivery.address,
      at,
      state: delivery.state,
      attempts: delivery.attempts,
      nextAt: delivery.nextAt,
      reply: delivery.reply,
      isDigest: delivery.isDigest,
      postId: delivery.postId,
      subject: post.subject,
      list: list.title,
      isSecret: sql<boolean>`${delivery.postId} is not null and ${delivery.listId} is null and ${post.accountId} is distinct from ${account}::uuid`,
      head: headOfNote,
    })
    .from(delivery)
    .innerJoin(message, eq(message.id, delivery.messageId))
    .leftJoin(post, eq(post.id, delivery.postId))
    .leftJoin(list, eq(list.id, delivery.listId))
    .where(
      and(
        words.includes("@")
          ? eq(delivery.address, canonicalAddress(words))
          : sql`${delivery.id} > (select coalesce(max(id), 0) - ${LATEST} from delivery) and position(lower(${words}) in lower(${delivery.reply})) > 0`,
        sql`${at} < ${before.toISOString()}::timestamptz`,
      ),
    )
    .orderBy(desc(at), desc(delivery.id))
    .limit(LINES);
}
