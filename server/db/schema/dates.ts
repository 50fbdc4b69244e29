import { sql } from "drizzle-orm";
import {
  boolean,
  check,
  date as dateColumn,
  index,
  integer,
  pgTable,
  primaryKey,
  serial,
  text,
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import type { Answer } from "@amigo/core/calendar/calendarDate";
import type { Repeat, SingleChange } from "@amigo/core/calendar/repeat";
import type { When } from "@amigo/core/calendar/when";
import { account } from "./accounts";
import { bytea, instant, jsonb } from "./columns";
import { season } from "./house";
import { list, privateList } from "./lists";

/** A date that the members of lists are invited to. */
export const calendarDate = pgTable(
  "calendar_date",
  {
    id: uuid().primaryKey().defaultRandom(),
    /** What identifies it in every calendar. */
    uid: text().notNull(),
    /** How often what matters of it has changed. */
    sequence: integer().notNull().default(0),
    title: text().notNull(),
    text: text().notNull().default(""),
    place: text().notNull().default(""),
    link: text().notNull().default(""),
    when: jsonb().$type<When>().notNull(),
    repeat: jsonb().$type<Repeat | null>(),
    changes: jsonb().$type<SingleChange[]>().notNull(),
    /** When its first time begins, and when its last one ends. */
    firstAt: instant("first_at").notNull(),
    lastAt: instant("last_at").notNull(),
    /** The day until which an answer is wanted; empty for none. */
    answerUntil: text("answer_until").notNull().default(""),
    /** How many people can come; null for any number. */
    places: integer(),
    /** How many days before it those who come are reminded, unless they have chosen otherwise. */
    reminders: integer()
      .array()
      .notNull()
      .default(sql`'{}'`),
    /** The list that invites, from whose address the invitations come; null where it is for people alone. */
    organiserId: uuid("organiser_id").references(() => list.id),
    accountId: uuid("account_id").references(() => account.id),
    /** Who made it, as their name was then. */
    madeBy: text("made_by").notNull(),
    madeAt: instant("made_at").notNull().defaultNow(),
    /** The address of whoever invited by mail, in small letters: answers go there, too. Empty where it was made in Amigo. */
    organiserAddress: text("organiser_address").notNull().default(""),
    /** The sequence of the last state of it that came by mail. */
    organiserSequence: integer("organiser_sequence").notNull().default(0),
    /** When anything of it was changed last. */
    changedAt: instant("changed_at").notNull().defaultNow(),
    /** The name under which a calendar program has put it here; null where it was made in Amigo. */
    davName: text("dav_name"),
    /** The fixture list that it was read from, and what it is known by there; empty for none. */
    importName: text("import_name").notNull().default(""),
    importKey: text("import_key").notNull().default(""),
    /** What was changed last, for the mail that tells of it. */
    news: text().array().notNull(),
    cancelledAt: instant("cancelled_at"),
    /** Why it was called off. */
    reason: text().notNull().default(""),
  },
  (table) => [
    uniqueIndex("calendar_date_uid").on(table.uid),
    index("calendar_date_last").on(table.lastAt),
    index("calendar_date_import")
      .on(table.importName)
      .where(sql`${table.importName} <> ''`),
  ],
);

/** The lists whose members are invited to a date. */
export const calendarDateList = pgTable(
  "calendar_date_list",
  {
    dateId: uuid("date_id")
      .notNull()
      .references(() => calendarDate.id, { onDelete: "cascade" }),
    listId: uuid("list_id")
      .notNull()
      .references(() => list.id),
  },
  (table) => [
    primaryKey({ columns: [table.dateId, table.listId] }),
    index("calendar_date_list_list").on(table.listId),
  ],
);

/** People who are invited to a date by themselves, by whoever made it. */
export const calendarDatePerson = pgTable(
  "calendar_date_person",
  {
    dateId: uuid("date_id")
      .notNull()
      .references(() => calendarDate.id, { onDelete: "cascade" }),
    person: text().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.dateId, table.person] }),
    index("calendar_date_person_person").on(table.person),
  ],
);

/** Private lists that whoever made a date invites. */
export const calendarDatePrivate = pgTable(
  "calendar_date_private",
  {
    dateId: uuid("date_id")
      .notNull()
      .references(() => calendarDate.id, { onDelete: "cascade" }),
    privateListId: uuid("private_list_id")
      .notNull()
      .references(() => privateList.id, { onDelete: "cascade" }),
  },
  (table) => [primaryKey({ columns: [table.dateId, table.privateListId] })],
);

