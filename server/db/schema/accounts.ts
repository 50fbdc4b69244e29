import { sql } from "drizzle-orm";
import {
  pgTable,
  uuid,
  text,
  integer,
  check,
  index,
  bigint,
  bigserial,
  date,
  boolean,
} from "drizzle-orm/pg-core";
import type { HouseRole } from "@amigo/core/access/may";
import type { ProgramUse } from "@amigo/core/access/programUses";
import type { TokenScope } from "@amigo/core/access/tokenScopes";
import { instant } from "./columns";
import { site } from "./house";

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
    /** In which language they read the interface; empty for the house's, or English. */
    language: text().notNull().default(""),
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
  /** What such a program may do: send mail, or read and write calendars and address books. */
  programUses: text("program_uses").array().$type<ProgramUse[]>().notNull().default(["mail"]),
});
