import type { ColumnMeaning } from "./proposeMeanings";
import type { ColumnOrder } from "../dates/dateOrder";
import type { NameOrder } from "./columns/nameOrder";
import type { Message } from "@amigo/language/message";
import type { MeaningId } from "./meanings/meaning";
import type { AsideReason } from "./shapes/sortRows";
import type { GroupNamed } from "./shapes/className";
import type { DateOrder } from "../dates/readMoment";
import type { KnownWords } from "./columns/knownWords";
import type { Sheet } from "./sheet";

/** A column of the table. `index` counts from 0. */
export interface TableColumn extends ColumnMeaning {
  index: number;
  title: string;
  group: string;
  /** In a column of dates, whether the day or the month comes first; in one of whole names, which part does. */
  order?: ColumnOrder | NameOrder;
  /** Why it is taken for what it is, in a sentence; left out where a person has said so. */
  why?: Message;
  /** Whether none of its cells holds anything. */
  isEmpty?: boolean;
  /** What else it could be, the likeliest first. */
  others?: readonly { meaning: MeaningId; confidence: number }[];
  /** How sure its title alone makes one of it, 0 to 1. */
  sure?: number;
  /** Whether only its place says which guardian's address it is. */
  guessed?: boolean;
}

/** What lines between blocks of rows say. */
export type HeadingMeaning = "classes" | "teams" | "site" | "student.level";

/** A sheet taken apart into its header, its data rows and what is set aside. Rows count from 0. */
export interface Table {
  sheet: string;
  /** -1 where the sheet has no titles. */
  headerRow: number;
  columns: TableColumn[];
  rows: number[];
  aside: { row: number; why: AsideReason }[];
  /** The lines between blocks, and what they say; left out where there are none. */
  headings?: { meaning: HeadingMeaning; lines: { row: number; text: string }[] };
  /** What a line above the table, or the name of the sheet or file, says of all its rows. */
  everyRow?: GroupNamed;
  /** Whether people have two surnames as a rule. */
  twoSurnames?: boolean;
  /** Whether level and class together name the class: level 5 and section B are 5B. */
  joinLevel?: boolean;
  /** The column by which the sheet is a list of staff, from 0; left out where it isn't one. */
  staff?: number;
  /** What a person should know about how its columns were taken, in sentences. */
  notes: Message[];
}

/** What a person settled about a source: which sheet, which row is the header, what each column holds. */
export interface ReadingPlan {
  sheet: string;
  /** -1 where the sheet has no titles. */
  headerRow: number;
  columns: {
    title: string;
    meaning: ColumnMeaning["meaning"];
    slot: number;
    /** Which comes first: in a column of dates the day or the month, in one of whole names the surname or the given name. */
    order?: DateOrder | NameOrder | undefined;
  }[];
  /** Further sheets that are read along, with the same columns: one sheet for each class. */
  others?: string[];
  /** The lines between blocks of rows, counted from 0, and what they say. */
  headings?: { meaning: HeadingMeaning; rows: number[] } | undefined;
  /** What holds for every row of the sheet. */
  everyRow?: GroupNamed | undefined;
  twoSurnames?: boolean | undefined;
  joinLevel?: boolean | undefined;
}

/** What is known of a sheet before it is understood. */
export interface SheetHints {
  /** The file's name, which may name the class. */
  file?: string;
  /** The sheet and the row of titles, where somebody has said so; -1 for a sheet without titles. */
  sheet?: string | undefined;
  headerRow?: number | undefined;
  /** What somebody has said of columns, by index from 0. */
  settled?: ReadonlyMap<number, Settled> | undefined;
  /** What the house knows already. */
  known?: KnownWords | undefined;
}

/** What somebody has said that a column holds. */
export interface Settled {
  meaning: MeaningId;
  slot: number;
}

/** A table with the sheet that it stands in. */
export interface TableInSheet {
  table: Table;
  sheet: Sheet;
}
