import { sql } from "drizzle-orm";
import {
  bigint,
  bigserial,
  boolean,
  check,
  customType,
  date,
  index,
  integer,
  pgTable,
  primaryKey,
  serial,
  smallint,
  text,
  timestamp,
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import { type Said } from "@amigo/language/say";
import type { TokenScope } from "@amigo/core/access/tokenScopes";
import type { HouseRole } from "@amigo/core/access/may";
import type { TwoStepFor } from "@amigo/core/access/twoStep";
import type { CohortKind, Fact, FactKind, Origin } from "@amigo/core/facts/fact";
import { packFacts, packOrigin, unpackFacts, unpackOrigin } from "@amigo/core/facts/packFacts";
import type { BounceSort } from "@amigo/core/mail/bounces/form";
import type { DraftContent } from "@amigo/contract/drafts";
import type { FormContent } from "@amigo/core/forms/form";
import type { Answer } from "@amigo/core/forms/readAnswer";
import type {
  IntakeCells,
  IntakeColumn,
  IntakeContent,
  IntakeOutcome,
} from "@amigo/core/intake/intake";
import type { ListPoint } from "@amigo/core/lists/listPoint";
import type { Adding } from "@amigo/core/lists/recipe";
import type { ListKind, Rules } from "@amigo/core/posting/rules/rule";
import type { Edit } from "@amigo/core/lists/edit";
import type { QuestionSide, Question } from "@amigo/core/identity/question";
import type { PersonLink } from "@amigo/core/identity/personLink";
import type { SettledFact } from "@amigo/core/identity/question";
import type { MeaningId } from "@amigo/core/sheet/meanings/meaning";
import type { ReadingPlan } from "@amigo/core/sheet/readTable";
import type { KeepTimes } from "@amigo/core/retention/kept";
import type { Schedule } from "@amigo/core/schedule/schedule";
import type { CauseKind } from "@amigo/core/step/cause";
import type { StandingGuard } from "@amigo/core/step/guards/guard";
import type { Limits } from "@amigo/core/step/guards/limits";
import type { Change } from "@amigo/core/step/planRound";

const bytea = customType<{ data: Buffer }>({ dataType: () => "bytea" });
/** JSON as it is: the stock column type would read a string once more as JSON. */
const jsonbType = customType<{ data: unknown; driverData: unknown }>({
  dataType: () => "jsonb",
  toDriver: (value) => JSON.stringify(value),
  fromDriver: (value) => value,
});
const jsonb = (name?: string) => (name === undefined ? jsonbType() : jsonbType(name));
/** Facts and origins in few letters, as text: there are hundreds of thousands of them. */
const packedFacts = customType<{ data: Fact[]; driverData: string }>({
  dataType: () => "text",
  toDriver: packFacts,
  fromDriver: unpackFacts,
});
const packedOrigin = customType<{ data: Origin; driverData: string }>({
  dataType: () => "text",
  toDriver: packOrigin,
  fromDriver: unpackOrigin,
});
const jsonText = customType<{ data: unknown; driverData: string }>({
  dataType: () => "text",
  toDriver: (value) => JSON.stringify(value),
  fromDriver: (text) => JSON.parse(text) as unknown,
});
const tsvector = customType<{ data: string }>({ dataType: () => "tsvector" });
const instant = (name: string) => timestamp(name, { withTimezone: true });

export const house = pgTable(
  "house",
  {
    id: integer().primaryKey().default(1),
    name: text().notNull(),
    insideDomain: text("inside_domain").notNull(),
    listDomain: text("list_domain").notNull(),
    timeZone: text("time_zone").notNull().default("UTC"),
    /** Whether people call it their school or their club. */
    kind: text().$type<"school" | "club">().notNull().default("school"),
    /** The country by ISO 3166-1, in two capitals, by whose customs dates and paper are; empty where nobody has said. */
    country: text().notNull().default(""),
    /** The language of its mails and pages by BCP 47. */
    language: text().notNull().default("en"),
    /** How a student's inside address is made from the number; empty for not at all. */
    studentAddress: text("student_address").notNull().default(""),
    demo: boolean().notNull().default(false),
    /** The house's own limits for guards; what is not set is as Amigo has it. */
    limits: jsonb().$type<Partial<Limits>>().notNull().default({}),
    /** How many signs of a list's name the house finds pleasant to type. */
    nameLimit: integer("name_limit").notNull().default(30),
    /** Names that the house keeps for itself, beside those of the standard. */
    reservedNames: text("reserved_names")
      .array()
      .notNull()
      .default(sql`'{}'`),
    /** Whether the naming convention advises or binds. */
    convention: text().$type<"advises" | "binds">().notNull().default("advises"),
    /** Nothing leaves the queue while this is set: who paused it. */
    queuePausedBy: text("queue_paused_by").notNull().default(""),
    /** For how long a post from the composer waits, so that it can be taken back, in seconds. */
    undoSeconds: integer("undo_seconds").notNull().default(10),
    /** At which hour digests go out, and on which day of the week the weekly one (1 is Monday). */
    digestHour: integer("digest_hour").notNull().default(17),
    digestDay: integer("digest_day").notNull().default(5),
    /** For how many days each kind of thing is kept, where the school has chosen. */
    keep: jsonb().$type<KeepTimes>().notNull().default({}),
    /** The day on which what is over its time was last removed. */
    cleanedOn: date("cleaned_on"),
    /** After how many days a held mail is returned with a word. */
    heldDays: integer("held_days").notNull().default(7),
    /** To how many addresses a post can go before the composer asks. */
    manyAddresses: integer("many_addresses").notNull().default(100),
    /** On how many days in a row an address may fail for a while before mail to it stops. */
    softDays: integer("soft_days").notNull().default(5),
    /** Whose sign-in needs a second step. */
    twoStep: text("two_step").$type<TwoStepFor>().notNull().default("nobody"),
  },
  (table) => [
    check("house_two_step", sql`${table.twoStep} in ('nobody', 'coordinators', 'everybody')`),
    check("house_kind", sql`${table.kind} in ('school', 'club')`),
    check("house_convention", sql`${table.convention} in ('advises', 'binds')`),
    check("one_house", sql`${table.id} = 1`),
  ],
);

export const season = pgTable(
  "season",
  {
    id: serial().primaryKey(),
    label: text().notNull().unique(),
    current: boolean().notNull().default(false),
    overOn: date("over_on"),
    /** Counts up with everything but a reading that can change what is derived: a round, a correction, a word by hand. */
    version: integer().notNull().default(1),
    /** From which readings and at which version the open round was derived, so that nothing is derived twice. */
    derivedFrom: text("derived_from").notNull().default(""),
  },
  (table) => [
    uniqueIndex("one_current_season")
      .on(table.current)
      .where(sql`${table.current}`),
  ],
);

export const site = pgTable("site", {
  id: serial().primaryKey(),
  code: text().notNull().unique(),
  name: text().notNull().unique(),
});

export const account = pgTable(
  "account",
  {
    id: uuid().primaryKey().defaultRandom(),
    name: text().notNull(),
    email: text().notNull().unique(),
    /** Empty until an invited person has chosen a password. */
    passwordHash: text("password_hash").notNull().default(""),
    role: text().$type<HouseRole>().notNull(),
    siteId: integer("site_id").references(() => site.id),
    createdAt: instant("created_at").notNull().defaultNow(),
    /** From when on the account is no more; may lie ahead. */
    endedAt: instant("ended_at"),
  },
  (table) => [
    check(
      "account_role",
      sql`${table.role} in ('coordinator', 'site coordinator', 'staff', 'helper')`,
    ),
    check("account_email_lower", sql`${table.email} = lower(${table.email})`),
  ],
);

export const session = pgTable(
  "session",
  {
    tokenHash: text("token_hash").primaryKey(),
    /** By which it is named when sessions are listed; no secret. */
    id: uuid().notNull().defaultRandom().unique(),
    accountId: uuid("account_id")
      .notNull()
      .references(() => account.id),
    createdAt: instant("created_at").notNull().defaultNow(),
    expiresAt: instant("expires_at").notNull(),
    lastSeenAt: instant("last_seen_at").notNull().defaultNow(),
    /** The browser as it calls itself, cut short. */
    browser: text().notNull().default(""),
  },
  (table) => [index("session_account").on(table.accountId)],
);

/** An account's authenticator app, by which codes are made (RFC 6238). */
export const authenticator = pgTable("authenticator", {
  accountId: uuid("account_id")
    .primaryKey()
    .references(() => account.id),
  /** The secret that the app shares, sealed with the house's key. */
  sealed: text().notNull(),
  /** Null until a first code was given: only then it is asked for at sign-in. */
  confirmedAt: instant("confirmed_at"),
  /** The step of time whose code was used last; no code serves twice. */
  lastStep: bigint("last_step", { mode: "number" }).notNull().default(0),
});

/** An account's passkey (WebAuthn). */
export const passkey = pgTable(
  "passkey",
  {
    id: uuid().primaryKey().defaultRandom(),
    accountId: uuid("account_id")
      .notNull()
      .references(() => account.id),
    credentialId: text("credential_id").notNull().unique(),
    /** In the form of COSE, as base64url. */
    publicKey: text("public_key").notNull(),
    counter: bigint({ mode: "number" }).notNull().default(0),
    transports: text().array().notNull().default([]),
    name: text().notNull(),
    createdAt: instant("created_at").notNull().defaultNow(),
    lastUsedAt: instant("last_used_at"),
  },
  (table) => [index("passkey_account").on(table.accountId)],
);

/** A code on paper that serves once in place of an app or a passkey. Only its hash is kept. */
export const recoveryCode = pgTable(
  "recovery_code",
  {
    codeHash: text("code_hash").primaryKey(),
    accountId: uuid("account_id")
      .notNull()
      .references(() => account.id),
    usedAt: instant("used_at"),
  },
  (table) => [index("recovery_code_account").on(table.accountId)],
);

/** What is under way between two requests of one browser: the second step of a sign-in, or a passkey that is asked for or made. */
export const signInStep = pgTable(
  "sign_in_step",
  {
    tokenHash: text("token_hash").primaryKey(),
    /** Whose first step it was, or who makes a passkey; null where a passkey alone is to tell who signs in. */
    accountId: uuid("account_id").references(() => account.id),
    purpose: text().$type<"sign-in" | "new passkey">().notNull(),
    /** What the passkey is to sign; empty until one is asked for. */
    challenge: text().notNull().default(""),
    expiresAt: instant("expires_at").notNull(),
  },
  (table) => [
    index("sign_in_step_account").on(table.accountId),
    check("sign_in_step_purpose", sql`${table.purpose} in ('sign-in', 'new passkey')`),
  ],
);

/** What a mailed link is for. It does nothing else, once, until it has run out. */
export type LinkPurpose =
  | "invitation"
  | "sign-in"
  | "new password"
  | "own mail"
  | "member page"
  | "new address"
  | "held mail"
  | "leave"
  | "sign-up"
  | "second guardian";

export const mailedLink = pgTable(
  "mailed_link",
  {
    tokenHash: text("token_hash").primaryKey(),
    purpose: text().$type<LinkPurpose>().notNull(),
    /** To whom it was mailed. */
    address: text().notNull(),
    /** What it is about: an account, a post, or an address by another. */
    about: text().notNull().default(""),
    createdAt: instant("created_at").notNull().defaultNow(),
    expiresAt: instant("expires_at").notNull(),
    usedAt: instant("used_at"),
  },
  (table) => [
    index("mailed_link_address").on(table.address, table.createdAt),
    check(
      "mailed_link_purpose",
      sql`${table.purpose} in ('invitation', 'sign-in', 'new password', 'own mail', 'member page', 'new address', 'held mail', 'leave', 'sign-up', 'second guardian')`,
    ),
  ],
);

/** A member who has opened their page by a mailed link. They have no account. */
export const memberSession = pgTable(
  "member_session",
  {
    tokenHash: text("token_hash").primaryKey(),
    address: text().notNull(),
    createdAt: instant("created_at").notNull().defaultNow(),
    expiresAt: instant("expires_at").notNull(),
  },
  (table) => [index("member_session_address").on(table.address)],
);

/** How often an address gets the mail of one list, where its owner has chosen. */
export const receiving = pgTable(
  "receiving",
  {
    listId: uuid("list_id")
      .notNull()
      .references(() => list.id),
    address: text().notNull(),
    howOften: text("how_often").notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.listId, table.address] }),
    index("receiving_address").on(table.address),
  ],
);

