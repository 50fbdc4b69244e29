import { sql } from "drizzle-orm";
import { pgTable, uuid, date, primaryKey, text, check } from "drizzle-orm/pg-core";
import { account } from "./accounts";
import { instant } from "./columns";

/** The days on which a lead was told by mail that lists had changed, so that it is one mail a day. */
export const leadNote = pgTable(
  "lead_note",
  {
    accountId: uuid("account_id")
      .notNull()
      .references(() => account.id),
    day: date().notNull(),
    /** Changes up to here were told. */
    upTo: instant("up_to").notNull(),
  },
  (table) => [primaryKey({ columns: [table.accountId, table.day] })],
);

/** Who gets a note when somebody was added to a list or by an intake, at most one an hour. */
export const watch = pgTable(
  "watch",
  {
    accountId: uuid("account_id")
      .notNull()
      .references(() => account.id),
    what: text().$type<"intake" | "list">().notNull(),
    about: uuid().notNull(),
    /** What was added up to here was told, or was before they began to watch. */
    upTo: instant("up_to").notNull().defaultNow(),
    toldAt: instant("told_at"),
  },
  (table) => [
    primaryKey({ columns: [table.accountId, table.what, table.about] }),
    check("watch_what", sql`${table.what} in ('intake', 'list')`),
  ],
);
