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
import type { Answer } from "@amigo/core/calendar/calendarDate";
import type { Repeat, SingleChange } from "@amigo/core/calendar/repeat";
import type { When } from "@amigo/core/calendar/when";
import { account } from "./accounts";
import { instant, jsonb } from "./columns";
import { list } from "./lists";

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
    /** The list that invites, from whose address the invitations come. */
    organiserId: uuid("organiser_id")
      .notNull()
      .references(() => list.id),
    accountId: uuid("account_id").references(() => account.id),
    /** Who made it, as their name was then. */
    madeBy: text("made_by").notNull(),
    madeAt: instant("made_at").notNull().defaultNow(),
    /** What was changed last, for the mail that tells of it. */
    news: text().array().notNull(),
    cancelledAt: instant("cancelled_at"),
    /** Why it was called off. */
    reason: text().notNull().default(""),
  },
  (table) => [
    uniqueIndex("calendar_date_uid").on(table.uid),
    index("calendar_date_last").on(table.lastAt),
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

/** An address that was invited to a date, and its answer. */
export const calendarGuest = pgTable(
  "calendar_guest",
  {
    id: serial().primaryKey(),
    dateId: uuid("date_id")
      .notNull()
      .references(() => calendarDate.id, { onDelete: "cascade" }),
    address: text().notNull(),
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
  },
  (table) => [
    uniqueIndex("calendar_guest_address").on(table.dateId, table.address),
    uniqueIndex("calendar_guest_token").on(table.token),
    index("calendar_guest_by_address").on(table.address),
    check("calendar_guest_told", sql`${table.told} in ('invited', 'withdrawn')`),
    check("calendar_guest_answer", sql`${table.answer} in ('yes', 'no', 'maybe')`),
  ],
);
