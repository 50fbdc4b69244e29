import * as z from "zod";
import { endpoint, LONG_BODY } from "./endpoint";

export const NameRow = z
  .object({
    key: z.string(),
    title: z.string(),
    site: z.string(),
    recipe: z.number().int().nullable(),
    /** The name now, what the patterns make, and a name that can be used. */
    now: z.string(),
    made: z.string(),
    proposal: z.string(),
    faults: z.array(z.object({ fault: z.string(), sentence: z.string() })),
  })
  .meta({ id: "NameRow" });

export type NameRow = z.output<typeof NameRow>;

export const NamesTried = z
  .object({
    rows: z.array(NameRow),
    shorts: z.array(z.object({ name: z.string(), short: z.string(), chosen: z.boolean() })),
    faults: z.array(
      z.object({
        recipe: z.number().int(),
        at: z.number().int(),
        sentence: z.string(),
        proposal: z.string().nullable(),
      }),
    ),
  })
  .meta({ id: "NamesTried" });

export type NamesTried = z.output<typeof NamesTried>;

export const NamingSettings = z
  .object({
    nameLimit: z.number().int().min(8).max(54),
    reserved: z.array(z.string().trim().toLowerCase().max(64)).max(200),
    convention: z.enum(["advises", "binds"]),
    /** What they are now; who changes them says which they have seen. */
    version: z.string().max(64),
  })
  .meta({ id: "NamingSettings" });

export type NamingSettings = z.output<typeof NamingSettings>;

export const postNamesTry = endpoint({
  method: "post",
  path: "/api/names/try",
  summary: "What every list would be called by other patterns and short forms",
  who: "see the house",
  most: LONG_BODY,
  body: z.object({
    patterns: z.record(z.string().regex(/^\d+$/), z.string().max(120)).default({}),
    shorts: z.record(z.string().max(200), z.union([z.string().max(30), z.null()])).default({}),
  }),
  answer: NamesTried,
});

export const getNaming = endpoint({
  method: "get",
  path: "/api/naming",
  summary: "The naming rules",
  who: "see the house",
  answer: NamingSettings,
});

export const putNaming = endpoint({
  method: "put",
  path: "/api/naming",
  summary: "Change the naming rules",
  who: "change the house",
  body: NamingSettings,
  answer: NamingSettings,
});
