import { sql } from "drizzle-orm";
import {
  pgTable,
  serial,
  integer,
  text,
  uuid,
  uniqueIndex,
  boolean,
  primaryKey,
  index,
} from "drizzle-orm/pg-core";
import type { CauseKind } from "@amigo/core/step/cause";
import type { StandingGuard } from "@amigo/core/step/guards/guard";
import type { Change } from "@amigo/core/step/change";
import type { Said } from "@amigo/language/say";
import { account } from "./accounts";
import { instant, jsonb, packedFacts, jsonText } from "./columns";
import { season } from "./house";

export interface RoundTotals {
  joins: number;
  leaves: number;
  replaced: number;
  /** Lists that change when the accepted causes are carried out. */
  lists: number;
  accepted: number;
  held: number;
}

export const round = pgTable(
  "round",
  {
    number: serial().primaryKey(),
    seasonId: integer("season_id")
      .notNull()
      .references(() => season.id),
    state: text().$type<"open" | "done" | "dropped">().notNull(),
    openedAt: instant("opened_at").notNull().defaultNow(),
    closedAt: instant("closed_at"),
    closedBy: uuid("closed_by").references(() => account.id),
    /** Counts up with every decision, so that nobody acts on a round that has moved on. */
    version: integer().notNull().default(1),
    totals: jsonb().$type<RoundTotals>().notNull(),
    guards: jsonb().$type<Said<StandingGuard>[]>().notNull(),
    readings: uuid().array().notNull(),
    /** Who carried it out, when it was not an account: a source that keeps itself. */
    closedByName: text("closed_by_name").notNull().default(""),
    /** The season that was current before this round opened the next. */
    opensAfter: integer("opens_after").references(() => season.id),
    /** The round that this one takes back. */
    takesBack: integer("takes_back"),
    /** What of the round it takes back was left alone, in sentences. */
    leftAlone: text("left_alone")
      .array()
      .notNull()
      .default(sql`'{}'`),
  },
  (table) => [
    uniqueIndex("taken_back_once").on(table.takesBack),
    uniqueIndex("one_open_round")
      .on(table.state)
      .where(sql`${table.state} = 'open'`),
  ],
);

export const cause = pgTable(
  "cause",
  {
    round: integer()
      .notNull()
      .references(() => round.number),
    position: integer().notNull(),
    key: text().notNull(),
    kind: text().$type<CauseKind>().notNull(),
    subject: text().notNull(),
    title: text().notNull(),
    detail: text().notNull(),
    sentence: text().notNull(),
    group: text().notNull(),
    adds: packedFacts().notNull(),
    removes: packedFacts().notNull(),
    /** The sources from which it comes, by their ids. */
    sources: text()
      .array()
      .notNull()
      .default(sql`'{}'`),
    changes: jsonText().$type<Change[]>().notNull(),
    /** The changes counted, and the keys of the lists that they touch. */
    joins: integer().notNull().default(0),
    leaves: integer().notNull().default(0),
    replaced: integer().notNull().default(0),
    lists: text()
      .array()
      .notNull()
      .default(sql`'{}'`),
    /** Whether it brings a student whom no guardian address reaches. */
    unreachable: boolean().notNull().default(false),
    decision: text().$type<"accepted" | "held">().notNull(),
    /** What was decided on it before: "held in round 2 by Juno Abara". */
    history: text().notNull().default(""),
  },
  (table) => [
    primaryKey({ columns: [table.round, table.position] }),
    index("cause_held")
      .on(table.round)
      .where(sql`${table.decision} = 'held'`),
    index("cause_key").using("hash", table.key),
  ],
);

/** What the open or a past round does to each list, counted. `list` is the list's key: its id, or recipe and cohort of one to be made. */
export const roundList = pgTable(
  "round_list",
  {
    round: integer()
      .notNull()
      .references(() => round.number),
    list: text().notNull(),
    joins: integer().notNull(),
    leaves: integer().notNull(),
  },
  (table) => [primaryKey({ columns: [table.round, table.list] })],
);
