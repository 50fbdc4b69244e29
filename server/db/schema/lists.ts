import { sql } from "drizzle-orm";
import {
  pgTable,
  serial,
  integer,
  text,
  uniqueIndex,
  uuid,
  index,
  check,
  date,
  boolean,
  primaryKey,
  bigserial,
} from "drizzle-orm/pg-core";
import type { CohortKind } from "@amigo/core/facts/cohort";
import type { ListPoint } from "@amigo/core/lists/listPoint";
import type { Adding } from "@amigo/core/lists/recipe";
import type { ListKind, Rules } from "@amigo/core/posting/rules/rule";
import { account } from "./accounts";
import { instant, jsonb } from "./columns";
import { season, site } from "./house";

export const cohort = pgTable(
  "cohort",
  {
    id: serial().primaryKey(),
    seasonId: integer("season_id")
      .notNull()
      .references(() => season.id),
    key: text().notNull(),
    kind: text().$type<CohortKind>().notNull(),
    name: text().notNull(),
    siteId: integer("site_id").references(() => site.id),
    coach: text().notNull().default(""),
    goneAt: instant("gone_at"),
  },
  (table) => [uniqueIndex("cohort_key").on(table.seasonId, table.key)],
);

export const list = pgTable(
  "list",
  {
    id: uuid().primaryKey().defaultRandom(),
    /** The part of its address before the @. */
    name: text().notNull(),
    title: text().notNull(),
    seasonId: integer("season_id")
      .notNull()
      .references(() => season.id),
    /** What recipes and people call it: recipe and cohort, or its id. What is wanted of it stands in the facts of this subject. */
    key: text().notNull(),
    cohortId: integer("cohort_id").references(() => cohort.id),
    recipeId: integer("recipe_id"),
    siteId: integer("site_id").references(() => site.id),
    description: text().notNull().default(""),
    /** Short names by which it is found, with commas between. */
    short: text().notNull().default(""),
    /** Its audience as text, as recipe or list have it. */
    audience: text().notNull().default(""),
    preset: text().notNull(),
    /** What sort of people it is for, as far as the house's rules tell them apart. */
    kind: text().$type<ListKind>().notNull().default("other"),
    /** Its posting rules as they hold, within those of the house. */
    rules: jsonb().$type<Rules>().notNull(),
    adding: text().$type<Adding>().notNull().default("quietly"),
    /** In what it stands apart from its recipe. */
    apart: text()
      .array()
      .$type<ListPoint[]>()
      .notNull()
      .default(sql`'{}'`),
    createdAt: instant("created_at").notNull().defaultNow(),
    closedAt: instant("closed_at"),
    /** The round that opened the next season and closed it by that; null for any other reason. */
    closedRound: integer("closed_round"),
    /** The key of the list that has taken its place in the season after; empty for none. */
    successorKey: text("successor_key").notNull().default(""),
  },
  (table) => [
    uniqueIndex("list_key").on(table.seasonId, table.key),
    index("list_cohort").on(table.cohortId),
    check(
      "list_name_form",
      sql`${table.name} ~ '^[a-z0-9]([a-z0-9.-]*[a-z0-9])?$' and length(${table.name}) <= 64`,
    ),
  ],
);

/** Every name that leads to a list, or lately did: its own, and old ones until a day. One name, one list. */
export const listAddress = pgTable(
  "list_address",
  {
    id: serial().primaryKey(),
    name: text().notNull(),
    listId: uuid("list_id")
      .notNull()
      .references(() => list.id),
    kind: text().$type<"name" | "alias">().notNull(),
    /** The last day of an alias; null for a list's own name. */
    until: date(),
    /** Given up: another list may have the name. */
    released: boolean().notNull().default(false),
  },
  (table) => [
    uniqueIndex("one_address_one_list")
      .on(table.name)
      .where(sql`not ${table.released}`),
    index("list_address_list").on(table.listId),
    check("list_address_kind", sql`${table.kind} in ('name', 'alias')`),
  ],
);

/** By what somebody finds a list when they type, for themselves alone. */
export const ownShortName = pgTable(
  "own_short_name",
  {
    accountId: uuid("account_id")
      .notNull()
      .references(() => account.id),
    listId: uuid("list_id")
      .notNull()
      .references(() => list.id),
    short: text().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.accountId, table.listId] }),
    uniqueIndex("own_short_name_once").on(table.accountId, table.short),
  ],
);

