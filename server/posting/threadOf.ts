import { sql } from "drizzle-orm";
import { isAnswer, baseSubject } from "@amigo/core/mail/thread";
import type { Queries } from "../db/connect";
import type { PostToAccept } from "./queries";

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
