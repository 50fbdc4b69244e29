import { index, integer, pgTable, primaryKey, text, uuid } from "drizzle-orm/pg-core";
import type { PushTopic } from "@amigo/core/push/topics";
import { account } from "./accounts";
import { instant } from "./columns";

/** The key by which push services know this house (VAPID, RFC 8292): one row. */
export const pushKey = pgTable("push_key", {
  id: integer().primaryKey().default(1),
  /** The public half, in base64url, as browsers are given it. */
  publicKey: text("public_key").notNull(),
  /** The private half, sealed with the house's key. */
  sealed: text().notNull(),
});

/** A browser or installed app on which somebody of the staff is told of what is new (RFC 8030). */
export const pushDevice = pgTable(
  "push_device",
  {
    id: uuid().primaryKey().defaultRandom(),
    accountId: uuid("account_id")
      .notNull()
      .references(() => account.id),
    /** Where its push service takes messages for it. */
    endpoint: text().notNull().unique(),
    /** By which keys messages to it are encrypted (RFC 8291): its public key and its secret, in base64url. */
    p256dh: text().notNull(),
    auth: text().notNull(),
    /** The browser as it calls itself, cut short. */
    browser: text().notNull(),
    createdAt: instant("created_at").notNull().defaultNow(),
    /** How often in a row its push service didn't take a message. */
    failures: integer().notNull().default(0),
  },
  (table) => [index("push_device_account").on(table.accountId)],
);

/** Of what somebody wants to be told on their devices, and since when. */
export const pushChoice = pgTable("push_choice", {
  accountId: uuid("account_id")
    .primaryKey()
    .references(() => account.id),
  topics: text().array().$type<PushTopic[]>().notNull(),
  /** What is older isn't told. */
  since: instant("since").notNull().defaultNow(),
});

/** What was told to somebody on their devices, so that it is told once. */
export const pushTold = pgTable(
  "push_told",
  {
    accountId: uuid("account_id")
      .notNull()
      .references(() => account.id),
    /** What it was about: a topic and the id of a thing. */
    mark: text().notNull(),
    at: instant("at").notNull().defaultNow(),
  },
  (table) => [
    primaryKey({ columns: [table.accountId, table.mark] }),
    index("push_told_at").on(table.at),
  ],
);
