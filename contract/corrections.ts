import * as z from "zod";
import { endpoint } from "./endpoint";
import { Id } from "./sources";

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