/** An address that gets no mail of lists until a day is over. */
export const pause = pgTable("pause", {
  address: text().primaryKey(),
  until: date().notNull(),
});

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

/** What waits for a coordinator's yes: an edit, and addresses to be put on a list once it is given. */
export interface RequestWork {
  edit: Edit | null;
  members: { addresses: string[]; how: Adding; reason: string; lastDay: string } | null;
}

/** Somebody asks that one list may be otherwise than the house's rules have it. */
export const request = pgTable(
  "request",
  {
    id: uuid().primaryKey().defaultRandom(),
    accountId: uuid("account_id")
      .notNull()
      .references(() => account.id),
    /** The list's key, its title, and its site where it has one. */
    list: text().notNull(),
    title: text().notNull(),
    siteId: integer("site_id").references(() => site.id),
    /** The posting rule that stands in the way, or `convention` for a name; and what it should be. */
    rule: text().notNull(),
    wanted: text().notNull(),
    sentence: text().notNull(),
    why: text().notNull(),
    work: jsonb().$type<RequestWork>().notNull(),
    at: instant("at").notNull().defaultNow(),
    state: text().$type<"open" | "granted" | "refused" | "withdrawn">().notNull().default("open"),
    decidedBy: text("decided_by").notNull().default(""),
    decidedAt: instant("decided_at"),
    /** The last day of a yes; empty for no end. A word with a no. */
    until: text().notNull().default(""),
    word: text().notNull().default(""),
  },
  (table) => [
    uniqueIndex("request_once")
      .on(table.list, table.rule)
      .where(sql`${table.state} = 'open'`),
    check("request_state", sql`${table.state} in ('open', 'granted', 'refused', 'withdrawn')`),
  ],
);

