import { sql } from "drizzle-orm";
import { bigserial, boolean, check, customType, date, index, integer, pgTable, primaryKey, serial, text, timestamp, uniqueIndex, uuid } from "drizzle-orm/pg-core";
import type { HouseRole } from "@amigo/core/access/may";
import type { CohortKind, Fact, FactKind, Origin } from "@amigo/core/facts/fact";
import type { PresetId } from "@amigo/core/posting/presets";
import type { ReadingPlan } from "@amigo/core/sheet/readTable";
import type { CauseKind } from "@amigo/core/step/cause";
import type { StandingGuard } from "@amigo/core/step/guards/guard";
import type { Change } from "@amigo/core/step/planRound";

const bytea = customType<{ data: Buffer }>({ dataType: () => "bytea" });
/** JSON as it is: the stock column type would read a string once more as JSON. */
const jsonbType = customType<{ data: unknown; driverData: unknown }>({ dataType: () => "jsonb", toDriver: (value) => JSON.stringify(value), fromDriver: (value) => value });
const jsonb = (name?: string) => (name === undefined ? jsonbType() : jsonbType(name));
const instant = (name: string) => timestamp(name, { withTimezone: true });

export const house = pgTable("house", {
  id: integer().primaryKey().default(1),
  name: text().notNull(),
  insideDomain: text("inside_domain").notNull(),
  listDomain: text("list_domain").notNull(),
  timeZone: text("time_zone").notNull().default("UTC"),
  /** How a student's inside address is made from the number; empty for not at all. */
  studentAddress: text("student_address").notNull().default(""),
  demo: boolean().notNull().default(false),
}, (table) => [check("one_house", sql`${table.id} = 1`)]);

export const season = pgTable("season", {
  id: serial().primaryKey(),
  label: text().notNull().unique(),
  current: boolean().notNull().default(false),
  overOn: date("over_on"),
}, (table) => [uniqueIndex("one_current_season").on(table.current).where(sql`${table.current}`)]);

export const site = pgTable("site", {
  id: serial().primaryKey(),
  code: text().notNull().unique(),
  name: text().notNull().unique(),
});

/** The house's dictionary of short forms, by folded full name. */
export const shortForm = pgTable("short_form", {
  folded: text().primaryKey(),
  short: text().notNull(),
});

export const account = pgTable("account", {
  id: uuid().primaryKey().defaultRandom(),
  name: text().notNull(),
  email: text().notNull().unique(),
  passwordHash: text("password_hash").notNull(),
  role: text().$type<HouseRole>().notNull(),
  siteId: integer("site_id").references(() => site.id),
  createdAt: instant("created_at").notNull().defaultNow(),
  endedAt: instant("ended_at"),
}, (table) => [check("account_role", sql`${table.role} in ('coordinator', 'site coordinator', 'staff')`), check("account_email_lower", sql`${table.email} = lower(${table.email})`)]);

export const session = pgTable("session", {
  tokenHash: text("token_hash").primaryKey(),
  accountId: uuid("account_id").notNull().references(() => account.id),
  createdAt: instant("created_at").notNull().defaultNow(),
  expiresAt: instant("expires_at").notNull(),
}, (table) => [index("session_account").on(table.accountId)]);

/** Failed attempts to sign in, by account and by address of the caller. */
export const signInAttempt = pgTable("sign_in_attempt", {
  id: bigserial({ mode: "number" }).primaryKey(),
  key: text().notNull(),
  at: instant("at").notNull().defaultNow(),
}, (table) => [index("sign_in_attempt_key").on(table.key, table.at)]);

export const apiToken = pgTable("api_token", {
  id: uuid().primaryKey().defaultRandom(),
  name: text().notNull(),
  tokenHash: text("token_hash").notNull().unique(),
  accountId: uuid("account_id").notNull().references(() => account.id),
  createdAt: instant("created_at").notNull().defaultNow(),
  lastUsedAt: instant("last_used_at"),
  revokedAt: instant("revoked_at"),
});

export const source = pgTable("source", {
  id: uuid().primaryKey().defaultRandom(),
  name: text().notNull(),
  seasonId: integer("season_id").notNull().references(() => season.id),
  createdAt: instant("created_at").notNull().defaultNow(),
}, (table) => [uniqueIndex("source_name").on(table.seasonId, sql`lower(${table.name})`)]);

/** One look at a source. Never changed once written. */
export const reading = pgTable("reading", {
  id: uuid().primaryKey().defaultRandom(),
  sourceId: uuid("source_id").notNull().references(() => source.id),
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
}, (table) => [uniqueIndex("reading_number").on(table.sourceId, table.number)]);

/** The rows of a reading as they were read. `row` counts from 1, as the spreadsheet shows it. */
export const readingRow = pgTable("reading_row", {
  readingId: uuid("reading_id").notNull().references(() => reading.id),
  row: integer().notNull(),
  cells: text().array().notNull(),
}, (table) => [primaryKey({ columns: [table.readingId, table.row] })]);

