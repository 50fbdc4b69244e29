import { placeKind } from "../facts/subjects";
import type { CohortValue } from "../facts/cohort";
import type { RecipeValue } from "./recipe";

/** Whether a language writes nouns with a capital letter within a title. */
export function keepsCaseIn(language: string): boolean {
  return language === "de";
}

/** Returns what a list of a recipe is called where nobody has given it a title. */
export function usualTitle(of: string, name: string, { label, keepsCase }: RecipeValue): string {
  if (of === "house") return label;
  const what = keepsCase === true ? label : label.toLowerCase();
  return `${placeKind(of) === "level" ? `Level ${name}` : name}, ${what}`;
}

/** Returns what the name of a list is put together from. */
export function nameParts(
  of: string,
  name: string,
  { label }: RecipeValue,
  cohort: CohortValue | undefined,
): { of: string; audience: string; lead: string } {
  return {
    of: placeKind(of) === "level" ? `level ${name}` : name || label,
    audience: label,
    lead: cohort?.coach ?? "",
  };
}
