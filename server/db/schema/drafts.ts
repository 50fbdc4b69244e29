import { sql } from "drizzle-orm";
import { pgTable, uuid, text, index, integer, boolean, uniqueIndex } from "drizzle-orm/pg-core";
import type { DraftContent } from "@amigo/contract/drafts";
import { account } from "./accounts";
import { jsonb, instant, bytea } from "./columns";

/** To whom a mail is to go, as it was put together in the composer. */
export interface Recipients {
  lists: string[];
  privately: string[];
  people: string[];
  addresses: string[];
}

/** A mail that somebody is writing, or that waits for its time. */
export const draft = pgTable(
  "draft",
  {
    id: uuid().primaryKey().defaultRandom(),
    accountId: uuid("account_id")
      .notNull()
      .references(() => account.id),
    content: jsonb().$type<DraftContent>().notNull(),
    /** When it goes out by itself; null while it is being written. */
    sendAt: instant("send_at"),
    changedAt: instant("changed_at").notNull().defaultNow(),
    /** The post that was made of it. It is kept a while, so that the post can be taken back. */
    postId: uuid("post_id"),
    /** Why it did not go out at its time; empty for all well. */
    fault: text().notNull().default(""),
  },
  (table) => [index("draft_account").on(table.accountId), index("draft_send").on(table.sendAt)],
);

/** A file that goes with a draft. `cid` names a picture that stands in its text. */
export const draftFile = pgTable(
  "draft_file",
  {
    id: uuid().primaryKey().defaultRandom(),
    draftId: uuid("draft_id")
      .notNull()
      .references(() => draft.id, { onDelete: "cascade" }),
    name: text().notNull(),
    type: text().notNull(),
    size: integer().notNull(),
    content: bytea().notNull(),
    cid: text().notNull().default(""),
  },
  (table) => [index("draft_file_draft").on(table.draftId)],
);

/** A text to begin a mail with, one's own or the whole house's. */
export const template = pgTable(
  "template",
  {
    id: uuid().primaryKey().defaultRandom(),
    accountId: uuid("account_id")
      .notNull()
      .references(() => account.id),
    shared: boolean().notNull().default(false),
    name: text().notNull(),
    subject: text().notNull(),
    html: text().notNull(),
  },
  (table) => [uniqueIndex("template_name").on(table.accountId, sql`lower(${table.name})`)],
);
