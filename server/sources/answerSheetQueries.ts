import { alphabetical } from "../db/alphabetical";
import { and, eq, isNull } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { addressTrouble } from "../db/schema/deliveries";
import { season } from "../db/schema/house";
import { membership, list, cohort } from "../db/schema/lists";
import { question } from "../db/schema/people";
import { cause, round } from "../db/schema/rounds";

/** Lists the addresses to which mail is stopped or in doubt. */
export function listAllTroubles(db: Queries) {
  return db.select().from(addressTrouble);
}

/** Lists on which lists of a season each address is, and since when. */
export function listListsByAddress(db: Queries, seasonId: number) {
  return db
    .select({
      address: membership.address,
      title: list.title,
      cohort: cohort.key,
      from: membership.validFrom,
    })
    .from(membership)
    .innerJoin(
      list,
      and(eq(list.id, membership.listId), eq(list.seasonId, seasonId), isNull(list.closedAt)),
    )
    .leftJoin(cohort, eq(cohort.id, list.cohortId))
    .where(isNull(membership.validUntil))
    .orderBy(alphabetical(list.title));
}

/** Lists what waits in the open round of a season. */
export function listWaitingCauses(db: Queries, seasonId: number) {
  return db
    .select({
      subject: cause.subject,
      sentence: cause.sentence,
      round: cause.round,
      decision: cause.decision,
    })
    .from(cause)
    .innerJoin(
      round,
      and(eq(round.number, cause.round), eq(round.state, "open"), eq(round.seasonId, seasonId)),
    )
    .orderBy(cause.position);
}

/** Lists the rows about which there are open questions. */
export function listQuestionSides(db: Queries, seasonId: number) {
  return db
    .select({ about: question.about, sides: question.sides })
    .from(question)
    .innerJoin(season, eq(season.id, question.seasonId))
    .where(eq(question.seasonId, seasonId));
}
