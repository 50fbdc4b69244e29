import { and, eq, gt, inArray, sql } from "drizzle-orm";
import type { Database, Queries } from "../db/connect";
import { signInAttempt } from "../db/schema/accounts";

/** A limit on tries under one key. */
export interface TryLimit {
  key: string;
  most: number;
  minutes: number;
}

/** Counts a try under a key and tells whether it is one of those that are let pass within the minutes. */
export async function isWithinTries(
  db: Database,
  key: string,
  most: number,
  minutes: number,
): Promise<boolean> {
  return (await countTry(db, [{ key, most, minutes }])) !== undefined;
}

/**
 * Counts a try under several keys before it is made, so that of many at once only as many are let pass as the limits say:
 * whoever counts under a key has it alone meanwhile.
 *
 * @returns what was counted, to be given back where the try turns out well; undefined where one of the limits is reached
 */
export async function countTry(
  db: Database,
  limits: readonly TryLimit[],
): Promise<number[] | undefined> {
  return db.transaction(async (tx) => {
    // In the same order for all, so that nobody waits for each other.
    for (const key of limits.map((limit) => limit.key).sort())
      await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${key}, 7))`);
    for (const { key, most, minutes } of limits) {
      const [tried] = await tx
        .select({ count: sql<number>`count(*)`.mapWith(Number) })
        .from(signInAttempt)
        .where(
          and(
            eq(signInAttempt.key, key),
            gt(signInAttempt.at, sql`now() - make_interval(mins => ${minutes})`),
          ),
        );
      if ((tried?.count ?? 0) >= most) return undefined;
    }
    const rows = await tx
      .insert(signInAttempt)
      .values(limits.map(({ key }) => ({ key })))
      .returning({ id: signInAttempt.id });
    return rows.map(({ id }) => id);
  });
}

/** Gives back what was counted for a try that turned out well. */
export async function forgiveTry(db: Queries, counted: readonly number[]): Promise<void> {
  await db.delete(signInAttempt).where(inArray(signInAttempt.id, [...counted]));
}
