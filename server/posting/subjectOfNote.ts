import { simpleParser } from "mailparser";
import { sql } from "drizzle-orm";
import { delivery } from "../db/schema/deliveries";
import { message } from "../db/schema/posts";

/** How many octets of a mail of Amigo's own are read for its subject. */
const HEAD = 8192;

/** The beginning of a mail of Amigo's own, in which its subject stands; null for a copy of a post. */
export const headOfNote = sql<Buffer | null>`case when ${delivery.postId} is null then substring(${message.raw} from 1 for ${sql.raw(String(HEAD))}) end`;

/** Returns the subject of a mail of Amigo's own; undefined where it is none, or nothing of it is kept. */
export async function subjectOfNote(head: Buffer | null): Promise<string | undefined> {
  return head === null
    ? undefined
    : (await simpleParser(head, { skipTextToHtml: true, skipHtmlToText: true })).subject;
}