export const readingFault = pgTable("reading_fault", {
  readingId: uuid("reading_id").notNull().references(() => reading.id),
  row: integer().notNull(),
  column: integer().notNull(),
  written: text().notNull(),
  fault: text().notNull(),
  answer: text().$type<"clean" | "probably" | "unusable">().notNull(),
  proposal: text(),
  sentence: text().notNull(),
  why: text().notNull(),
}, (table) => [index("reading_fault_reading").on(table.readingId, table.row)]);

export const recipe = pgTable("recipe", {
  id: serial().primaryKey(),
  name: text().notNull().unique(),
  /** What the board calls its column. */
  label: text().notNull(),
  position: integer().notNull(),
  audience: text().notNull(),
  pattern: text().notNull(),
  preset: text().$type<PresetId>().notNull(),
});

export const cohort = pgTable("cohort", {
  id: serial().primaryKey(),
  seasonId: integer("season_id").notNull().references(() => season.id),
  key: text().notNull(),
  kind: text().$type<CohortKind>().notNull(),
  name: text().notNull(),
  siteId: integer("site_id").references(() => site.id),
  coach: text().notNull().default(""),
  goneAt: instant("gone_at"),
}, (table) => [uniqueIndex("cohort_key").on(table.seasonId, table.key)]);

export const list = pgTable("list", {
  id: uuid().primaryKey().defaultRandom(),
  /** The part of its address before the @. */
  name: text().notNull().unique(),
  title: text().notNull(),
  seasonId: integer("season_id").notNull().references(() => season.id),
  cohortId: integer("cohort_id").references(() => cohort.id),
  recipeId: integer("recipe_id").references(() => recipe.id),
  preset: text().$type<PresetId>().notNull(),
  createdAt: instant("created_at").notNull().defaultNow(),
  closedAt: instant("closed_at"),
}, (table) => [uniqueIndex("list_of_recipe").on(table.recipeId, table.cohortId), check("list_name_form", sql`${table.name} ~ '^[a-z0-9]([a-z0-9.-]*[a-z0-9])?$' and length(${table.name}) <= 64`)]);

export const listRole = pgTable("list_role", {
  listId: uuid("list_id").notNull().references(() => list.id),
  accountId: uuid("account_id").notNull().references(() => account.id),
  role: text().$type<"lead" | "helper">().notNull(),
}, (table) => [primaryKey({ columns: [table.listId, table.accountId] }), index("list_role_account").on(table.accountId)]);

/** One address on one list for a time. An address is on a list at most once at a time. */
export const membership = pgTable("membership", {
  id: bigserial({ mode: "number" }).primaryKey(),
  listId: uuid("list_id").notNull().references(() => list.id),
  address: text().notNull(),
  validFrom: instant("valid_from").notNull(),
  validUntil: instant("valid_until"),
  fromRound: integer("from_round"),
  untilRound: integer("until_round"),
}, (table) => [uniqueIndex("membership_once").on(table.listId, table.address).where(sql`${table.validUntil} is null`), index("membership_address").on(table.address)]);

/** An address held off a list, whatever the roster says. */
export const keptOff = pgTable("kept_off", {
  listId: uuid("list_id").notNull().references(() => list.id),
  address: text().notNull(),
  by: text().notNull(),
  reason: text().notNull(),
  at: instant("at").notNull().defaultNow(),
}, (table) => [primaryKey({ columns: [table.listId, table.address] })]);

/** A fact for the time that it holds. One value of a fact at a time. */
export const fact = pgTable("fact", {
  id: bigserial({ mode: "number" }).primaryKey(),
  seasonId: integer("season_id").notNull().references(() => season.id),
  subject: text().notNull(),
  kind: text().$type<FactKind>().notNull(),
  ref: text().notNull(),
  value: jsonb().$type<Fact["value"]>().notNull(),
  origin: jsonb().$type<Origin>().notNull(),
  validFrom: instant("valid_from").notNull(),
  validUntil: instant("valid_until"),
  fromRound: integer("from_round"),
  untilRound: integer("until_round"),
}, (table) => [
  uniqueIndex("fact_once").on(table.seasonId, table.subject, table.kind, table.ref).where(sql`${table.validUntil} is null`),
  index("fact_ref").on(table.kind, table.ref).where(sql`${table.validUntil} is null`),
]);

export interface RoundTotals {
  joins: number;
  leaves: number;
  replaced: number;
  /** Lists that change when the accepted causes are carried out. */
  lists: number;
  accepted: number;
  held: number;
}

export const round = pgTable("round", {
  number: serial().primaryKey(),
  seasonId: integer("season_id").notNull().references(() => season.id),
  state: text().$type<"open" | "done" | "dropped">().notNull(),
  openedAt: instant("opened_at").notNull().defaultNow(),
  closedAt: instant("closed_at"),
  closedBy: uuid("closed_by").references(() => account.id),
  /** Counts up with every decision, so that nobody acts on a round that has moved on. */
  version: integer().notNull().default(1),
  totals: jsonb().$type<RoundTotals>().notNull(),
  guards: jsonb().$type<StandingGuard[]>().notNull(),
  readings: uuid().array().notNull(),
}, (table) => [uniqueIndex("one_open_round").on(table.state).where(sql`${table.state} = 'open'`)]);

