import { and, eq, isNull, sql, desc } from "drizzle-orm";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { byHand } from "../db/schema/people";
import { peopleOf } from "../membership/scope";
import { currentSeason } from "./currentSeason";

/** What was said by hand and holds, newest first: for a site coordinator what is about somebody whom they see. */
export async function saidOf(db: Queries, caller: Caller): Promise<(typeof byHand.$inferSelect)[]> {
  const seasonId = await currentSeason(db);
  const within = peopleOf(caller, seasonId);
  return db
    .select()
    .from(byHand)
    .where(
      and(
        eq(byHand.seasonId, seasonId),
        isNull(byHand.endedAt),
        within === undefined
          ? undefined
          : sql`(${byHand.settled}->>'subject' in ${within} or exists (select 1 from regexp_split_to_table(${byHand.key}, '\s+') as word where word in ${within}))`,
      ),
    )
    .orderBy(desc(byHand.at))
    .limit(500);
}
