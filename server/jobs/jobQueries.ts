import { eq, isNotNull, sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { jobRun } from "../db/schema/jobs";

/** Returns what is known of each job that has run. */
export async function listJobRuns(db: Queries) {
  return db.select().from(jobRun);
}

/** Writes down that a job has begun; what somebody asked for is begun by it. */
export async function storeBegin(db: Queries, name: string, at: Date): Promise<void> {
  await db
    .insert(jobRun)
    .values({ name, beganAt: at })
    .onConflictDoUpdate({ target: jobRun.name, set: { beganAt: at, askedAt: null } });
}

/** Writes down how a job has ended; `failure` is empty where it did its work. */
export async function storeEnd(
  db: Queries,
  name: string,
  { at, took, failure }: { at: Date; took: number; failure: string },
): Promise<void> {
  await db
    .update(jobRun)
    .set({ endedAt: at, took, failure, ...(failure === "" ? {} : { failedAt: at }) })
    .where(eq(jobRun.name, name));
}

/** Asks for a job to be done at once, by whichever worker hears of it first. */
export async function askForJob(db: Queries, name: string): Promise<void> {
  await db
    .insert(jobRun)
    .values({ name, askedAt: sql`now()` })
    .onConflictDoUpdate({ target: jobRun.name, set: { askedAt: sql`now()` } });
}

/** Takes what was asked for, each for one worker alone. */
export async function takeAsked(db: Queries): Promise<string[]> {
  const taken = await db
    .update(jobRun)
    .set({ askedAt: null })
    .where(isNotNull(jobRun.askedAt))
    .returning({ name: jobRun.name });
  return taken.map(({ name }) => name);
}
