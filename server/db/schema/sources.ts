import { sql } from "drizzle-orm";
import {
  pgTable,
  uuid,
  primaryKey,
  text,
  integer,
  boolean,
  uniqueIndex,
  index,
  check,
  bigserial,
} from "drizzle-orm/pg-core";
import type { Schedule } from "@amigo/core/schedule/schedule";
import type { MeaningId } from "@amigo/core/sheet/meanings/meaning";
import type { ReadingPlan } from "@amigo/core/sheet/table";
import type { Limits } from "@amigo/core/step/guards/limits";
import { account } from "./accounts";
import { instant, jsonb, bytea } from "./columns";
import { season } from "./house";

/** The sources to which somebody who is a helper may add rows. */
export const sourceHelper = pgTable(
  "source_helper",
  {
    accountId: uuid("account_id")
      .notNull()
      .references(() => account.id),
    sourceId: uuid("source_id")
      .notNull()
      .references(() => source.id),
  },
  (table) => [primaryKey({ columns: [table.accountId, table.sourceId] })],
);

/** Where the rows of a source come from. */
export type SourceKind = "upload" | "pasted" | "watched" | "web" | "form" | "posted";

export const source = pgTable(
  "source",
  {
    id: uuid().primaryKey().defaultRandom(),
    name: text().notNull(),
    seasonId: integer("season_id")
      .notNull()
      .references(() => season.id),
    createdAt: instant("created_at").notNull().defaultNow(),
    kind: text().$type<SourceKind>().notNull().default("upload"),
    /** The file's name in the watched folder, or the web address; empty for the others. */
    location: text().notNull().default(""),
    /** When it is read by itself; null for never. */
    schedule: jsonb().$type<Schedule | null>(),
    /** Whether a round that comes from it alone, with no guard standing, is carried out by itself. */
    mode: text().$type<"ask" | "itself">().notNull().default("ask"),
    /** Whether it claims to be whole, so that who is absent from it has left; else it only adds. */
    whole: boolean().notNull().default(true),
    limits: jsonb().$type<Partial<Limits>>().notNull().default({}),
    nextAt: instant("next_at"),
    /** What the last look found, so that the next can ask for changes only: a file's time and size, or ETag and Last-Modified. */
    seen: jsonb().$type<Record<string, string>>().notNull().default({}),
    triedAt: instant("tried_at"),
    /** What came of the last look by itself, in a sentence. */
    outcome: text().notNull().default(""),
    /** How often in a row it could not be read. */
    failures: integer().notNull().default(0),
    failingSince: instant("failing_since"),
    /** For a watched file: whether a sheet with the result of each row is written beside it after each import. */
    answersBeside: boolean("answers_beside").notNull().default(false),
    /** Of the secret in the address to which answers are posted; null for what is not posted. */
    tokenHash: text("token_hash").unique(),
  },
  (table) => [
    uniqueIndex("source_name").on(table.seasonId, sql`lower(${table.name})`),
    index("source_next").on(table.nextAt),
    check(
      "source_kind",
      sql`${table.kind} in ('upload', 'pasted', 'watched', 'web', 'form', 'posted')`,
    ),
    check("source_mode", sql`${table.mode} in ('ask', 'itself')`),
  ],
);

/** An answer that an outside form tool has posted, by its fields as they were named. The same answer posted twice is there once. */
export const postedAnswer = pgTable(
  "posted_answer",
  {
    sourceId: uuid("source_id")
      .notNull()
      .references(() => source.id),
    number: bigserial({ mode: "number" }).notNull(),
    at: instant("at").notNull().defaultNow(),
    fields: jsonb().$type<[string, string][]>().notNull(),
    sha256: text("sha256").notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.sourceId, table.number] }),
    uniqueIndex("posted_answer_once").on(table.sourceId, table.sha256),
  ],
);

