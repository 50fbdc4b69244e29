import { sql } from "drizzle-orm";
import {
  bigint,
  boolean,
  check,
  date,
  index,
  integer,
  pgTable,
  primaryKey,
  text,
  unique,
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import { account } from "./accounts";
import { bytea, instant } from "./columns";
import { list, privateList } from "./lists";
import type { MembersMay } from "@amigo/core/shelf/membersMay";

/** Octets that are kept once, however many things have them. */
export const blob = pgTable(
  "blob",
  {
    id: uuid().primaryKey().defaultRandom(),
    /** SHA-256 of all of it, in hexadecimal; null while it is still coming. */
    hash: text(),
    size: bigint({ mode: "number" }).notNull().default(0),
    /** Where they are: in rows of this database, or as objects in the store that the settings name. */
    store: text().$type<"database" | "objects">().notNull().default("database"),
    madeAt: instant("made_at").notNull().defaultNow(),
    /** When a virus scanner last found nothing in them; null where none was asked. */
    scannedAt: instant("scanned_at"),
    /** When they were last compared with their checksum. */
    provedAt: instant("proved_at"),
    /** Since when they are known to be others than those that came. */
    damagedAt: instant("damaged_at"),
  },
  (table) => [
    uniqueIndex("blob_hash")
      .on(table.hash)
      .where(sql`${table.damagedAt} is null`),
    index("blob_proved").on(sql`coalesce(${table.provedAt}, ${table.madeAt})`),
  ],
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
    /** What members may do with it, beside opening it. */
    membersMay: text("members_may").$type<MembersMay>().notNull().default("view"),
    accountId: uuid("account_id").references(() => account.id),
    /** The member who put it there, where it wasn't an account. */
    address: text(),
    /** Who put it there, as their name was then. */
    madeBy: text("made_by").notNull(),
    madeAt: instant("made_at").notNull().defaultNow(),
    /** Which version of a file holds. */
    version: integer().notNull().default(1),
    /** How often title, folder, last day or lists have changed, for those who change them at the same time. */
    changes: integer().notNull().default(0),
    takenOffAt: instant("taken_off_at"),
  },
  (table) => [
    check("shelf_thing_kind", sql`${table.kind} in ('file', 'link')`),
    check("shelf_thing_members_may", sql`${table.membersMay} in ('view', 'comment', 'change')`),
    index("shelf_thing_address").on(table.address),
  ],
);

/** On which shelves a thing is: each that of a list or of a private list. */
export const shelfPlace = pgTable(
  "shelf_place",
  {
    thingId: uuid("thing_id")
      .notNull()
      .references(() => shelfThing.id, { onDelete: "cascade" }),
    listId: uuid("list_id").references(() => list.id),
    privateListId: uuid("private_list_id").references(() => privateList.id, {
      onDelete: "cascade",
    }),
  },
  (table) => [
    unique("shelf_place_once")
      .on(table.thingId, table.listId, table.privateListId)
      .nullsNotDistinct(),
    check("shelf_place_of_one", sql`(${table.listId} is null) <> (${table.privateListId} is null)`),
    index("shelf_place_list").on(table.listId),
    index("shelf_place_private_list")
      .on(table.privateListId)
      .where(sql`${table.privateListId} is not null`),
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
    /** The member who put it there, where it wasn't an account. */
    address: text(),
    at: instant("at").notNull().defaultNow(),
  },
  (table) => [
    primaryKey({ columns: [table.thingId, table.number] }),
    index("shelf_version_blob").on(table.blobId),
    index("shelf_version_address").on(table.address),
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

/** What somebody says about a thing. */
export const shelfComment = pgTable(
  "shelf_comment",
  {
    id: uuid().primaryKey().defaultRandom(),
    thingId: uuid("thing_id")
      .notNull()
      .references(() => shelfThing.id, { onDelete: "cascade" }),
    at: instant("at").notNull().defaultNow(),
    accountId: uuid("account_id").references(() => account.id),
    /** The member who wrote it, where it wasn't an account. */
    address: text(),
    /** Who wrote it, as the house called them then. */
    name: text().notNull(),
    /** Empty once it is taken out. */
    content: text().notNull(),
    takenOutBy: text("taken_out_by"),
  },
  (table) => [
    index("shelf_comment_thing").on(table.thingId, table.at),
    index("shelf_comment_address").on(table.address),
  ],
);

/** Who wants to be told by mail what others say about a thing. */
export const shelfFollower = pgTable(
  "shelf_follower",
  {
    thingId: uuid("thing_id")
      .notNull()
      .references(() => shelfThing.id, { onDelete: "cascade" }),
    address: text().notNull(),
    /** The account whose address it is; null for a member. */
    accountId: uuid("account_id").references(() => account.id, { onDelete: "cascade" }),
  },
  (table) => [
    primaryKey({ columns: [table.thingId, table.address] }),
    index("shelf_follower_address").on(table.address),
  ],
);

/** To whose shelves members may add things of their own. */
export const shelfOpenToMembers = pgTable("shelf_open_to_members", {
  listId: uuid("list_id")
    .primaryKey()
    .references(() => list.id, { onDelete: "cascade" }),
});

/** A folder that was made by a program, so that it is there before anything is in it. */
export const shelfFolder = pgTable(
  "shelf_folder",
  {
    /** The list, or the private list. */
    listId: uuid("list_id").notNull(),
    name: text().notNull(),
  },
  (table) => [primaryKey({ columns: [table.listId, table.name] })],
);

/** A place on a shelf that a program has locked (RFC 4918, section 6). */
export const davLock = pgTable(
  "dav_lock",
  {
    token: uuid().primaryKey().defaultRandom(),
    accountId: uuid("account_id")
      .notNull()
      .references(() => account.id, { onDelete: "cascade" }),
    /** The list or private list, and below it the folder and file, as they are written in a path but decoded. */
    listId: uuid("list_id").notNull(),
    path: text().notNull(),
    isDeep: boolean("is_deep").notNull(),
    isShared: boolean("is_shared").notNull(),
    /** What the program says of its owner. */
    owner: text().notNull().default(""),
    expiresAt: instant("expires_at").notNull(),
  },
  (table) => [index("dav_lock_list").on(table.listId)],
);

/** A file that is still coming, piece by piece, so that a broken connection loses no more than the last piece. */
export const upload = pgTable(
  "upload",
  {
    id: uuid().primaryKey().defaultRandom(),
    blobId: uuid("blob_id")
      .notNull()
      .references(() => blob.id, { onDelete: "cascade" }),
    /** How many octets it will have. */
    size: bigint({ mode: "number" }).notNull(),
    /** How many of its parts have come. */
    parts: integer().notNull().default(0),
    /** How many octets have come. */
    received: bigint({ mode: "number" }).notNull().default(0),
    accountId: uuid("account_id").references(() => account.id, { onDelete: "cascade" }),
    address: text(),
  },
  (table) => [
    uniqueIndex("upload_blob").on(table.blobId),
    index("upload_account").on(table.accountId),
    index("upload_address").on(table.address),
  ],
);
