import * as z from "zod";
import { DateWhen } from "./dates";
import { endpoint, FILE_BODY } from "./endpoint";
import { wrong } from "./wrong";

/** What becomes of a date of a fixture list: it is made, changed, stays, is called off, or can't be kept. */
export const IMPORT_STEPS = ["new", "changed", "same", "gone", "left out"] as const;

export const DateImportLine = z
  .object({
    step: z.enum(IMPORT_STEPS),
    /** The row of the sheet; 0 where it stands in none. */
    row: z.number().int(),
    title: z.string(),
    when: DateWhen.nullable(),
    place: z.string(),
    /** The list that is invited. */
    list: z.string(),
    /** What has changed, or why it is left out. */
    note: z.string(),
  })
  .meta({ id: "DateImportLine" });
export type DateImportLine = z.output<typeof DateImportLine>;

export const DateImport = z
  .object({
    lines: z.array(DateImportLine),
    /** What is to be done, to be sent along with the press of the button. */
    plan: z.string(),
    /** Whether it has been done. */
    done: z.boolean(),
    /** Whether days or months come first couldn't be told. */
    isUnsure: z.boolean(),
  })
  .meta({ id: "DateImport" });
export type DateImport = z.output<typeof DateImport>;

/** How dates of a file or a web address are to be imported. */
export const ImportWishes = z.object({
  /** What the fixture list is called: read again under its name, it changes the dates that came from it. */
  name: z.string().trim().min(1, wrong("input.giveTheListAName")).max(80),
  /** The list of dates without a team. */
  list: z.union([z.literal(""), z.uuid()]).default(""),
  /** Which of a team's lists is invited, by the end of its title. */
  group: z.string().trim().max(80).default(""),
});
export type ImportWishes = z.output<typeof ImportWishes>;

export const postDateImport = endpoint({
  method: "post",
  path: "/api/dates/import",
  summary:
    "Read dates from a fixture list or an iCalendar file: what would be done, or with its plan, do it",
  who: "make dates",
  bodyType: "form",
  most: FILE_BODY,
  body: ImportWishes.extend({
    file: z
      .instanceof(globalThis.File, { message: wrong("input.chooseAFile") })
      .meta({ type: "string", format: "binary" }),
    plan: z.string().max(64).default(""),
  }),
  answer: DateImport,
});
