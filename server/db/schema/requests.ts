import { sql } from "drizzle-orm";
import { pgTable, uuid, text, integer, uniqueIndex, check } from "drizzle-orm/pg-core";
import type { Edit } from "@amigo/core/lists/edit";
import type { Adding } from "@amigo/core/lists/recipe";
import { account } from "./accounts";
import { jsonb, instant } from "./columns";
import { site } from "./house";

/** What waits for a coordinator's yes: an edit, and addresses to be put on a list once it is given. */
export interface RequestWork {
  edit: Edit | null;
  members: { addresses: string[]; how: Adding; reason: string; lastDay: string } | null;
}

/** Somebody asks that one list may be otherwise than the house's rules have it. */
export const request = pgTable(
  "request",
  {
    id: uuid().primaryKey().defaultRandom(),
    accountId: uuid("account_id")
      .notNull()
      .references(() => account.id),
    /** The list's key, its title, and its site where it has one. */
    list: text().notNull(),
    title: text().notNull(),
    siteId: integer("site_id").references(() => site.id),
    /** The posting rule that stands in the way, or `convention` for a name; and what it should be. */
    rule: text().notNull(),
    wanted: text().notNull(),
    sentence: text().notNull(),
    why: text().notNull(),
    work: jsonb().$type<RequestWork>().notNull(),
    at: instant("at").notNull().defaultNow(),
    state: text().$type<"open" | "granted" | "refused" | "withdrawn">().notNull().default("open"),
    decidedBy: text("decided_by").notNull().default(""),
    decidedAt: instant("decided_at"),
    /** The last day of a yes; empty for no end. A word with a no. */
    until: text().notNull().default(""),
    word: text().notNull().default(""),
  },
  (table) => [
    uniqueIndex("request_once")
      .on(table.list, table.rule)
      .where(sql`${table.state} = 'open'`),
    check("request_state", sql`${table.state} in ('open', 'granted', 'refused', 'withdrawn')`),
  ],
);