export const cause = pgTable("cause", {
  round: integer().notNull().references(() => round.number),
  position: integer().notNull(),
  key: text().notNull(),
  kind: text().$type<CauseKind>().notNull(),
  subject: text().notNull(),
  title: text().notNull(),
  detail: text().notNull(),
  sentence: text().notNull(),
  group: text().notNull(),
  adds: jsonb().$type<Fact[]>().notNull(),
  removes: jsonb().$type<Fact[]>().notNull(),
  changes: jsonb().$type<Change[]>().notNull(),
  /** Whether it brings a student whom no guardian address reaches. */
  unreachable: boolean().notNull().default(false),
  decision: text().$type<"accepted" | "held">().notNull(),
  /** What was decided on it before: "held in round 2 by Juno Abara". */
  history: text().notNull().default(""),
}, (table) => [primaryKey({ columns: [table.round, table.position] })]);

/** What the open or a past round does to each list, counted. `list` is the list's key: its id, or recipe and cohort of one to be made. */
export const roundList = pgTable("round_list", {
  round: integer().notNull().references(() => round.number),
  list: text().notNull(),
  joins: integer().notNull(),
  leaves: integer().notNull(),
}, (table) => [primaryKey({ columns: [table.round, table.list] })]);

/** Everything that was done. Rows are only ever added; a trigger sees to it. */
export const journal = pgTable("journal", {
  id: bigserial({ mode: "number" }).primaryKey(),
  at: instant("at").notNull().defaultNow(),
  actorId: uuid("actor_id"),
  actor: text().notNull(),
  action: text().notNull(),
  sentence: text().notNull(),
  listId: uuid("list_id"),
  before: jsonb(),
  after: jsonb(),
}, (table) => [index("journal_list").on(table.listId, table.id)]);

/** A mail as it came in or was written, octet for octet. */
export const message = pgTable("message", {
  id: uuid().primaryKey().defaultRandom(),
  raw: bytea().notNull(),
  size: integer().notNull(),
  messageId: text("message_id").notNull(),
  at: instant("at").notNull().defaultNow(),
});

export const post = pgTable("post", {
  id: uuid().primaryKey().defaultRandom(),
  messageId: uuid("message_id").notNull().references(() => message.id),
  subject: text().notNull(),
  fromName: text("from_name").notNull(),
  fromAddress: text("from_address").notNull(),
  accountId: uuid("account_id").references(() => account.id),
  /** For a mail that was not sent on: what became of it and why. */
  outcome: text().$type<"goes out" | "returned" | "dropped">().notNull(),
  reasons: text().array().notNull(),
  at: instant("at").notNull().defaultNow(),
}, (table) => [index("post_at").on(table.at)]);

export const postList = pgTable("post_list", {
  postId: uuid("post_id").notNull().references(() => post.id),
  listId: uuid("list_id").notNull().references(() => list.id),
}, (table) => [primaryKey({ columns: [table.postId, table.listId] }), index("post_list_list").on(table.listId)]);

/** The message ids that a list has taken, so that one mail goes out to it once. */
export const listMessage = pgTable("list_message", {
  listId: uuid("list_id").notNull().references(() => list.id),
  messageId: text("message_id").notNull(),
}, (table) => [primaryKey({ columns: [table.listId, table.messageId] })]);

export type DeliveryState = "queued" | "sending" | "deferred" | "sent" | "bounced" | "cancelled";

/** One copy for one recipient. Claimed with SKIP LOCKED by any worker. */
export const delivery = pgTable("delivery", {
  id: bigserial({ mode: "number" }).primaryKey(),
  messageId: uuid("message_id").notNull().references(() => message.id),
  postId: uuid("post_id").references(() => post.id),
  /** The list whose copy it is; null for a mail of Amigo's own. */
  listId: uuid("list_id").references(() => list.id),
  address: text().notNull(),
  /** Names the copy in its return path and its leave link. */
  token: text().notNull().unique(),
  state: text().$type<DeliveryState>().notNull().default("queued"),
  /** Lower goes first. */
  priority: integer().notNull().default(5),
  attempts: integer().notNull().default(0),
  nextAt: instant("next_at").notNull().defaultNow(),
  createdAt: instant("created_at").notNull().defaultNow(),
  sentAt: instant("sent_at"),
  reply: text().notNull().default(""),
}, (table) => [
  index("delivery_due").on(table.priority, table.nextAt).where(sql`${table.state} in ('queued', 'deferred', 'sending')`),
  uniqueIndex("delivery_once").on(table.postId, table.address),
  index("delivery_message").on(table.messageId),
]);

