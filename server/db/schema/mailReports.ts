import {
  bigint,
  boolean,
  index,
  integer,
  pgTable,
  primaryKey,
  text,
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import { instant } from "./columns";

/** Reports that receivers of our mail send by themselves, on proofs (RFC 7489) and on encryption (RFC 8460). */
export const mailReport = pgTable(
  "mail_report",
  {
    id: uuid().primaryKey().defaultRandom(),
    kind: text().$type<"dmarc" | "tls">().notNull(),
    /** The domain that is proven to have sent it, and what it calls the report. */
    reporter: text().notNull(),
    reportId: text("report_id").notNull(),
    domain: text().notNull(),
    begins: instant("begins").notNull(),
    ends: instant("ends").notNull(),
    receivedAt: instant("received_at").notNull().defaultNow(),
  },
  (table) => [
    uniqueIndex("mail_report_once").on(table.kind, table.reporter, table.reportId),
    index("mail_report_ends").on(table.ends),
  ],
);

/** Of a report, what was seen of one machine. */
export const mailReportRow = pgTable(
  "mail_report_row",
  {
    reportId: uuid("report_id")
      .notNull()
      .references(() => mailReport.id, { onDelete: "cascade" }),
    place: integer().notNull(),
    source: text().notNull(),
    good: bigint({ mode: "number" }).notNull(),
    bad: bigint({ mode: "number" }).notNull(),
    /** Whether the signature and the SPF record were good for our domain; null in a report on encryption. */
    dkim: boolean(),
    spf: boolean(),
    /** What was done with the mail, or what was wrong with the session. */
    outcome: text().notNull(),
  },
  (table) => [primaryKey({ columns: [table.reportId, table.place] })],
);
