import type { CohortValue } from "@amigo/core/facts/fact";
import { listName } from "@amigo/core/naming/listName";
import { proposeSiteCode } from "@amigo/core/naming/shortForm";
import type { Queries } from "../db/connect";
import { list, shortForm, site } from "../db/schema";
import { Refusal } from "../http/fault";
import { existingLists, listKey, type ParsedRecipe } from "../membership/recipeLists";

/** A list that a recipe wants and that is not there yet. */
export interface MissingList {
  key: string;
  cohort: string;
  recipe: ParsedRecipe;
  name: string;
  title: string;
}

/**
 * Names the lists that the recipes want for some cohorts and that are not there yet, by the house's
 * pattern, short forms and site codes; no two alike, none that is taken.
 *
 * @throws Refusal 422 when a pattern makes no name at all
 */
export async function nameMissingLists(tx: Queries, season: { id: number; label: string }, recipes: readonly ParsedRecipe[], cohorts: ReadonlyMap<string, CohortValue>): Promise<MissingList[]> {
  const existing = await existingLists(tx, season.id);
  const codes = new Map((await tx.select().from(site)).map((row) => [row.name, row.code]));
  const taken = new Set((await tx.select({ name: list.name }).from(list)).map(({ name }) => name));
  const shortForms = new Map((await tx.select().from(shortForm)).map(({ folded, short }) => [folded, short]));
  const missing: MissingList[] = [];
  for (const [key, cohort] of [...cohorts].sort((a, b) => a[1].name.localeCompare(b[1].name, "en"))) {
    for (const recipe of recipes) {
      if (recipe.audience.kind !== cohort.kind || existing.has(listKey(recipe.id, key))) continue;
      const parts = { site: codes.get(cohort.site) ?? proposeSiteCode(cohort.site), cohort: cohort.name, season: season.label };
      const named = listName(recipe.pattern, parts, shortForms, (name) => taken.has(name));
      const name = named.ok ? named.name : named.proposal;
      if (name === undefined) throw new Refusal(422, "naming/impossible", `No list can be made for ${cohort.name}: ${named.ok ? "" : named.sentence} Change the recipe's pattern.`);
      taken.add(name);
      missing.push({ key: listKey(recipe.id, key), cohort: key, recipe, name, title: `${cohort.name}, ${recipe.label.toLowerCase()}` });
    }
  }
  return missing;
}
