import { z } from "zod";
import { ALL_MEANINGS } from "@amigo/core/sheet/meanings/allMeanings";
import { endpoint, FILE_BODY, LONG_BODY } from "./endpoint";
import { wrong } from "./wrong";
import { CountedNumber } from "./countedNumber";

const MeaningName = z.enum(
  ALL_MEANINGS.map(({ id }) => id) as [
    (typeof ALL_MEANINGS)[number]["id"],
    ...(typeof ALL_MEANINGS)[number]["id"][],
  ],
);

/** What the person settled: sheet, header row (counted from 0), and what each column holds. */
export const Plan = z
  .object({
    sheet: z.string().max(200),
    /** Counted from 0; -1 where the sheet has no titles. */
    headerRow: z.number().int().min(-1).max(200_000),
    columns: z
      .array(
        z.object({
          title: z.string().max(1000),
          meaning: MeaningName,
          slot: z.number().int().min(0).max(40),
          /** Which comes first: in a column of dates the day or the month, in one of whole names the surname or the given name. */
          order: z.enum(["day first", "month first", "family first", "given first"]).optional(),
        }),
      )
      .max(256),
    others: z.array(z.string().max(200)).max(200).optional(),
    /** Lines between blocks of rows, counted from 0, and what they say. */
    headings: z
      .object({
        meaning: z.enum(["classes", "teams", "site", "student.level"]),
        rows: z.array(z.number().int().min(0).max(200_000)).max(5_000),
      })
      .optional(),
    /** What the line above the table, or the name of the sheet or file, says of every row. */
    everyRow: z
      .object({ meaning: z.enum(["classes", "teams"]), value: z.string().max(200) })
      .optional(),
    /** Whether people have two surnames as a rule. */
    twoSurnames: z.boolean().optional(),
    /** Whether level and class together name the class: level 5 and section B are 5B. */
    joinLevel: z.boolean().optional(),
  })
  .meta({ id: "Plan" });

export const Fault = z
  .object({
    sheet: z.number().int(),
    row: z.number().int(),
    column: z.number().int(),
    written: z.string(),
    fault: z.string(),
    answer: z.enum(["clean", "probably", "unusable"]),
    proposal: z.string().nullable(),
    sentence: z.string(),
    why: z.string(),
    /** The correction that has put it right, or null. */
    correction: z.string().nullable(),
  })
  .meta({ id: "Fault" });

/** A remembered fix, with who made it; `ended` says since when and why it no longer holds, or is empty. */
export const CorrectionLine = z
  .object({
    id: z.string(),
    source: z.string(),
    place: z.string(),
    who: z.string(),
    written: z.string(),
    read: z.string(),
    by: z.string(),
    at: z.string(),
    ended: z.string(),
  })
  .meta({ id: "Correction" });
export type CorrectionLine = z.output<typeof CorrectionLine>;

export const ScheduleShape = z.discriminatedUnion("when", [
  z.object({
    when: z.literal("times"),
    days: z.array(z.number().int().min(1).max(7)).min(1, wrong("input.chooseAtLeastOneDay")),
    times: z
      .array(z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, wrong("input.writeATimeAs0730")))
      .min(1, wrong("input.giveAtLeastOneTime"))
      .max(24),
  }),
  z.object({ when: z.literal("changed") }),
]);

/** Where a source's rows come from and when it is read by itself. */
export const SourceSettings = z
  .object({
    name: z.string().trim().min(1, wrong("input.giveTheSourceAName")).max(80),
    kind: z.enum(["upload", "pasted", "watched", "web", "form", "posted"]),
    location: z.string().trim().max(2000),
    schedule: ScheduleShape.nullable(),
    mode: z.enum(["ask", "itself"]),
    /** Whether the sheet claims to be whole, so that who is absent from it has left; else it only adds. */
    whole: z.boolean().default(true),
    limits: z.object({ sourceShare: z.number().min(0).max(1).optional() }),
    /** Whether a sheet with the result of each row is written beside a watched file after each import. */
    answersBeside: z.boolean().default(false),
  })
  .meta({ id: "SourceSettings" });
export type SourceSettings = z.output<typeof SourceSettings>;

export const ReadingLine = z
  .object({
    id: z.string(),
    number: z.number().int(),
    fileName: z.string(),
    sheet: z.string(),
    rows: z.number().int(),
    students: z.number().int(),
    /** Students of it whom the house knew already, and whom it did not. */
    known: z.number().int(),
    fresh: z.number().int(),
    faults: z.number().int(),
    toDecide: z.number().int(),
    /** What had changed about its columns. */
    notes: z.array(z.string()),
    readAt: z.string(),
    readBy: z.string(),
  })
  .meta({ id: "ReadingLine" });

export type ReadingLineShape = z.output<typeof ReadingLine>;

