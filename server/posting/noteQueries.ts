import { randomUUID } from "node:crypto";
import { sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { message } from "../db/schema/posts";
import { CHANNEL } from "../events/events";
import type { Mold } from "./noteSheet";

/** What goes first: what somebody waits for at this moment, then other notes, then posts, digests last. */
export const PRIORITIES = { link: 1, note: 3, post: 5, digest: 7 } as const;

/** Queues a note to one address. */
export async function queueNoteTo(
  db: Queries,
  raw: Buffer,
  messageId: string,
  address: string,
  what: keyof typeof PRIORITIES,
): Promise<void> {
  await db.execute(sql`with made as (insert into message (raw, size, message_id) values (${raw}, ${raw.length}, ${messageId}) returning id),
    queued as (insert into delivery (message_id, address, token, priority, is_digest) select id, ${address}, ${randomUUID().replace(/-/g, "")}, ${PRIORITIES[what]}, ${what === "digest"} from made returning id)
    select pg_notify(${CHANNEL}, 'queue') from queued`);
}

/** A mail of Amigo's own to one address. */
export interface Note {
  raw: Buffer;
  messageId: string;
  address: string;
}

/** A mail of Amigo's own to many, kept once; each copy is written when it leaves. */
export interface NoteSheet {
  /** The mail with marks for what differs, by which it is known what was sent. */
  raw: Buffer;
  messageId: string;
  mold: Mold;
  each: readonly { address: string; token: string }[];
}

/** Queues the copies of a mail of Amigo's own to many. */
export async function queueSheetTo(
  db: Queries,
  { raw, messageId, mold, each }: NoteSheet,
  what: keyof typeof PRIORITIES,
): Promise<void> {
  const [made] = await db
    .insert(message)
    .values({ raw, size: raw.length, messageId, mold })
    .returning({ id: message.id });
  if (made === undefined) throw new Error("the mail was not stored");
  await db.execute(sql`
    insert into delivery (message_id, address, token, priority, fields)
    select ${made.id}, address, replace(gen_random_uuid()::text, '-', ''), ${PRIORITIES[what]}, jsonb_build_object('token', secret)
    from unnest(${sql.param(each.map(({ address }) => address))}::text[], ${sql.param(each.map(({ token }) => token))}::text[]) with ordinality as own(address, secret, place)
    order by place`);
  await db.execute(sql`select pg_notify(${CHANNEL}, 'queue')`);
}

/** Queues many mails of Amigo's own in two statements, each to one address. */
export async function queueNotesTo(
  db: Queries,
  notes: readonly Note[],
  what: keyof typeof PRIORITIES,
): Promise<void> {
  const rows = notes.map((note) => ({ ...note, id: randomUUID() }));
  await db.execute(sql`
    insert into message (id, raw, size, message_id)
    select id, raw, length(raw), message_id from unnest(${sql.param(rows.map(({ id }) => id))}::uuid[], ${sql.param(rows.map(({ raw }) => raw))}::bytea[], ${sql.param(rows.map(({ messageId }) => messageId))}::text[]) as own(id, raw, message_id)`);
  await db.execute(sql`
    insert into delivery (message_id, address, token, priority, is_digest)
    select message_id, address, replace(gen_random_uuid()::text, '-', ''), ${PRIORITIES[what]}, ${what === "digest"}
    from unnest(${sql.param(rows.map(({ id }) => id))}::uuid[], ${sql.param(rows.map(({ address }) => address))}::text[]) with ordinality as own(message_id, address, place)
    order by place`);
  await db.execute(sql`select pg_notify(${CHANNEL}, 'queue')`);
}