/** An address that was invited to a date, and its answer. */
export const calendarGuest = pgTable(
  "calendar_guest",
  {
    id: serial().primaryKey(),
    dateId: uuid("date_id")
      .notNull()
      .references(() => calendarDate.id, { onDelete: "cascade" }),
    address: text().notNull(),
    /** Whether whoever made the date chose them, or a private list that they are on. */
    isPersonal: boolean("is_personal").notNull().default(false),
    /** Tells families apart among the guests of a date, as they were when it was last told of; empty for a family of its own. */
    family: text().notNull().default(""),
    /** What its links and the address for its calendar program hold. */
    token: text().notNull(),
    /** What it was told last: to come, or that it isn't invited any more. */
    told: text().$type<"invited" | "withdrawn">().notNull(),
    /** The sequence that it was told. */
    toldSequence: integer("told_sequence").notNull(),
    toldAt: instant("told_at").notNull().defaultNow(),
    answer: text().$type<Answer>(),
    /** How many come. */
    people: integer().notNull().default(1),
    word: text().notNull().default(""),
    answeredAt: instant("answered_at"),
    /** Since when they say that they come, which is their place in line. */
    comingSince: instant("coming_since"),
    /** Whether they come only if a place gets free. */
    isWaiting: boolean("is_waiting").notNull().default(false),
    /** Whether they were told that they wait, or that they have a place; null for neither. */
    toldWaiting: boolean("told_waiting"),
    /** Another time that they propose (RFC 5546, section 3.2.7). */
    proposes: jsonb().$type<When | null>(),
    /** How many days before it they want to be reminded; null for what the date has. */
    remind: integer().array(),
    /** When somebody wanted them to be asked once more, and when they were. */
    chaseWanted: instant("chase_wanted"),
    chasedAt: instant("chased_at"),
  },
  (table) => [
    uniqueIndex("calendar_guest_address").on(table.dateId, table.address),
    uniqueIndex("calendar_guest_token").on(table.token),
    index("calendar_guest_by_address").on(table.address),
    check("calendar_guest_told", sql`${table.told} in ('invited', 'withdrawn')`),
    check("calendar_guest_answer", sql`${table.answer} in ('yes', 'no', 'maybe')`),
  ],
);

/** A file that goes with a date; null for one that was added while the date is written. */
export const calendarDateFile = pgTable(
  "calendar_date_file",
  {
    id: uuid().primaryKey().defaultRandom(),
    dateId: uuid("date_id").references(() => calendarDate.id, { onDelete: "cascade" }),
    /** Who added it. */
    accountId: uuid("account_id")
      .notNull()
      .references(() => account.id),
    name: text().notNull(),
    size: integer().notNull(),
    content: bytea().notNull(),
    addedAt: instant("added_at").notNull().defaultNow(),
  },
  (table) => [
    index("calendar_date_file_date").on(table.dateId),
    index("calendar_date_file_account").on(table.accountId),
  ],
);

/** A reminder that a guest got: of the time of the date that was planned for a day. */
export const calendarReminder = pgTable(
  "calendar_reminder",
  {
    guestId: integer("guest_id")
      .notNull()
      .references(() => calendarGuest.id, { onDelete: "cascade" }),
    day: text().notNull(),
    /** The moment for which it was meant, so that each of several reminders comes once. */
    since: instant("since").notNull(),
  },
  (table) => [primaryKey({ columns: [table.guestId, table.day, table.since] })],
);

/** A part of a season: a term in which there are lessons, or holidays. */
export const seasonTerm = pgTable(
  "season_term",
  {
    id: serial().primaryKey(),
    seasonId: integer("season_id")
      .notNull()
      .references(() => season.id),
    name: text().notNull(),
    kind: text().$type<"term" | "holidays">().notNull(),
    firstDay: dateColumn("first_day").notNull(),
    lastDay: dateColumn("last_day").notNull(),
  },
  (table) => [
    index("season_term_season").on(table.seasonId),
    check("season_term_kind", sql`${table.kind} in ('term', 'holidays')`),
    check("season_term_days", sql`${table.firstDay} <= ${table.lastDay}`),
  ],
);
