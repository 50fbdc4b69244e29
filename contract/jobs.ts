import * as z from "zod";
import { endpoint } from "./endpoint";

const Job = z.object({
  name: z.string(),
  /** What it does. */
  what: z.string(),
  /** When it ended last, and how long it took, in milliseconds. */
  last: z.string().nullable(),
  took: z.number().int().nullable(),
  next: z.string().nullable(),
  /** Why it failed the last time; empty where it did its work. */
  failure: z.string(),
  /** Whether somebody has asked for it and no worker has begun yet. */
  isAsked: z.boolean(),
});
export type Job = z.output<typeof Job>;

export const getJobs = endpoint({
  method: "get",
  path: "/api/jobs",
  summary:
    "Work that comes back by itself: when it was done last, what came of it, and when it is due next",
  who: "change the house",
  answer: z.array(Job),
});
export const postJob = endpoint({
  method: "post",
  path: "/api/jobs/{name}/run",
  summary: "Have one of these done at once",
  who: "change the house",
  params: z.object({ name: z.string().max(40) }),
  answer: z.object({ done: z.literal(true) }),
});
