import * as z from "zod";
import { endpoint, FILE_BODY, LONG_BODY } from "./endpoint";
import { wrong } from "./wrong";
import { CountedNumber } from "./countedNumber";
import { MeaningName, Plan, Fault, ReadingLine, Id } from "./sources";

export const ReadingPage = z
  .object({
    reading: ReadingLine,
    source: z.object({ id: z.string(), name: z.string() }),
    sheets: z.array(z.string()),
    plan: Plan,
    /** The sheets that are read, in the order of the plan, with their header row (from 0) and the rows set aside (from 1). */
    read: z.array(
      z.object({
        name: z.string(),
        headerRow: z.number().int(),
        totalRows: z.number().int(),
        aside: z.array(z.number().int()),
      }),
    ),
    /** Whether it is the source's newest, where cells can be corrected. */
    newest: z.boolean(),
    questions: z.number().int(),
    faults: z.array(Fault),
  })
  .meta({ id: "ReadingPage" });

export type ReadingPage = z.output<typeof ReadingPage>;

export const ReadingOutcome = z
  .object({
    source: z.string(),
    reading: z.string(),
    students: z.number().int(),
    guardians: z.number().int(),
    faults: z.number().int(),
    round: z.number().int().nullable(),
    causes: z.number().int(),
    same: z.boolean(),
    /** What the import did, in one line. */
    summary: z.string(),
  })
  .meta({ id: "ReadingOutcome" });

export type ReadingOutcome = z.output<typeof ReadingOutcome>;

export const Form = z.object({
  /** The file itself. */
  file: z.instanceof(File).meta({ type: "string", format: "binary" }),
  /** A plan as JSON text. */
  plan: z.string().max(200_000),
  /** When the file was last written, as an ISO instant; empty where it is not known. */
  written: z.union([z.iso.datetime({ offset: true }), z.literal("")]).default(""),
  /** Whether it claims to be whole; left out, it is told from the columns, or stays as it was. */
  whole: z.enum(["true", "false", ""]).default(""),
});

export const postReading = endpoint({
  method: "post",
  path: "/api/sources/{id}/readings",
  summary: "Read a file into a source that is there",
  who: "read a source",
  params: Id,
  bodyType: "form",
  long: true,
  most: FILE_BODY,
  body: Form,
  answer: ReadingOutcome,
});

/** What the house knows before it looks at a sheet, so that its columns are told by it. */
export const getKnownWords = endpoint({
  method: "get",
  path: "/api/known-words",
  summary: "Titles that were read before, and the names of classes, teams, sites and people",
  who: "read a source",
  answer: z.object({
    titles: z.array(z.object({ title: z.string(), meaning: MeaningName })),
    classes: z.array(z.string()),
    teams: z.array(z.string()),
    sites: z.array(z.string()),
    staff: z.array(z.string()),
    people: z.object({
      students: z.array(z.object({ given: z.string(), family: z.string() })),
      guardians: z.array(z.object({ given: z.string(), family: z.string() })),
      numbers: z.array(z.string()),
    }),
  }),
});

/** Held against the last sheet of every source: its columns, and whom it is about. */
export const postMatch = endpoint({
  method: "post",
  path: "/api/sources/match",
  summary: "Tell which source a sheet continues, before it is imported",
  who: "read a source",
  most: LONG_BODY,
  body: z.object({
    columns: Plan.shape.columns,
    others: Plan.shape.others,
    /** Its students as name keys; of very many one in so many. */
    names: z.array(z.string().max(300)).max(4000),
    oneIn: z.number().int().min(1).max(1000),
  }),
  answer: z.discriminatedUnion("is", [
    z.object({ is: z.literal("the next of"), source: z.string() }),
    z.object({ is: z.literal("new") }),
    z.object({ is: z.literal("unsure"), sources: z.array(z.string()) }),
  ]),
});

/** The file that is kept is imported once more. */
export const postMeanings = endpoint({
  method: "post",
  path: "/api/sources/{id}/meanings",
  summary: "Import the last file of a source again with other column meanings",
  who: "read a source",
  params: Id,
  long: true,
  most: LONG_BODY,
  body: z.object({ plan: Plan }),
  answer: ReadingOutcome,
});

export const getReading = endpoint({
  method: "get",
  path: "/api/readings/{id}",
  summary: "One reading with its plan and its faults",
  who: "see sources",
  params: Id,
  answer: ReadingPage,
});

export const getReadingRows = endpoint({
  method: "get",
  path: "/api/readings/{id}/rows",
  summary: "Rows of a reading as they were read, 500 at a time",
  who: "see sources",
  params: Id,
  query: z.object({
    sheet: CountedNumber.default(0),
    from: CountedNumber.min(1).default(1),
  }),
  answer: z.array(z.object({ row: z.number().int(), cells: z.array(z.string()) })),
});

export const getSamples = endpoint({
  method: "get",
  path: "/api/samples",
  summary: "The demo house's sample sheets; none in any other house",
  who: "see sources",
  answer: z.array(z.object({ name: z.string(), what: z.string() })),
});

/** A sheet to which somebody may add rows, by its columns; what others have written there is not shown. */
export const HelpedSource = z
  .object({
    id: z.string(),
    name: z.string(),
    columns: z.array(z.object({ title: z.string(), meaning: z.string() })),
    rows: z.number().int(),
    /** Why no row can be added, in a sentence; empty where they can. */ because: z.string(),
  })
  .meta({ id: "HelpedSource" });

export type HelpedSource = z.output<typeof HelpedSource>;

export const getHelped = endpoint({
  method: "get",
  path: "/api/helped",
  summary: "The sheets to which the asker may add rows",
  who: "add rows",
  answer: z.array(HelpedSource),
});

export const postRows = endpoint({
  method: "post",
  path: "/api/sources/{id}/rows",
  summary: "Add rows at the end of a sheet, as a reading of its own that a coordinator decides on",
  who: "add rows",
  params: z.object({ id: z.uuid() }),
  most: LONG_BODY,
  body: z.object({
    rows: z
      .array(z.array(z.string().max(1000)).max(200))
      .min(1, wrong("input.writeARow"))
      .max(500),
  }),
  answer: z.object({ added: z.number().int() }),
});

export const postSource = endpoint({
  method: "post",
  path: "/api/sources",
  summary: "Make a source from a file and read it",
  who: "read a source",
  bodyType: "form",
  long: true,
  most: FILE_BODY,
  body: Form.extend({
    name: z.string().trim().min(1, wrong("input.giveTheSourceAName")).max(80),
    kind: z.enum(["upload", "pasted", "watched", "web"]).default("upload"),
    location: z.string().trim().max(2000).default(""),
  }),
  answer: ReadingOutcome,
});
