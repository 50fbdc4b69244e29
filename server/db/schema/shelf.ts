import { sql } from "drizzle-orm";
import {
  bigint,
  check,
  date,
  index,
  integer,
  pgTable,
  primaryKey,
  text,
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import { account } from "./accounts";
import { bytea, instant } from "./columns";
import { list } from "./lists";

/** Octets that are kept once, however many things have them. */
export const blob = pgTable(
  "blob",
  {
    id: uuid().primaryKey().defaultRandom(),
    /** SHA-256 of all of it, in hexadecimal; null while it is still coming. */
    hash: text(),
    size: bigint({ mode: "number" }).notNull().default(0),
    madeAt: instant("made_at").notNull().defaultNow(),
  },
  (table) => [uniqueIndex("blob_hash").on(table.hash)],
);

/** A part of the octets, so that they never have to be in memory as a whole. */
export const blobPart = pgTable(
  "blob_part",
  {
    blobId: uuid("blob_id")
      .notNull()
      .references(() => blob.id, { onDelete: "cascade" }),
    position: integer().notNull(),
    content: bytea().notNull(),
  },
  (table) => [primaryKey({ columns: [table.blobId, table.position] })],
);

/** A file or link that lists share with their members. */
export const shelfThing = pgTable(
  "shelf_thing",
  {
    id: uuid().primaryKey().defaultRandom(),
    kind: text().$type<"file" | "link">().notNull(),
    title: text().notNull(),
    /** Where a link leads; empty for a file. */
    link: text().notNull().default(""),
    /** The folder on the shelf; empty for none. */
    folder: text().notNull().default(""),
    /** The last day on which members may open it; null for no end. */
    untilDay: date("until_day"),
    accountId: uuid("account_id").references(() => account.id),
    /** Who put it there, as their name was then. */
    madeBy: text("made_by").notNull(),
    madeAt: instant("made_at").notNull().defaultNow(),
    /** Which version of a file holds. */
    version: integer().notNull().default(1),
    /** How often title, folder, last day or lists have changed, for those who change them at the same time. */
    changes: integer().notNull().default(0),
    takenOffAt: instant("taken_off_at"),
  },
  (table) => [check("shelf_thing_kind", sql`${table.kind} in ('file', 'link')`)],
);

/** On which lists' shelves a thing is. */
export const shelfPlace = pgTable(
  "shelf_place",
  {
    thingId: uuid("thing_id")
      .notNull()
      .references(() => shelfThing.id, { onDelete: "cascade" }),
    listId: uuid("list_id")
      .notNull()
      .references(() => list.id),
  },
  (table) => [
    primaryKey({ columns: [table.thingId, table.listId] }),
    index("shelf_place_list").on(table.listId),
  ],
);

/** A version of a file. */
export const shelfVersion = pgTable(
  "shelf_version",
  {
    thingId: uuid("thing_id")
      .notNull()
      .references(() => shelfThing.id, { onDelete: "cascade" }),
    number: integer().notNull(),
    blobId: uuid("blob_id")
      .notNull()
      .references(() => blob.id),
    name: text().notNull(),
    by: text().notNull(),
    at: instant("at").notNull().defaultNow(),
  },
  (table) => [
    primaryKey({ columns: [table.thingId, table.number] }),
    index("shelf_version_blob").on(table.blobId),
  ],
);

/** That a member has opened a thing. */
export const shelfOpening = pgTable(
  "shelf_opening",
  {
    thingId: uuid("thing_id")
      .notNull()
      .references(() => shelfThing.id, { onDelete: "cascade" }),
    address: text().notNull(),
    firstAt: instant("first_at").notNull().defaultNow(),
    lastAt: instant("last_at").notNull().defaultNow(),
  },
  (table) => [
    primaryKey({ columns: [table.thingId, table.address] }),
    index("shelf_opening_address").on(table.address),
  ],
);
