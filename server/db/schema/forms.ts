import { sql } from "drizzle-orm";
import {
  pgTable,
  uuid,
  text,
  integer,
  index,
  check,
  bigserial,
  uniqueIndex,
} from "drizzle-orm/pg-core";
import type { FormContent } from "@amigo/core/forms/form";
import type { Answer } from "@amigo/core/forms/readAnswer";
import { account } from "./accounts";
import { jsonb, instant } from "./columns";
import { source } from "./sources";

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
