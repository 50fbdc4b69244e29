import { sql } from "drizzle-orm";
import {
  pgTable,
  integer,
  text,
  boolean,
  date,
  check,
  serial,
  uniqueIndex,
  smallint,
} from "drizzle-orm/pg-core";
import type { TwoStepFor } from "@amigo/core/access/twoStep";
import type { KeepTimes } from "@amigo/core/retention/kept";
import type { Limits } from "@amigo/core/step/guards/limits";
import { jsonb, bytea, instant } from "./columns";

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
    /** Whether a mail in several languages has a part for each (RFC 8255), and isn't one text with all below each other. */
    languageParts: boolean("language_parts").notNull().default(false),
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

/** A domain that lists had before: mail to it still reaches them until a day. */
export const formerDomain = pgTable("former_domain", {
  domain: text().primaryKey(),
  lastDay: date("last_day").notNull(),
});

/** A domain that was inside before: its addresses still count as inside until a day. */
export const formerInsideDomain = pgTable("former_inside_domain", {
  domain: text().primaryKey(),
  lastDay: date("last_day").notNull(),
});

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
