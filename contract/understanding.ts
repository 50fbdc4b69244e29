import * as z from "zod";

/** What Amigo understands of some files: the answer of `amigo read … --json`. Rows count from 1, columns go by their letters. */
export const Understanding = z
  .object({
    files: z.array(
      z.object({
        file: z.string(),
        sheet: z.string(),
        headerRow: z.number().int(),
        rows: z.number().int(),
        columns: z.array(
          z.object({ title: z.string(), meaning: z.string(), confidence: z.number() }),
        ),
      }),
    ),
    students: z.array(
      z.object({
        number: z.string().nullable(),
        given: z.string(),
        family: z.string(),
        level: z.union([z.number(), z.string()]).nullable(),
        site: z.string().nullable(),
        classes: z.array(z.string()),
        teams: z.array(z.string()),
        guardians: z.array(
          z.object({
            given: z.string(),
            family: z.string(),
            address: z.string().nullable(),
            relationship: z.string().nullable(),
          }),
        ),
      }),
    ),
    faults: z.array(
      z.object({
        file: z.string(),
        sheet: z.string(),
        row: z.number().int(),
        column: z.string(),
        written: z.string(),
        fault: z.string(),
        answer: z.enum(["clean", "probably", "unusable"]),
        proposal: z.string().nullable(),
      }),
    ),
    questions: z.array(
      z.object({
        file: z.string(),
        row: z.number().int(),
        about: z.string(),
        choices: z.array(z.string()),
      }),
    ),
  })
  .meta({ id: "Understanding" });
export type Understanding = z.output<typeof Understanding>;