export const SourceLine = z
  .object({
    id: z.string(),
    last: ReadingLine.nullable(),
    ...SourceSettings.shape,
    /** What its settings are now; who changes them says which they have seen. */
    version: z.string(),
    /** How many answers were posted to it. */
    posted: z.number().int(),
    /** When it will be read by itself next, in words where it waits for a change; null for never. */
    nextAt: z.string().nullable(),
    triedAt: z.string().nullable(),
    outcome: z.string(),
    failures: z.number().int(),
    failingSince: z.string().nullable(),
  })
  .meta({ id: "SourceLine" });
export type SourceLine = z.output<typeof SourceLine>;

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

const Form = z.object({
  /** The file itself. */
  file: z.instanceof(File).meta({ type: "string", format: "binary" }),
  /** A plan as JSON text. */
  plan: z.string().max(200_000),
  /** When the file was last written, as an ISO instant; empty where it is not known. */
  written: z.union([z.iso.datetime({ offset: true }), z.literal("")]).default(""),
  /** Whether it claims to be whole; left out, it is told from the columns, or stays as it was. */
  whole: z.enum(["true", "false", ""]).default(""),
});

const Id = z.object({ id: z.uuid() });

export const getSources = endpoint({
  method: "get",
  path: "/api/sources",
  summary: "The sources of the current season",
  who: "see sources",
  answer: z.array(SourceLine),
});
export const getSource = endpoint({
  method: "get",
  path: "/api/sources/{id}",
  summary: "One source with its readings, newest first, and the plan of the last",
  who: "see sources",
  params: Id,
  answer: z.object({
    id: z.string(),
    name: z.string(),
    plan: Plan.nullable(),
    readings: z.array(ReadingLine),
  }),
});
export const putSource = endpoint({
  method: "put",
  path: "/api/sources/{id}",
  summary: "Change where a source's rows come from, and when it is imported automatically",
  who: "read a source",
  params: Id,
  body: SourceSettings.extend({ version: z.string().max(64) }),
  answer: SourceLine,
});
export const getWatched = endpoint({
  method: "get",
  path: "/api/watched",
  summary: "The files of the watched folder; null where this house has none",
  who: "see sources",
  answer: z
    .object({
      files: z.array(z.object({ name: z.string(), writtenAt: z.string(), bytes: z.number() })),
    })
    .nullable(),
});
/** What stands at a place that a source would watch: a proposal, before anything is kept. */
export const postLook = endpoint({
  method: "post",
  path: "/api/sources/look",
  summary: "Fetch a watched file, a web address or what was posted to a source, without storing it",
  who: "read a source",
  body: z.object({
    kind: z.enum(["watched", "web", "posted"]),
    location: z.string().trim().min(1, wrong("input.giveThePlaceOfTheSheet")).max(2000),
  }),
  answer: z.object({ file: z.string(), base64: z.string(), writtenAt: z.string() }),
});
/** The address is told this once. */
export const postPosted = endpoint({
  method: "post",
  path: "/api/sources/posted",
  summary: "Make a source to whose secret address a form tool posts answers",
  who: "read a source",
  body: z.object({ name: z.string().trim().min(1, wrong("input.giveTheSourceAName")).max(80) }),
  answer: z.object({ id: z.string(), url: z.string() }),
});
export const postPostedAddress = endpoint({
  method: "post",
  path: "/api/sources/{id}/address",
  summary: "Make a new secret address for a source that is posted to; the old one stops working",
  who: "read a source",
  params: Id,
  answer: z.object({ url: z.string() }),
});
export const postReadNow = endpoint({
  method: "post",
  path: "/api/sources/{id}/read",
  summary: "Import a connected source now",
  who: "read a source",
  params: Id,
  answer: z.object({ outcome: z.string(), ok: z.boolean() }),
});
export const getCorrections = endpoint({
  method: "get",
  path: "/api/corrections",
  summary: "Corrections of all sources, those in force first",
  who: "see sources",
  answer: z.array(CorrectionLine),
});
export const postCorrection = endpoint({
  method: "post",
  path: "/api/corrections",
  summary: "Correct a cell, until the sheet itself changes there",
  who: "read a source",
  body: z.object({
    reading: z.uuid(),
    sheet: z.number().int().min(0).default(0),
    row: z.number().int().min(1),
    column: z.number().int().min(0),
    read: z.string().max(1000),
  }),
  answer: z.object({
    id: z.string(),
    round: z.number().int().nullable(),
    causes: z.number().int(),
  }),
});
export const deleteCorrection = endpoint({
  method: "delete",
  path: "/api/corrections/{id}",
  summary: "Undo a correction: the cell is read as it is written",
  who: "read a source",
  params: Id,
  answer: z.object({
    id: z.string(),
    round: z.number().int().nullable(),
    causes: z.number().int(),
  }),
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
