import { and, isNotNull, lt, sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { signInAttempt } from "../db/schema/accounts";
import { mailedLink, memberSession } from "../db/schema/members";
import { draft } from "../db/schema/drafts";

/** Takes away what has run out: counted tries after a day, links after a month, members' sessions, drafts that were sent. Done by a job, so that nobody waits for it. */
export async function sweep(db: Queries): Promise<void> {
  await db.delete(signInAttempt).where(lt(signInAttempt.at, sql`now() - interval '1 day'`));
  await db.delete(mailedLink).where(lt(mailedLink.expiresAt, sql`now() - interval '30 days'`));
  // A draft that has become a post was kept only so that it could be taken back.
  await db
    .delete(draft)
    .where(and(isNotNull(draft.postId), lt(draft.changedAt, sql`now() - interval '1 day'`)));
  await db.delete(memberSession).where(lt(memberSession.expiresAt, sql`now()`));
}