/** Failed attempts to sign in, by account and by address of the caller. */
export const signInAttempt = pgTable(
  "sign_in_attempt",
  {
    id: bigserial({ mode: "number" }).primaryKey(),
    key: text().notNull(),
    at: instant("at").notNull().defaultNow(),
  },
  (table) => [index("sign_in_attempt_key").on(table.key, table.at)],
);

export const apiToken = pgTable("api_token", {
  id: uuid().primaryKey().defaultRandom(),
  name: text().notNull(),
  tokenHash: text("token_hash").notNull().unique(),
  accountId: uuid("account_id")
    .notNull()
    .references(() => account.id),
  createdAt: instant("created_at").notNull().defaultNow(),
  /** What it may be used for. */
  scopes: text().array().$type<TokenScope[]>().notNull().default([]),
  /** The last day on which it works; null for one that was made before tokens had any. */
  lastDay: date("last_day"),
  lastUsedAt: instant("last_used_at"),
  revokedAt: instant("revoked_at"),
  /** Whether it is the password of one mail program, made by its owner on their account page. */
  forMailProgram: boolean("for_mail_program").notNull().default(false),
});

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
    /** Whether its sheet is written beside it after each reading, with what became of each row; for a watched file. */
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
    /** One hash of all rows that were read, so that a file that was only saved anew is known again. */
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

