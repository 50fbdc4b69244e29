import * as z from "zod";
import { endpoint } from "./endpoint";

/** One thing about the machine and the house that a coordinator can look after. */
export const HealthDetail = z
  .object({
    what: z.string(),
    state: z.enum(["ok", "warning", "failing"]),
    words: z.string(),
    /** The moment that the words are about. */
    at: z.string().nullable(),
  })
  .meta({ id: "HealthDetail" });
export type HealthDetail = z.output<typeof HealthDetail>;

export const Health = z
  .object({
    status: z.enum(["ok", "failing"]),
    database: z.boolean(),
    smtp: z.boolean(),
    relay: z.boolean(),
    /** Whether this process hears what others change. */
    events: z.boolean(),
    /** Whether the store of files answers, where the settings name one. */
    shelfStore: z.boolean().optional(),
    /** Whether the virus scanner answers, where the settings name one. */
    scanner: z.boolean().optional(),
    /** Disk, queue, backup and more, for coordinators alone, with the version of Amigo. */
    details: z.array(HealthDetail).optional(),
    version: z.string().optional(),
  })
  .meta({ id: "Health" });

export const getHealth = endpoint({
  method: "get",
  path: "/api/health",
  summary:
    "Whether database, SMTP port, relay and the store of files answer, and whether changes by other processes are heard",
  who: "anybody",
  answer: Health,
});
export const getHealthDetails = endpoint({
  method: "get",
  path: "/api/health/details",
  summary: "What this Amigo needs to do its work: disk, queue, backup, certificate and more",
  who: "change the house",
  answer: z.object({ version: z.string(), details: z.array(HealthDetail) }),
});
