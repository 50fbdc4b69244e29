import { integer, pgTable, text } from "drizzle-orm/pg-core";
import { instant } from "./columns";

/** By which key this house's secrets are sealed and its links proven: one row, so that another key is never taken in its place. */
export const houseKey = pgTable("house_key", {
  id: integer().primaryKey().default(1),
  /** The SHA-256 of the key's public half, in base64url. */
  fingerprint: text().notNull(),
  since: instant("since").notNull().defaultNow(),
});

/** The keys that sign mail (RFC 6376, RFC 8463), each with a name of its own in the DNS. */
export const mailKey = pgTable("mail_key", {
  /** What stands before `_domainkey` in the name of its record. */
  selector: text().primaryKey(),
  algorithm: text().$type<"rsa-sha256" | "ed25519-sha256">().notNull(),
  /** The private half as PEM, sealed with the house's key. */
  sealed: text().notNull(),
  /** The public half, as its record has it. */
  record: text().notNull(),
  /** Whether it signs, is made but doesn't yet, or has signed and doesn't any more. */
  state: text().$type<"waiting" | "signing" | "retired">().notNull(),
  madeAt: instant("made_at").notNull().defaultNow(),
  /** Since when it is in this state. */
  since: instant("since").notNull().defaultNow(),
});
