import { sql } from "drizzle-orm";
import { pgTable, uuid, integer, text, index, boolean, primaryKey } from "drizzle-orm/pg-core";
import type { MailResult } from "@amigo/core/mail/mailResults";
import { account } from "./accounts";
import { instant } from "./columns";
import { list } from "./lists";
import { post } from "./posts";

/** Every mail that came in, whatever happened to it. Never its text. */
export const mailIn = pgTable(
  "mail_in",
  {
    /** What the answer to its sender's server names, and the log. */
    id: text().primaryKey(),
    at: instant("at").notNull().defaultNow(),
    fromAddress: text("from_address").notNull(),
    /** The name on it, as it came. */
    fromName: text("from_name").notNull(),
    returnPath: text("return_path").notNull(),
    subject: text().notNull(),
    messageId: text("message_id").notNull(),
    size: integer().notNull(),
    /** The network address that it came from, what that called itself, and whether the connection was encrypted. */
    network: text().notNull(),
    helo: text().notNull(),
    secure: boolean().notNull(),
    /** Whoever signed in to hand it in. */
    accountId: uuid("account_id").references(() => account.id),
    /** What proves its sender. */
    proof: text().$type<"signed-in" | "dkim" | "spf" | "none" | "forged">().notNull(),
    /** What its sender's server was answered. */
    answer: text().notNull(),
  },
  (table) => [
    index("mail_in_at").on(table.at),
    index("mail_in_from").on(table.fromAddress),
    index("mail_in_message").on(table.messageId),
    index("mail_in_return_path").on(table.returnPath),
    index("mail_in_words").using(
      "gin",
      sql`${table.subject} gin_trgm_ops`,
      sql`${table.fromName} gin_trgm_ops`,
    ),
  ],
);

/** What an incoming mail was for each address that it came to. */
export const mailInPart = pgTable(
  "mail_in_part",
  {
    mailId: text("mail_id")
      .notNull()
      .references(() => mailIn.id, { onDelete: "cascade" }),
    place: integer().notNull(),
    /** The address, without a secret in it. */
    recipient: text().notNull(),
    listId: uuid("list_id").references(() => list.id),
    postId: uuid("post_id").references(() => post.id),
    result: text().$type<MailResult>().notNull(),
    reasons: text().array().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.mailId, table.place] }),
    index("mail_in_part_list").on(table.listId),
    index("mail_in_part_recipient").on(table.recipient),
    index("mail_in_part_post").on(table.postId),
  ],
);
