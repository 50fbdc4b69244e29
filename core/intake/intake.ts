import { message, type Message } from "@amigo/language/message";
import type { Adding } from "../lists/recipe";

/** What is written in each row of an intake, in the order of its columns. */
export const INTAKE_COLUMNS = ["person", "address", "to", "from", "until"] as const;

export type IntakeColumn = (typeof INTAKE_COLUMNS)[number];

/** A row as it was written, cell by cell. `to` is a list or class, `from` and `until` are days. */
export type IntakeCells = Record<IntakeColumn, string>;

/** How the interface names the columns. */
export const INTAKE_TITLES: Readonly<Record<IntakeColumn, Message>> = {
  person: message("intake.columnPerson"),
  address: message("intake.columnAddress"),
  to: message("intake.columnTo"),
  from: message("intake.columnFrom"),
  until: message("intake.columnUntil"),
};

/**
 * The result of a row: nothing yet, on its list, there before, asked whether they want to be, waiting for a lead, not taken, or off
 * the list again since its last day is over.
 */
export const INTAKE_OUTCOMES = [
  "",
  "added",
  "already",
  "asked",
  "waiting",
  "refused",
  "ended",
] as const;

export type IntakeOutcome = (typeof INTAKE_OUTCOMES)[number];

/** What makes an intake what it is. */
export interface IntakeContent {
  name: string;
  /** How its people come onto the lists. */
  how: Adding;
  /** The mail that whoever is added gets, in its own words; empty for that of the list. */
  welcome: string;
  /** The ids of the lists that it is for; empty for every open list of the season. */
  lists: string[];
  /** When approved rows are carried out: on days of the week (1 is Monday) at times (`HH:MM`); null for at once. */
  times: { days: number[]; times: string[] } | null;
}

export const LONGEST_CELL = 254;
/** How many rows one intake takes; beyond, another one is begun. */
export const MOST_ROWS = 2000;
