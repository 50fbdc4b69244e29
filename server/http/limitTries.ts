import { and, count, eq, gt, sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { signInAttempt } from "../db/schema";

/** Counts a try under a key and tells whether it is one of those that are let pass within the minutes. */
export async function isWithinTries(
  db: Queries,
  key: string,
  most: number,
  minutes: number,
): Promise<boolean> {
  const [tried] = await db
    .select({ count: count() })
    .from(signInAttempt)
    .where(
      and(
        eq(signInAttempt.key, key),
        gt(signInAttempt.at, sql`now() - make_interval(mins => ${minutes})`),
      ),
    );
  if ((tried?.count ?? 0) >= most) return false;
  await db.insert(signInAttempt).values({ key });
  return true;
}