/** One look at a source. Never changed once written. */
export const reading = pgTable(
  "reading",
  {
    id: uuid().primaryKey().defaultRandom(),
    sourceId: uuid("source_id")
      .notNull()
      .references(() => source.id),
    number: integer().notNull(),
    fileName: text("file_name").notNull(),
    format: text().notNull(),
    sha256: text().notNull(),
    file: bytea().notNull(),
    sheets: text().array().notNull(),
    plan: jsonb().$type<ReadingPlan>().notNull(),
    rows: integer().notNull(),
    students: integer().notNull(),
    readAt: instant("read_at").notNull().defaultNow(),
    readBy: uuid("read_by").references(() => account.id),
    /** When the file was last written, as far as is known. */
    writtenAt: instant("written_at"),
    /** Seasons that the sheet itself names. */
    seasons: text()
      .array()
      .notNull()
      .default(sql`'{}'`),
    /** One hash of all rows that were read, so that a file that was only saved again is known again. */
    rowsHash: text("rows_hash").notNull().default(""),
    /** What had changed about the columns since the reading before, in sentences. */
    notes: text()
      .array()
      .notNull()
      .default(sql`'{}'`),
  },
  (table) => [uniqueIndex("reading_number").on(table.sourceId, table.number)],
);

/** How many students of a reading the house knew already when it was read, and how many it did not. */
export const readingMet = pgTable("reading_met", {
  readingId: uuid("reading_id")
    .primaryKey()
    .references(() => reading.id),
  known: integer().notNull(),
  fresh: integer().notNull(),
});

/** The rows of a reading as they were read. `row` counts from 1, as the spreadsheet shows it; `sheet` from 0, in the order of the plan. */
export const readingRow = pgTable(
  "reading_row",
  {
    readingId: uuid("reading_id")
      .notNull()
      .references(() => reading.id),
    sheet: integer().notNull().default(0),
    row: integer().notNull(),
    cells: text().array().notNull(),
  },
  (table) => [primaryKey({ columns: [table.readingId, table.sheet, table.row] })],
);

/**
 * Which rows of an older import are stored with the next one of its source, because they stand there the same, with the same
 * faults. Such rows and faults are stored once. Never changed once written.
 */
export const readingShared = pgTable("reading_shared", {
  readingId: uuid("reading_id")
    .primaryKey()
    .references(() => reading.id),
  nextId: uuid("next_id")
    .notNull()
    .references(() => reading.id),
  /** Runs of rows, five numbers each: sheet, first row, how many, and their sheet and first row in the next import. */
  runs: integer().array().notNull(),
  /** How many faults the import has in all, and how many of them somebody has yet to decide. */
  faults: integer().notNull(),
  toDecide: integer("to_decide").notNull(),
});

export const readingFault = pgTable(
  "reading_fault",
  {
    readingId: uuid("reading_id")
      .notNull()
      .references(() => reading.id),
    sheet: integer().notNull().default(0),
    row: integer().notNull(),
    column: integer().notNull(),
    written: text().notNull(),
    fault: text().notNull(),
    answer: text().$type<"clean" | "probably" | "unusable">().notNull(),
    proposal: text(),
    sentence: text().notNull(),
    why: text().notNull(),
    /** The correction that has put it right. */
    correctionId: uuid("correction_id"),
  },
  (table) => [index("reading_fault_reading").on(table.readingId, table.row)],
);

/** "Where the sheet says X here, read Y": holds until the sheet itself changes there, or somebody ends it. */
export const correction = pgTable(
  "correction",
  {
    id: uuid().primaryKey().defaultRandom(),
    sourceId: uuid("source_id")
      .notNull()
      .references(() => source.id),
    /** The row's key: its student's number, or name. */
    row: text().notNull(),
    meaning: text().$type<MeaningId>().notNull(),
    slot: integer().notNull(),
    written: text().notNull(),
    read: text().notNull(),
    /** Whose row it is, and where it stood when it was corrected, in words. */
    who: text().notNull(),
    place: text().notNull(),
    by: text().notNull(),
    byId: uuid("by_id").references(() => account.id),
    at: instant("at").notNull().defaultNow(),
    endedAt: instant("ended_at"),
    ended: text().notNull().default(""),
  },
  (table) => [
    uniqueIndex("correction_once")
      .on(table.sourceId, table.row, table.meaning, table.slot)
      .where(sql`${table.endedAt} is null`),
  ],
);
