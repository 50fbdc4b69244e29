import type { PersonName } from "./splitName";
import type { MeaningId } from "./meanings/meaning";
import type { Message } from "@amigo/language/message";
import type { KnownDomains } from "../address/learnDomains";
import type { AddressFault } from "../address/addressReading";

/** A guardian as one row names them. `column` counts from 0 and is where the address stands. */
export interface GuardianMention {
  slot: number;
  name: PersonName;
  /** The clean or probably meant address, undefined where there is none that works. */
  address: string | undefined;
  written: string;
  column: number | undefined;
  relationship: string;
  /** The row that names them, where it isn't the student's own: in sheets with a row for each person. */
  row?: number;
}

/** What one row says about one student. `row` counts from 1, as the spreadsheet shows it. */
export interface RowRecord {
  sheet: string;
  row: number;
  number: string;
  name: PersonName;
  level: string;
  site: string;
  classes: string[];
  teams: string[];
  coach: string;
  /** The coach's address, where the sheet gives one. */
  coachAddress?: string | undefined;
  address: string | undefined;
  /** When a form was answered, as an instant in ISO 8601 and UTC; empty for a row that is no answer. */
  answered: string;
  /** The same as the sheet writes it. */
  answeredAs?: string;
  /** The season that the row names, written `2026-27`; left out where the sheet has no such column. */
  season?: string;
  guardians: GuardianMention[];
  /** What further columns say, by their titles; left out where the sheet has none. */
  details?: readonly { column: string; slot: number; value: string }[];
  /** The corrections by which its cells were read, by meaning and slot; undefined where none was. */
  corrected?: ReadonlyMap<string, string>;
  /** Of a row with several children, the slots of the columns that are about this one. */
  slots?: ReadonlyMap<MeaningId, number>;
}

/** One faulty cell. `row` counts from 1, `column` from 0. */
export interface CellFault {
  sheet: string;
  row: number;
  column: number;
  written: string;
  fault: AddressFault | "no-name" | "no-date" | "whose";
  answer: "clean" | "probably" | "unusable";
  proposal: string | undefined;
  sentence: Message;
  why: Message;
}

export interface Records {
  records: RowRecord[];
  faults: CellFault[];
  domains: KnownDomains;
}
