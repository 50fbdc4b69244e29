import { sql } from "drizzle-orm";
import {
  pgTable,
  uuid,
  integer,
  text,
  uniqueIndex,
  index,
  primaryKey,
  check,
  bigserial,
  date,
} from "drizzle-orm/pg-core";
import type {
  IntakeContent,
  IntakeCells,
  IntakeOutcome,
  IntakeColumn,
} from "@amigo/core/intake/intake";
import { account } from "./accounts";
import { jsonb, instant } from "./columns";
import { season } from "./house";
import { list } from "./lists";

/** A sheet that several people fill at once: who is to come onto which list. Nothing moves before a row is approved. */
export const intake = pgTable(
  "intake",
  {
    id: uuid().primaryKey().defaultRandom(),
    seasonId: integer("season_id")
      .notNull()
      .references(() => season.id),
    /** Who made it. */
    accountId: uuid("account_id")
      .notNull()
      .references(() => account.id),
    name: text().notNull(),
    content: jsonb().$type<IntakeContent>().notNull(),
    createdAt: instant("created_at").notNull().defaultNow(),
    /** When approved rows are carried out next, where that is at set times. */
    nextAt: instant("next_at"),
    /** Counts up with every change of what it is, so that of two who change it at once the second is told. */
    version: integer().notNull().default(1),
  },
  (table) => [
    uniqueIndex("intake_name").on(table.seasonId, sql`lower(${table.name})`),
    index("intake_next").on(table.nextAt),
  ],
);

/** Who fills an intake, and who approves its rows, for the lists that they lead. Coordinators and whoever made it do both. */
export const intakePerson = pgTable(
  "intake_person",
  {
    intakeId: uuid("intake_id")
      .notNull()
      .references(() => intake.id, { onDelete: "cascade" }),
    accountId: uuid("account_id")
      .notNull()
      .references(() => account.id),
    role: text().$type<"lead" | "helper">().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.intakeId, table.accountId] }),
    index("intake_person_account").on(table.accountId),
    check("intake_person_role", sql`${table.role} in ('lead', 'helper')`),
  ],
);

export const intakeRow = pgTable(
  "intake_row",
  {
    id: uuid().primaryKey(),
    intakeId: uuid("intake_id")
      .notNull()
      .references(() => intake.id, { onDelete: "cascade" }),
    /** Its place, in the order in which rows were begun. */
    number: bigserial({ mode: "number" }).notNull(),
    cells: jsonb().$type<IntakeCells>().notNull(),
    /** Who last wrote in it. */
    byId: uuid("by_id")
      .notNull()
      .references(() => account.id),
    by: text().notNull(),
    at: instant("at").notNull().defaultNow(),
    /** Counts up with everything that happens to it; who approves names the version that they saw. */
    version: integer().notNull().default(1),
    approvedById: uuid("approved_by_id").references(() => account.id),
    approvedBy: text("approved_by").notNull().default(""),
    approvedAt: instant("approved_at"),
    outcome: text().$type<IntakeOutcome>().notNull().default(""),
    /** The result, in words. */
    sentence: text().notNull().default(""),
    outcomeAt: instant("outcome_at"),
    /** What it asked for as it was carried out. */
    listId: uuid("list_id").references(() => list.id),
    address: text().notNull().default(""),
    until: date(),
    /** When the leads were told that its last day is near. */
    warnedAt: instant("warned_at"),
    removedAt: instant("removed_at"),
  },
  (table) => [
    index("intake_row_intake").on(table.intakeId, table.number),
    index("intake_row_until")
      .on(table.until)
      .where(sql`${table.outcome} in ('added', 'asked', 'waiting')`),
    index("intake_row_due")
      .on(table.intakeId)
      .where(sql`${table.approvedAt} is not null and ${table.outcome} = ''`),
    index("intake_row_address").on(table.address),
    index("intake_row_list").on(table.listId, table.address),
    check(
      "intake_row_outcome",
      sql`${table.outcome} in ('', 'added', 'already', 'asked', 'waiting', 'refused', 'ended')`,
    ),
  ],
);

/** The history of a row: changed cells, approvals, results. Entries are only added. */
export const intakeChange = pgTable(
  "intake_change",
  {
    id: bigserial({ mode: "number" }).primaryKey(),
    rowId: uuid("row_id")
      .notNull()
      .references(() => intakeRow.id, { onDelete: "cascade" }),
    at: instant("at").notNull().defaultNow(),
    by: text().notNull(),
    what: text().$type<IntakeColumn | "row" | "approval" | "outcome">().notNull(),
    before: text().notNull(),
    after: text().notNull(),
  },
  (table) => [index("intake_change_row").on(table.rowId, table.id)],
);
