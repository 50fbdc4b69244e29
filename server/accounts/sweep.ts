import { lt, sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { mailedLink, memberSession, signInAttempt } from "../db/schema";

/** Takes away what has run out: counted tries after a day, links after a month, members' sessions. Done by a job, so that nobody waits for it. */
export async function sweep(db: Queries): Promise<void> {
  await db.delete(signInAttempt).where(lt(signInAttempt.at, sql`now() - interval '1 day'`));
  await db.delete(mailedLink).where(lt(mailedLink.expiresAt, sql`now() - interval '30 days'`));
  await db.delete(memberSession).where(lt(memberSession.expiresAt, sql`now()`));
}