/** The days on which a lead was told by mail that lists had changed, so that it is one mail a day. */
export const leadNote = pgTable(
  "lead_note",
  {
    accountId: uuid("account_id")
      .notNull()
      .references(() => account.id),
    day: date().notNull(),
    /** Changes up to here were told. */
    upTo: instant("up_to").notNull(),
  },
  (table) => [primaryKey({ columns: [table.accountId, table.day] })],
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

/** Everything that was done. Rows are only ever added; a trigger sees to it. */
export const journal = pgTable(
  "journal",
  {
    id: bigserial({ mode: "number" }).primaryKey(),
    at: instant("at").notNull().defaultNow(),
    actorId: uuid("actor_id"),
    actor: text().notNull(),
    action: text().notNull(),
    sentence: text().notNull(),
    listId: uuid("list_id"),
    before: jsonb(),
    after: jsonb(),
  },
  (table) => [index("journal_list").on(table.listId, table.id)],
);

/** A mail as it came in or was written, octet for octet. */
export const message = pgTable(
  "message",
  {
    id: uuid().primaryKey().defaultRandom(),
    raw: bytea().notNull(),
    size: integer().notNull(),
    messageId: text("message_id").notNull(),
    at: instant("at").notNull().defaultNow(),
    /** What was found of its signatures when it came in, to be passed on in an ARC set (RFC 8617); null where it had none. */
    arc: jsonb().$type<{ cv: "none" | "pass"; results: string } | null>(),
    /** What every copy is filled in from, where each recipient's is another. */
    merge: jsonb().$type<MergeParts | null>(),
    /** When it was deleted from the archive; its raw text is empty from then on. */
    erasedAt: instant("erased_at"),
  },
  (table) => [index("message_message_id").on(table.messageId)],
);

/** The parts of a mail that are filled in for each recipient: `{first name}` and others stand in them. */
export interface MergeParts {
  subject: string;
  text: string;
  html: string;
}

export const post = pgTable(
  "post",
  {
    id: uuid().primaryKey().defaultRandom(),
    messageId: uuid("message_id")
      .notNull()
      .references(() => message.id),
    subject: text().notNull(),
    fromName: text("from_name").notNull(),
    fromAddress: text("from_address").notNull(),
    accountId: uuid("account_id").references(() => account.id),
    /** For a mail that was not sent on: what became of it and why. */
    outcome: text().$type<"goes out" | "held" | "returned" | "dropped">().notNull(),
    reasons: text().array().notNull(),
    at: instant("at").notNull().defaultNow(),
    /** Whom it reaches: everybody on its lists, or their leads alone. */
    reaches: text().$type<"members" | "leads">().notNull().default("members"),
    /** Where a note goes when it is returned after it was held. */
    returnPath: text("return_path").notNull().default(""),
    /** Who decided on it when it was held. */
    decidedBy: text("decided_by").notNull().default(""),
    decidedAt: instant("decided_at"),
    /** The first post of its thread; its own id for the first. */
    thread: uuid(),
    /** Until then it waits and can be taken back. */
    leavesAt: instant("leaves_at"),
    /** What has not left waits while this is set: who paused it. */
    pausedBy: text("paused_by").notNull().default(""),
    /** Whether it comes from the list itself, though the list's posts come from their writers. */
    asList: boolean("as_list").notNull().default(false),
    /** Who took it out of the archive. */
    takenOutBy: text("taken_out_by").notNull().default(""),
    takenOutAt: instant("taken_out_at"),
    /** Subject and text for finding it. */
    words: tsvector(),
    /** The beginning of its text and how many files are attached, for whoever decides on it; null where it was stored before these were kept. */
    beginning: text(),
    attachments: integer(),
  },
  (table) => [
    index("post_thread").on(table.thread),
    index("post_message").on(table.messageId),
    index("post_words").using("gin", table.words),
    index("post_at").on(table.at),
    index("post_paused")
      .on(table.id)
      .where(sql`${table.pausedBy} <> ''`),
    index("post_held")
      .on(table.at)
      .where(sql`${table.outcome} = 'held'`),
  ],
);

export const postList = pgTable(
  "post_list",
  {
    postId: uuid("post_id")
      .notNull()
      .references(() => post.id),
    listId: uuid("list_id")
      .notNull()
      .references(() => list.id),
  },
  (table) => [
    primaryKey({ columns: [table.postId, table.listId] }),
    index("post_list_list").on(table.listId),
  ],
);

/** The message ids that a list has taken, so that one mail goes out to it once. */
export const listMessage = pgTable(
  "list_message",
  {
    listId: uuid("list_id")
      .notNull()
      .references(() => list.id),
    messageId: text("message_id").notNull(),
  },
  (table) => [primaryKey({ columns: [table.listId, table.messageId] })],
);

export type DeliveryState = "queued" | "sending" | "deferred" | "sent" | "bounced" | "cancelled";

/** One copy for one recipient. Claimed with SKIP LOCKED by any worker. */
export const delivery = pgTable(
  "delivery",
  {
    id: bigserial({ mode: "number" }).primaryKey(),
    messageId: uuid("message_id")
      .notNull()
      .references(() => message.id),
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
    /** What is filled in for this recipient. */
    fields: jsonb().$type<Record<string, string> | null>(),
    /** Of which digest it is, by its items. */
    isDigest: boolean("is_digest").notNull().default(false),
  },
  (table) => [
    index("delivery_address").on(table.address),
    index("delivery_due")
      .on(table.priority, table.id)
      .where(sql`${table.state} in ('queued', 'deferred', 'sending')`),
    uniqueIndex("delivery_once").on(table.postId, table.address),
    index("delivery_message").on(table.messageId),
    index("delivery_list").on(table.listId, table.address),
  ],
);

/** What has come back of a copy, in what form it was told, and what it was sorted as. */
export const bounce = pgTable(
  "bounce",
  {
    id: bigserial({ mode: "number" }).primaryKey(),
    deliveryId: bigint("delivery_id", { mode: "number" }).references(() => delivery.id),
    address: text().notNull(),
    at: instant("at").notNull().defaultNow(),
    sort: text().$type<BounceSort>().notNull(),
    form: text().notNull(),
    words: text().notNull(),
  },
  (table) => [index("bounce_address").on(table.address, table.at)],
);

/** An address that does not work as it should. One that works has no row. */
export const addressTrouble = pgTable(
  "address_trouble",
  {
    address: text().primaryKey(),
    /** Mail to it has stopped, or it fails only now and then. */
    state: text().$type<"stopped" | "shaky">().notNull(),
    sort: text().$type<BounceSort>().notNull(),
    words: text().notNull(),
    since: instant("since").notNull().defaultNow(),
    lastAt: instant("last_at").notNull().defaultNow(),
  },
  (table) => [
    index("address_trouble_state").on(table.state),
    check("address_trouble_state", sql`${table.state} in ('stopped', 'shaky')`),
  ],
);

/** A post that waits for somebody's digest of a list, or has gone out in one. */
export const digestItem = pgTable(
  "digest_item",
  {
    listId: uuid("list_id")
      .notNull()
      .references(() => list.id),
    address: text().notNull(),
    postId: uuid("post_id")
      .notNull()
      .references(() => post.id),
    at: instant("at").notNull().defaultNow(),
    sentAt: instant("sent_at"),
  },
  (table) => [
    primaryKey({ columns: [table.address, table.postId] }),
    index("digest_post").on(table.postId),
    index("digest_due")
      .on(table.address, table.listId)
      .where(sql`${table.sentAt} is null`),
  ],
);

/** To whom a mail is to go, as it was put together in the composer. */
export interface Recipients {
  lists: string[];
  privately: string[];
  people: string[];
  addresses: string[];
}

/** A mail that somebody is writing, or that waits for its time. */
export const draft = pgTable(
  "draft",
  {
    id: uuid().primaryKey().defaultRandom(),
    accountId: uuid("account_id")
      .notNull()
      .references(() => account.id),
    content: jsonb().$type<DraftContent>().notNull(),
    /** When it goes out by itself; null while it is being written. */
    sendAt: instant("send_at"),
    changedAt: instant("changed_at").notNull().defaultNow(),
    /** The post that was made of it. It is kept a while, so that the post can be taken back. */
    postId: uuid("post_id"),
    /** Why it did not go out at its time; empty for all well. */
    fault: text().notNull().default(""),
  },
  (table) => [index("draft_account").on(table.accountId), index("draft_send").on(table.sendAt)],
);

/** A file that goes with a draft. `cid` names a picture that stands in its text. */
export const draftFile = pgTable(
  "draft_file",
  {
    id: uuid().primaryKey().defaultRandom(),
    draftId: uuid("draft_id")
      .notNull()
      .references(() => draft.id, { onDelete: "cascade" }),
    name: text().notNull(),
    type: text().notNull(),
    size: integer().notNull(),
    content: bytea().notNull(),
    cid: text().notNull().default(""),
  },
  (table) => [index("draft_file_draft").on(table.draftId)],
);

/** A text to begin a mail with, one's own or the whole house's. */
export const template = pgTable(
  "template",
  {
    id: uuid().primaryKey().defaultRandom(),
    accountId: uuid("account_id")
      .notNull()
      .references(() => account.id),
    shared: boolean().notNull().default(false),
    name: text().notNull(),
    subject: text().notNull(),
    html: text().notNull(),
  },
  (table) => [uniqueIndex("template_name").on(table.accountId, sql`lower(${table.name})`)],
);

/** How many copies were claimed in a minute, in all (empty key) or to one domain, where the relay sets limits. */
export const sendRate = pgTable(
  "send_rate",
  {
    key: text().notNull(),
    minute: instant("minute").notNull(),
    count: integer().notNull(),
  },
  (table) => [primaryKey({ columns: [table.key, table.minute] })],
);

/** One version of the text to which families agree, in the words of each language, and since when it stands. */
export interface ConsentVersion {
  version: number;
  since: string;
  texts: Record<string, string>;
}

/** A sign-up form. Its answers that count are the rows of its source. */
export const form = pgTable(
  "form",
  {
    id: uuid().primaryKey().defaultRandom(),
    sourceId: uuid("source_id")
      .notNull()
      .unique()
      .references(() => source.id),
    /** Its short address, behind `/f/`. */
    slug: text().notNull().unique(),
    content: jsonb().$type<FormContent>().notNull(),
    consents: jsonb().$type<ConsentVersion[]>().notNull().default([]),
    accountId: uuid("account_id")
      .notNull()
      .references(() => account.id),
    createdAt: instant("created_at").notNull().defaultNow(),
    /** Counts up with every change, so that of two who change it at once the second is told. */
    version: integer().notNull().default(1),
  },
  (table) => [
    index("form_account").on(table.accountId),
    check("form_slug", sql`${table.slug} ~ '^[a-z0-9][a-z0-9-]{1,39}$'`),
  ],
);

/** Where an answer stands: its address is not confirmed; it counts; a person is asked; it was refused; a newer one stands in its place. */
export type AnswerState = "unconfirmed" | "accepted" | "asked" | "held" | "refused" | "replaced";

/** An answer of a family for one child. What was answered is never changed; a newer answer takes its place. */
export const formAnswer = pgTable(
  "form_answer",
  {
    id: uuid().primaryKey().defaultRandom(),
    number: bigserial({ mode: "number" }).notNull(),
    formId: uuid("form_id")
      .notNull()
      .references(() => form.id),
    at: instant("at").notNull().defaultNow(),
    language: text().notNull(),
    answer: jsonb().$type<Answer>().notNull(),
    address: text().notNull(),
    /** The child's folded name, by which answers for the same child are known. */
    child: text().notNull(),
    state: text().$type<AnswerState>().notNull().default("unconfirmed"),
    /** What is to be decided, or was. */
    why: text().notNull().default(""),
    /** The code of the printed slip that it came with; empty for none. */
    code: text().notNull().default(""),
    /** The answer that it changes, by the family's own link. */
    changes: uuid(),
    confirmedAt: instant("confirmed_at"),
    secondConfirmedAt: instant("second_confirmed_at"),
    decidedBy: text("decided_by").notNull().default(""),
    decidedAt: instant("decided_at"),
  },
  (table) => [
    index("form_answer_form").on(table.formId, table.state, table.number),
    index("form_answer_child").on(table.formId, table.child),
    index("form_answer_address").on(table.address, table.formId),
    check(
      "form_answer_state",
      sql`${table.state} in ('unconfirmed', 'accepted', 'asked', 'held', 'refused', 'replaced')`,
    ),
  ],
);

/** A personal code on a printed slip: whoever has it speaks for that child. */
export const formCode = pgTable(
  "form_code",
  {
    code: text().primaryKey(),
    formId: uuid("form_id")
      .notNull()
      .references(() => form.id),
    /** The student's id. */
    student: text().notNull(),
  },
  (table) => [uniqueIndex("form_code_once").on(table.formId, table.student)],
);

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
    /** What became of it, in words. */
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

/** What happened to a row: a cell written anew, a tick, what became of it. Only ever added to. */
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

/** Who gets a note when somebody was added to a list or by an intake, at most one an hour. */
export const watch = pgTable(
  "watch",
  {
    accountId: uuid("account_id")
      .notNull()
      .references(() => account.id),
    what: text().$type<"intake" | "list">().notNull(),
    about: uuid().notNull(),
    /** What was added up to here was told, or was before they began to watch. */
    upTo: instant("up_to").notNull().defaultNow(),
    toldAt: instant("told_at"),
  },
  (table) => [
    primaryKey({ columns: [table.accountId, table.what, table.about] }),
    check("watch_what", sql`${table.what} in ('intake', 'list')`),
  ],
);

/** The picture of the school or club, on its sign-in page and in the mails that sign people in. At most one. */
export const picture = pgTable(
  "picture",
  {
    id: smallint().primaryKey().default(1),
    type: text().notNull(),
    content: bytea().notNull(),
    changedAt: instant("changed_at").notNull().defaultNow(),
  },
  (table) => [check("picture_once", sql`${table.id} = 1`)],
);
