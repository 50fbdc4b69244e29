import { z } from "zod";
import { ALL_MEANINGS } from "@amigo/core/sheet/meanings/allMeanings";
import { endpoint } from "./endpoint";

const MeaningName = z.enum(ALL_MEANINGS.map(({ id }) => id) as [typeof ALL_MEANINGS[number]["id"], ...typeof ALL_MEANINGS[number]["id"][]]);

/** What the person settled: sheet, header row (counted from 0), and what each column holds. */
export const Plan = z.object({
  sheet: z.string().max(200),
  headerRow: z.number().int().min(0).max(200_000),
  columns: z.array(z.object({ title: z.string().max(1000), meaning: MeaningName, slot: z.number().int().min(0).max(40) })).max(256),
}).meta({ id: "Plan" });

export const Fault = z.object({
  row: z.number().int(),
  column: z.number().int(),
  written: z.string(),
  fault: z.string(),
  answer: z.enum(["clean", "probably", "unusable"]),
  proposal: z.string().nullable(),
  sentence: z.string(),
  why: z.string(),
}).meta({ id: "Fault" });

export const ReadingLine = z.object({
  id: z.string(),
  number: z.number().int(),
  fileName: z.string(),
  sheet: z.string(),
  rows: z.number().int(),
  students: z.number().int(),
  faults: z.number().int(),
  toDecide: z.number().int(),
  readAt: z.string(),
  readBy: z.string(),
}).meta({ id: "ReadingLine" });

export const SourceLine = z.object({ id: z.string(), name: z.string(), last: ReadingLine.nullable(), readings: z.number().int() }).meta({ id: "SourceLine" });
export type SourceLine = z.output<typeof SourceLine>;

export const ReadingPage = z.object({
  reading: ReadingLine,
  source: z.object({ id: z.string(), name: z.string() }),
  sheets: z.array(z.string()),
  plan: Plan,
  totalRows: z.number().int(),
  aside: z.array(z.number().int()),
  faults: z.array(Fault),
}).meta({ id: "ReadingPage" });
export type ReadingPage = z.output<typeof ReadingPage>;

export const ReadingOutcome = z.object({
  source: z.string(),
  reading: z.string(),
  students: z.number().int(),
  guardians: z.number().int(),
  faults: z.number().int(),
  round: z.number().int().nullable(),
  causes: z.number().int(),
  same: z.boolean(),
}).meta({ id: "ReadingOutcome" });
export type ReadingOutcome = z.output<typeof ReadingOutcome>;

const Form = z.object({
  /** The file itself. */
  file: z.instanceof(File).meta({ type: "string", format: "binary" }),
  /** A plan as JSON text. */
  plan: z.string().max(200_000),
});

const Id = z.object({ id: z.uuid() });

export const getSources = endpoint({ method: "get", path: "/api/sources", summary: "The sources of the current season", who: "see sources", answer: z.array(SourceLine) });
export const getSource = endpoint({ method: "get", path: "/api/sources/{id}", summary: "One source with its readings, newest first, and the plan of the last", who: "see sources", params: Id, answer: z.object({ id: z.string(), name: z.string(), plan: Plan.nullable(), readings: z.array(ReadingLine) }) });
export const postSource = endpoint({ method: "post", path: "/api/sources", summary: "Make a source from a file and read it", who: "read a source", bodyType: "form", body: Form.extend({ name: z.string().trim().min(1, "Give the source a name.").max(80) }), answer: ReadingOutcome });
export const postReading = endpoint({ method: "post", path: "/api/sources/{id}/readings", summary: "Read a file into a source that is there", who: "read a source", params: Id, bodyType: "form", body: Form, answer: ReadingOutcome });
export const getReading = endpoint({ method: "get", path: "/api/readings/{id}", summary: "One reading with its plan and its faults", who: "see sources", params: Id, answer: ReadingPage });
export const getReadingRows = endpoint({ method: "get", path: "/api/readings/{id}/rows", summary: "Rows of a reading as they were read, 500 at a time", who: "see sources", params: Id, query: z.object({ from: z.coerce.number().int().min(1).default(1) }), answer: z.array(z.object({ row: z.number().int(), cells: z.array(z.string()) })) });
export const getSamples = endpoint({ method: "get", path: "/api/samples", summary: "The demo house's sample sheets; none in any other house", who: "see sources", answer: z.array(z.object({ name: z.string(), what: z.string() })) });
