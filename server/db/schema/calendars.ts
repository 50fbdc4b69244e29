import { sql } from "drizzle-orm";
import {
  check,
  index,
  integer,
  pgTable,
  primaryKey,
  serial,
  text,
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import { account } from "./accounts";
import { instant, jsonb } from "./columns";
import { list } from "./lists";

/** The secret address of a calendar that programs read: of a list, of an account, of a member, of one of their children, or of the whole house. */
export const calendarFeed = pgTable(
  "calendar_feed",
  {
    id: serial().primaryKey(),
    kind: text().$type<"list" | "account" | "address" | "child" | "house">().notNull(),
    listId: uuid("list_id").references(() => list.id),
    accountId: uuid("account_id").references(() => account.id),
    /** The member's, and of which of their children it is, where it is of one alone. */
    address: text(),
    person: text(),
    secret: text().notNull(),
    madeAt: instant("made_at").notNull().defaultNow(),
  },
  (table) => [
    uniqueIndex("calendar_feed_secret").on(table.secret),
    uniqueIndex("calendar_feed_of").on(
      table.kind,
      sql`coalesce(${table.listId}::text, ${table.accountId}::text, ${table.address}, '')`,
      sql`coalesce(${table.person}, '')`,
    ),
    check(
      "calendar_feed_kind",
      sql`${table.kind} in ('list', 'account', 'address', 'child', 'house')`,
    ),
  ],
);

/** A web address with dates that somebody watches: a fixture list, or a calendar. */
export const calendarWatch = pgTable(
  "calendar_watch",
  {
    id: uuid().primaryKey().defaultRandom(),
    /** Whose it is: the dates are made by their rights. */
    accountId: uuid("account_id")
      .notNull()
      .references(() => account.id),
    /** Under which name its dates are imported. */
    name: text().notNull(),
    location: text().notNull(),
    /** The list of dates without a team, and which of a team's lists is meant. */
    listId: uuid("list_id").references(() => list.id),
    group: text().notNull().default(""),
    /** What the server said of what it sent last, to be asked only for what has changed. */
    seen: jsonb().$type<Record<string, string>>().notNull().default({}),
    /** How many differences wait for a review. */
    waiting: integer().notNull().default(0),
    lookedAt: instant("looked_at"),
    nextAt: instant("next_at"),
    /** Why the last look failed, how many have failed in a row, and since when. */
    fault: text().notNull().default(""),
    failures: integer().notNull().default(0),
    failingSince: instant("failing_since"),
  },
  (table) => [
    uniqueIndex("calendar_watch_name").on(table.accountId, table.name),
    index("calendar_watch_next").on(table.nextAt),
  ],
);

/** What a program knew of one of its calendars or address books when it last asked: each thing with its version. */
export const davSync = pgTable(
  "dav_sync",
  {
    accountId: uuid("account_id")
      .notNull()
      .references(() => account.id),
    collection: text().notNull(),
    token: text().notNull(),
    state: jsonb().$type<Record<string, string>>().notNull(),
    askedAt: instant("asked_at").notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.accountId, table.collection, table.token] })],
);
