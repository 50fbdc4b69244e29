import * as z from "zod";
import { EACH } from "@amigo/core/lists/recipe";
import { endpoint } from "./endpoint";

const AudienceFault = z.object({
  at: z.number().int(),
  length: z.number().int(),
  sentence: z.string(),
  proposal: z.string().nullable(),
});

/** An audience as far as it is typed. */
export const AudienceTried = z
  .object({
    faults: z.array(AudienceFault),
    /** The text read back as a sentence; empty while it is not understood. */
    sentence: z.string(),
    /** The class, site or level for which "this" was taken, where it stands for one. */
    example: z.string(),
    people: z.number().int(),
    addresses: z.number().int(),
    first: z.array(z.object({ name: z.string(), because: z.string(), reached: z.boolean() })),
    /** Ways to go on at the cursor; each takes the place of what stands from `from` to there. */
    completions: z.array(z.object({ text: z.string(), what: z.string(), from: z.number().int() })),
  })
  .meta({ id: "AudienceTried" });

export type AudienceTried = z.output<typeof AudienceTried>;

/** The names that somebody can choose from for an audience. */
export const AudienceWords = z
  .object({
    cohorts: z.array(z.object({ name: z.string(), kind: z.enum(["class", "team", "committee"]) })),
    sites: z.array(z.string()),
    levels: z.array(z.string()),
    columns: z.array(z.object({ name: z.string(), values: z.array(z.string()) })),
  })
  .meta({ id: "AudienceWords" });

export type AudienceWords = z.output<typeof AudienceWords>;

export const getAudienceWords = endpoint({
  method: "get",
  path: "/api/audiences/words",
  summary: "The classes, sites, levels and columns that an audience can name",
  who: "change lists",
  answer: AudienceWords,
});

export const postAudienceTry = endpoint({
  method: "post",
  path: "/api/audiences/try",
  summary: "Who belongs to an audience, and how it can go on",
  who: "change lists",
  body: z.object({
    text: z.string().max(2000),
    cursor: z.number().int().min(0).optional(),
    each: z.enum([...EACH, ""]).default(""),
    list: z.string().max(300).default(""),
  }),
  answer: AudienceTried,
});
