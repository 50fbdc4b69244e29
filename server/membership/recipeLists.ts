import { eq } from "drizzle-orm";
import type { Audience } from "@amigo/core/audience/audience";
import { parseAudience } from "@amigo/core/audience/parseAudience";
import type { CohortValue } from "@amigo/core/facts/fact";
import type { ListToFill } from "@amigo/core/step/listMembers";
import type { Queries } from "../db/connect";
import { cohort, list, recipe } from "../db/schema";

/** A recipe with its audience understood. */
export interface ParsedRecipe {
  id: number;
  label: string;
  pattern: string;
  preset: typeof recipe.$inferSelect.preset;
  insideOnly: boolean;
  audience: Audience;
}

export async function loadRecipes(db: Queries): Promise<ParsedRecipe[]> {
  const rows = await db.select().from(recipe).orderBy(recipe.position);
  return rows.flatMap((row) => {
    const parsed = parseAudience(row.audience);
    return parsed.ok ? [{ id: row.id, label: row.label, pattern: row.pattern, preset: row.preset, insideOnly: row.insideOnly, audience: parsed.audience }] : [];
  });
}

/** The key under which a round speaks of the list that a recipe makes for a cohort, whether it is there yet or not. */
export function listKey(recipeId: number, cohortKey: string): string {
  return `${recipeId}:${cohortKey}`;
}

/** Every list that the recipes make for some cohorts. */
export async function listsToFill(db: Queries, recipes: readonly ParsedRecipe[], cohorts: ReadonlyMap<string, Pick<CohortValue, "kind">>, seasonId: number): Promise<ListToFill[]> {
  const existing = await existingLists(db, seasonId);
  return [...cohorts].flatMap(([key, { kind }]) => recipes.filter(({ audience }) => audience.kind === kind).map(({ id, audience }): ListToFill => {
    return { key: listKey(id, key), cohort: key, audience, id: existing.get(listKey(id, key))?.id };
  }));
}

/** The lists that recipes have made in a season, by their key. */
export async function existingLists(db: Queries, seasonId: number): Promise<Map<string, { id: string; name: string; title: string; cohortId: number; insideOnly: boolean }>> {
  const rows = await db.select({ id: list.id, name: list.name, title: list.title, insideOnly: list.insideOnly, recipeId: list.recipeId, cohortId: cohort.id, key: cohort.key }).from(list).innerJoin(cohort, eq(cohort.id, list.cohortId)).where(eq(list.seasonId, seasonId));
  return new Map(rows.flatMap(({ recipeId, key, ...row }) => (recipeId === null ? [] : [[listKey(recipeId, key), row]])));
}
