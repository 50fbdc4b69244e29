import { and, asc, eq, gte, lte } from "drizzle-orm";
import type { SeasonTerm } from "@amigo/contract/dates";
import type { Queries } from "../db/connect";
import { seasonTerm } from "../db/schema/dates";

const COLUMNS = {
  name: seasonTerm.name,
  kind: seasonTerm.kind,
  firstDay: seasonTerm.firstDay,
  lastDay: seasonTerm.lastDay,
};

/** Lists the terms and holidays of a season in their order. */
export function listTerms(db: Queries, season: number): Promise<SeasonTerm[]> {
  return db
    .select(COLUMNS)
    .from(seasonTerm)
    .where(eq(seasonTerm.seasonId, season))
    .orderBy(asc(seasonTerm.firstDay), asc(seasonTerm.id));
}

/** Lists the terms and holidays of all seasons that touch some days. */
export function listTermsBetween(db: Queries, from: string, until: string): Promise<SeasonTerm[]> {
  return db
    .select(COLUMNS)
    .from(seasonTerm)
    .where(and(lte(seasonTerm.firstDay, until), gte(seasonTerm.lastDay, from)))
    .orderBy(asc(seasonTerm.firstDay), asc(seasonTerm.id));
}

/** Stores the terms and holidays of a season in place of those that it had. */
export async function replaceTerms(
  tx: Queries,
  season: number,
  terms: readonly SeasonTerm[],
): Promise<void> {
  await tx.delete(seasonTerm).where(eq(seasonTerm.seasonId, season));
  if (terms.length > 0)
    await tx.insert(seasonTerm).values(terms.map((term) => ({ ...term, seasonId: season })));
}
