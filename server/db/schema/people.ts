import { sql } from "drizzle-orm";
import {
  pgTable,
  serial,
  integer,
  text,
  uniqueIndex,
  primaryKey,
  bigserial,
  index,
} from "drizzle-orm/pg-core";
import type { FactKind, Fact } from "@amigo/core/facts/fact";
import type { PersonLink } from "@amigo/core/identity/personLink";
import type { SettledFact, Question, QuestionSide } from "@amigo/core/identity/question";
import { jsonb, instant, packedOrigin } from "./columns";
import { season } from "./house";

/** What somebody has said of people, once and for all: who is whom, and which of several values holds. */
export const byHand = pgTable(
  "by_hand",
  {
    id: serial().primaryKey(),
    seasonId: integer("season_id")
      .notNull()
      .references(() => season.id),
    /** The question that it answers, or what it is about. */
    key: text().notNull(),
    what: text().$type<"link" | "settle">().notNull(),
    links: jsonb().$type<PersonLink[]>().notNull().default([]),
    settled: jsonb().$type<SettledFact | null>(),
    sentence: text().notNull(),
    by: text().notNull(),
    at: instant("at").notNull().defaultNow(),
    endedAt: instant("ended_at"),
  },
  (table) => [
    uniqueIndex("by_hand_once")
      .on(table.seasonId, table.key)
      .where(sql`${table.endedAt} is null`),
  ],
);

/** What only a person can tell, as the last derivation found it. */
export const question = pgTable(
  "question",
  {
    seasonId: integer("season_id")
      .notNull()
      .references(() => season.id),
    position: integer().notNull(),
    key: text().notNull(),
    kind: text().$type<Question["kind"]>().notNull(),
    subject: text().notNull(),
    about: text().notNull(),
    sides: jsonb().$type<QuestionSide[]>().notNull(),
    choices: jsonb().$type<Question["choices"]>().notNull(),
    meanwhile: text().notNull(),
  },
  (table) => [primaryKey({ columns: [table.seasonId, table.position] })],
);

/**
 * Whose facts changed with which version of a season, so that whoever has the facts at hand fetches these alone. A version that changed
 * no facts has one row with an empty subject; one that changed very many has none, like those of long ago, and all facts are fetched.
 */
export const factChange = pgTable(
  "fact_change",
  {
    seasonId: integer("season_id")
      .notNull()
      .references(() => season.id, { onDelete: "cascade" }),
    version: integer().notNull(),
    subject: text().notNull(),
  },
  (table) => [primaryKey({ columns: [table.seasonId, table.version, table.subject] })],
);

/** A fact for the time that it holds. One value of a fact at a time. */
export const fact = pgTable(
  "fact",
  {
    id: bigserial({ mode: "number" }).primaryKey(),
    seasonId: integer("season_id")
      .notNull()
      .references(() => season.id),
    subject: text().notNull(),
    kind: text().$type<FactKind>().notNull(),
    ref: text().notNull(),
    value: jsonb().$type<Fact["value"]>().notNull(),
    origin: packedOrigin().notNull(),
    validFrom: instant("valid_from").notNull(),
    validUntil: instant("valid_until"),
    fromRound: integer("from_round"),
    untilRound: integer("until_round"),
    /** Names, numbers and addresses folded, for finding people. */
    search: text(),
  },
  (table) => [
    index("fact_search")
      .using("gin", sql`${table.search} gin_trgm_ops`)
      .where(sql`${table.validUntil} is null`),
    index("fact_from_round").on(table.fromRound),
    index("fact_until_round").on(table.untilRound),
    uniqueIndex("fact_once")
      .on(table.seasonId, table.subject, table.kind, table.ref)
      .where(sql`${table.validUntil} is null`),
    index("fact_ref").on(table.kind, table.ref),
    index("fact_subject").on(table.subject),
  ],
);
