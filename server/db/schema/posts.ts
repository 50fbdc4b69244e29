import type { Version } from "@amigo/core/mail/versions";
import { sql } from "drizzle-orm";
import { pgTable, uuid, integer, text, index, boolean, primaryKey } from "drizzle-orm/pg-core";
import { account } from "./accounts";
import { bytea, instant, jsonb, tsvector } from "./columns";
import { list } from "./lists";
import type { Mold } from "../../posting/noteSheet";

/** A mail as it came in or was written, octet for octet. */
export const message = pgTable(
  "message",
  {
    id: uuid().primaryKey().defaultRandom(),
    raw: bytea().notNull(),
    size: integer().notNull(),
    messageId: text("message_id").notNull(),
    at: instant("at").notNull().defaultNow(),
    /** What was found of its signatures when it came in, to be passed on in an ARC set (RFC 8617); null where it had none. */
    arc: jsonb().$type<{ cv: "none" | "pass"; results: string } | null>(),
    /** What every copy is filled in from, where each recipient's is another. */
    merge: jsonb().$type<MergeParts | null>(),
    /** What every copy of a mail of Amigo's own to many is written from; null for any other. */
    mold: jsonb().$type<Mold | null>(),
    /** When it was deleted from the archive; its raw text is empty from then on. */
    erasedAt: instant("erased_at"),
  },
  (table) => [index("message_message_id").on(table.messageId)],
);

/** The parts of a mail that are filled in for each recipient: `{first name}` and others stand in them. */
export interface MergeParts {
  subject: string;
  text: string;
  html: string;
  /** The same in each of its languages, where it has several; above, they stand joined in the order of their writer. */
  versions?: Version[];
}

export const post = pgTable(
  "post",
  {
    id: uuid().primaryKey().defaultRandom(),
    messageId: uuid("message_id")
      .notNull()
      .references(() => message.id),
    subject: text().notNull(),
    fromName: text("from_name").notNull(),
    fromAddress: text("from_address").notNull(),
    accountId: uuid("account_id").references(() => account.id),
    /** For a mail that was not sent on: the result, and why. */
    outcome: text().$type<"goes out" | "held" | "returned" | "dropped">().notNull(),
    reasons: text().array().notNull(),
    at: instant("at").notNull().defaultNow(),
    /** Whom it reaches: everybody on its lists, or their leads alone. */
    reaches: text().$type<"members" | "leads">().notNull().default("members"),
    /** Where a note goes when it is returned after it was held. */
    returnPath: text("return_path").notNull().default(""),
    /** Who decided on it when it was held. */
    decidedBy: text("decided_by").notNull().default(""),
    decidedAt: instant("decided_at"),
    /** The first post of its thread; its own id for the first. */
    thread: uuid(),
    /** Until then it waits and can be taken back. */
    leavesAt: instant("leaves_at"),
    /** What has not left waits while this is set: who paused it. */
    pausedBy: text("paused_by").notNull().default(""),
    /** Whether it comes from the list itself, though the list's posts come from their writers. */
    asList: boolean("as_list").notNull().default(false),
    /** Who took it out of the archive. */
    takenOutBy: text("taken_out_by").notNull().default(""),
    takenOutAt: instant("taken_out_at"),
    /** Subject and text for finding it. */
    words: tsvector(),
    /** The beginning of its text and how many files are attached, for whoever decides on it; null where it was stored before these were kept. */
    beginning: text(),
    attachments: integer(),
  },
  (table) => [
    index("post_thread").on(table.thread),
    index("post_message").on(table.messageId),
    index("post_words").using("gin", table.words),
    index("post_at").on(table.at),
    index("post_paused")
      .on(table.id)
      .where(sql`${table.pausedBy} <> ''`),
    index("post_held")
      .on(table.at)
      .where(sql`${table.outcome} = 'held'`),
  ],
);

export const postList = pgTable(
  "post_list",
  {
    postId: uuid("post_id")
      .notNull()
      .references(() => post.id),
    listId: uuid("list_id")
      .notNull()
      .references(() => list.id),
  },
  (table) => [
    primaryKey({ columns: [table.postId, table.listId] }),
    index("post_list_list").on(table.listId),
  ],
);

/** The message ids that a list has taken, so that one mail goes out to it once. */
export const listMessage = pgTable(
  "list_message",
  {
    listId: uuid("list_id")
      .notNull()
      .references(() => list.id),
    messageId: text("message_id").notNull(),
  },
  (table) => [primaryKey({ columns: [table.listId, table.messageId] })],
);

/** A post that waits for somebody's digest of a list, or has gone out in one. */
export const digestItem = pgTable(
  "digest_item",
  {
    listId: uuid("list_id")
      .notNull()
      .references(() => list.id),
    address: text().notNull(),
    postId: uuid("post_id")
      .notNull()
      .references(() => post.id),
    at: instant("at").notNull().defaultNow(),
    sentAt: instant("sent_at"),
  },
  (table) => [
    primaryKey({ columns: [table.address, table.postId] }),
    index("digest_post").on(table.postId),
    index("digest_due")
      .on(table.address, table.listId)
      .where(sql`${table.sentAt} is null`),
  ],
);
