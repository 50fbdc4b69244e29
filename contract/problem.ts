import * as z from "zod";

/** A fault as RFC 9457 has it. `detail` is the sentence for people; `field` says what it is about. */
export const Problem = z
  .object({
    type: z.string(),
    title: z.string(),
    status: z.number().int(),
    detail: z.string(),
    field: z.string().optional(),
  })
  .meta({ id: "Problem" });
export type Problem = z.output<typeof Problem>;
