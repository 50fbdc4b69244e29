import { sql } from "drizzle-orm";
import {
  pgTable,
  bigserial,
  uuid,
  text,
  integer,
  boolean,
  index,
  uniqueIndex,
  bigint,
  check,
  primaryKey,
} from "drizzle-orm/pg-core";
import type { BounceSort } from "@amigo/core/mail/bounces/form";
import { instant, jsonb } from "./columns";
import { list } from "./lists";
import { message, post } from "./posts";

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
    // Rows are in the order in which they were made, so a few pages say where a week begins.
    index("delivery_created").using("brin", table.createdAt),
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

/** Many addresses that failed at once, so that none of them is stopped until somebody has looked at it. */
export const brake = pgTable(
  "brake",
  {
    id: uuid().primaryKey().defaultRandom(),
    at: instant("at").notNull().defaultNow(),
    /** Whether they have a mail domain in common, or only the mail that was sent to them. */
    scope: text().$type<"domain" | "mail">().notNull(),
    /** The domain, or the id of the message. */
    about: text().notNull(),
    /** What was said of the first of them. */
    words: text().notNull(),
    decidedAt: instant("decided_at"),
    decision: text().$type<"resume" | "stop">(),
    decidedBy: text("decided_by").notNull().default(""),
  },
  (table) => [
    index("brake_about").on(table.scope, table.about, table.at),
    index("brake_open")
      .on(table.at)
      .where(sql`${table.decidedAt} is null`),
  ],
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
    /** Of which wave of failures it is, while nobody has decided on that. */
    brakeId: uuid("brake_id").references(() => brake.id),
  },
  (table) => [
    index("address_trouble_brake").on(table.brakeId),
    index("address_trouble_state").on(table.state),
    check("address_trouble_state", sql`${table.state} in ('stopped', 'shaky')`),
  ],
);

/** Whether the relay can be reached, as the workers found it last. */
export const relayState = pgTable("relay_state", {
  /** Its host and port. */
  relay: text().primaryKey(),
  checkedAt: instant("checked_at").notNull().defaultNow(),
  /** Null while it answers. */
  awaySince: instant("away_since"),
  words: text().notNull().default(""),
});

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
