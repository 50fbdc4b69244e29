import { sql } from "drizzle-orm";
import { pgTable, text, index, check, uuid, primaryKey, date } from "drizzle-orm/pg-core";
import { instant } from "./columns";
import { list } from "./lists";

/** What a mailed link is for. It does nothing else, once, until it has run out. */
export type LinkPurpose =
  | "invitation"
  | "sign-in"
  | "new password"
  | "own mail"
  | "member page"
  | "new address"
  | "held mail"
  | "leave"
  | "sign-up"
  | "second guardian";

export const mailedLink = pgTable(
  "mailed_link",
  {
    tokenHash: text("token_hash").primaryKey(),
    purpose: text().$type<LinkPurpose>().notNull(),
    /** To whom it was mailed. */
    address: text().notNull(),
    /** What it is about: an account, a post, or an address by another. */
    about: text().notNull().default(""),
    createdAt: instant("created_at").notNull().defaultNow(),
    expiresAt: instant("expires_at").notNull(),
    usedAt: instant("used_at"),
  },
  (table) => [
    index("mailed_link_address").on(table.address, table.createdAt),
    check(
      "mailed_link_purpose",
      sql`${table.purpose} in ('invitation', 'sign-in', 'new password', 'own mail', 'member page', 'new address', 'held mail', 'leave', 'sign-up', 'second guardian')`,
    ),
  ],
);

/** A member who has opened their page by a mailed link. They have no account. */
export const memberSession = pgTable(
  "member_session",
  {
    tokenHash: text("token_hash").primaryKey(),
    address: text().notNull(),
    createdAt: instant("created_at").notNull().defaultNow(),
    expiresAt: instant("expires_at").notNull(),
  },
  (table) => [index("member_session_address").on(table.address)],
);

/** How often an address gets the mail of one list, where its owner has chosen. */
export const receiving = pgTable(
  "receiving",
  {
    listId: uuid("list_id")
      .notNull()
      .references(() => list.id),
    address: text().notNull(),
    howOften: text("how_often").notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.listId, table.address] }),
    index("receiving_address").on(table.address),
  ],
);

/** In which language Amigo itself writes to an address, and by what it is known: its owner's choice, a form, or a browser. */
export const addressLanguage = pgTable(
  "address_language",
  {
    address: text().primaryKey(),
    language: text().notNull(),
    knownBy: text("known_by").notNull(),
  },
  (table) => [
    check("address_language_known_by", sql`${table.knownBy} in ('choice', 'form', 'browser')`),
  ],
);

/** An address that gets no mail of lists until a day is over. */
export const pause = pgTable("pause", {
  address: text().primaryKey(),
  until: date().notNull(),
});
