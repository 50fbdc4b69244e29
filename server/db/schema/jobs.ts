import { integer, pgTable, text } from "drizzle-orm/pg-core";
import { instant } from "./columns";

/** Work that comes back at its times: when each was done last, and what came of it. */
export const jobRun = pgTable("job_run", {
  name: text().primaryKey(),
  beganAt: instant("began_at"),
  endedAt: instant("ended_at"),
  /** How long it took, in milliseconds. */
  took: integer(),
  /** Why it failed; empty where it did its work. */
  failure: text().notNull().default(""),
  failedAt: instant("failed_at"),
  /** When somebody wanted it done at once; null once it is begun. */
  askedAt: instant("asked_at"),
});