/** A list of people that only its owner sees and writes to. It has no address, and nobody on it knows. */
export const privateList = pgTable(
  "private_list",
  {
    id: uuid().primaryKey().defaultRandom(),
    accountId: uuid("account_id")
      .notNull()
      .references(() => account.id),
    /** The name and the id under which an address book program has put it here; null where it was made in Amigo. */
    davName: text("dav_name"),
    cardUid: text("card_uid"),
    name: text().notNull(),
    /** Whether mail for a child on it goes to the guardians or to the child. */
    children: text().$type<"guardians" | "themselves">().notNull().default("guardians"),
    createdAt: instant("created_at").notNull().defaultNow(),
  },
  (table) => [uniqueIndex("private_list_name").on(table.accountId, sql`lower(${table.name})`)],
);

/** Somebody on a private list, with the name they had when they were put there. */
export const privateListPerson = pgTable(
  "private_list_person",
  {
    privateListId: uuid("private_list_id")
      .notNull()
      .references(() => privateList.id),
    person: text().notNull(),
    name: text().notNull(),
    addedAt: instant("added_at").notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.privateListId, table.person] })],
);

/**
 * A mail to somebody who comes onto a list: a welcome, or the question whether they want to be on it, where they are
 * on it once they have said yes. Written at once, mailed by a worker, each once. Or, without a mail, that a lead has to
 * agree before they come onto it.
 */
export const greeting = pgTable(
  "greeting",
  {
    id: uuid().primaryKey().defaultRandom(),
    listId: uuid("list_id")
      .notNull()
      .references(() => list.id),
    address: text().notNull(),
    kind: text().$type<"welcome" | "ask" | "agree">().notNull(),
    /** Of the link by which a question is answered; there is none before it is mailed. */
    tokenHash: text("token_hash").unique(),
    by: text().notNull(),
    /** Whether the audience brought them, or somebody by hand with a reason and perhaps a last day. */
    origin: text().$type<"audience" | "hand">().notNull(),
    reason: text().notNull().default(""),
    lastDay: text("last_day").notNull().default(""),
    at: instant("at").notNull().defaultNow(),
    mailedAt: instant("mailed_at"),
    answeredAt: instant("answered_at"),
    answer: text().$type<"yes" | "withdrawn">(),
    /** The words of the welcome, or of the one that follows a yes: an intake's own, empty for the list's; null for no welcome after a yes. */
    words: text(),
    /** When somebody who was asked and has not answered was asked once more, and of the link in that mail. */
    remindedAt: instant("reminded_at"),
    reminderHash: text("reminder_hash").unique(),
  },
  (table) => [
    uniqueIndex("asked_once")
      .on(table.listId, table.address)
      .where(sql`${table.kind} <> 'welcome' and ${table.answer} is null`),
    index("greeting_due")
      .on(table.at)
      .where(sql`${table.mailedAt} is null`),
    check("greeting_kind", sql`${table.kind} in ('welcome', 'ask', 'agree')`),
  ],
);

export const listRole = pgTable(
  "list_role",
  {
    listId: uuid("list_id")
      .notNull()
      .references(() => list.id),
    accountId: uuid("account_id")
      .notNull()
      .references(() => account.id),
    role: text().$type<"lead" | "helper">().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.listId, table.accountId] }),
    index("list_role_account").on(table.accountId),
  ],
);

/** One address on one list for a time. An address is on a list at most once at a time. */
export const membership = pgTable(
  "membership",
  {
    id: bigserial({ mode: "number" }).primaryKey(),
    listId: uuid("list_id")
      .notNull()
      .references(() => list.id),
    address: text().notNull(),
    validFrom: instant("valid_from").notNull(),
    validUntil: instant("valid_until"),
    fromRound: integer("from_round"),
    untilRound: integer("until_round"),
    /** What it rests on: what the audience says, or that somebody keeps it on. */
    origin: text().$type<"audience" | "kept on">().notNull().default("audience"),
  },
  (table) => [
    uniqueIndex("membership_once")
      .on(table.listId, table.address)
      .where(sql`${table.validUntil} is null`),
    index("membership_address").on(table.address),
    index("membership_list").on(table.listId),
  ],
);
