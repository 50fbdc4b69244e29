import * as z from "zod";
import { ALL_MEANINGS } from "@amigo/core/sheet/meanings/allMeanings";
import { endpoint } from "./endpoint";
import { wrong } from "./wrong";

export const MeaningName = z.enum(
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

export const Id = z.object({ id: z.uuid() });

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
