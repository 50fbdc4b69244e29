import * as z from "zod";
import { DateImport, ImportWishes } from "./dateImport";
import { endpoint } from "./endpoint";
import { wrong } from "./wrong";

/** A web address at which a fixture list or a calendar is kept, and which Amigo looks at by itself. */
export const DateWatch = z
  .object({
    id: z.string(),
    name: z.string(),
    address: z.string(),
    list: z.string(),
    group: z.string(),
    /** How many differences from Amigo's dates were found at the last look, and wait for a review. */
    waiting: z.number().int(),
    lookedAt: z.string().nullable(),
    /** Why the last look failed; empty where it didn't. */
    fault: z.string(),
  })
  .meta({ id: "DateWatch" });
export type DateWatch = z.output<typeof DateWatch>;

const Id = z.object({ id: z.uuid() });

export const getDateWatches = endpoint({
  method: "get",
  path: "/api/dates/watches",
  summary: "The web addresses with dates that the asker watches",
  who: "make dates",
  answer: z.array(DateWatch),
});
export const postDateWatch = endpoint({
  method: "post",
  path: "/api/dates/watches",
  summary: "Watch a web address with dates: it is looked at now, and then every 15 minutes",
  who: "make dates",
  body: ImportWishes.extend({
    address: z.string().trim().min(1, wrong("input.giveTheWebAddress")).max(2000),
  }),
  answer: z.object({ id: z.string() }),
});
export const postDateWatchRead = endpoint({
  method: "post",
  path: "/api/dates/watches/{id}/read",
  summary: "Read a watched web address now: what would be done, or with its plan, do it",
  who: "make dates",
  params: Id,
  body: z.object({ plan: z.string().max(64).default("") }),
  answer: DateImport,
});
export const deleteDateWatch = endpoint({
  method: "delete",
  path: "/api/dates/watches/{id}",
  summary: "Stop watching a web address; the dates that came from it stay",
  who: "make dates",
  params: Id,
  answer: z.object({ done: z.literal(true) }),
});
