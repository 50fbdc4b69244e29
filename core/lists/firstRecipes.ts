import type { Fact, Origin } from "../facts/fact";
import type { RecipeValue } from "./recipe";

const USUAL = {
  condition: "",
  preset: "announcement-only",
  leads: "coach",
  outside: "any",
  adding: "quietly",
  season: "every season",
} as const;

/** The recipes that every house starts with. */
export const FIRST_RECIPES: readonly RecipeValue[] = [
  {
    ...USUAL,
    name: "Students of each class",
    label: "Students",
    position: 1,
    each: "class",
    audience: "students in this class",
    pattern: "{site}-{class}-{season}",
    outside: "none",
  },
  {
    ...USUAL,
    name: "Guardians of each class",
    label: "Guardians",
    position: 2,
    each: "class",
    audience: "guardians of students in this class",
    pattern: "{site}-{class}-{audience}-{season}",
  },
  {
    ...USUAL,
    name: "Students of each team",
    label: "Students",
    position: 3,
    each: "team",
    audience: "students in this team",
    pattern: "{team}-{season}",
    outside: "none",
  },
  {
    ...USUAL,
    name: "Guardians of each team",
    label: "Guardians",
    position: 4,
    each: "team",
    audience: "guardians of students in this team",
    pattern: "{team}-{audience}-{season}",
  },
];

/** The short forms that every house starts with, by full name. */
export const FIRST_SHORTS: Readonly<Record<string, string>> = { Guardians: "parents" };

/** Recipes as facts, numbered from 1 in their order. */
export function recipeFacts(recipes: readonly RecipeValue[], origin: Origin): Fact[] {
  return recipes.map((value, index): Fact => ({
    subject: `recipe:${index + 1}`,
    kind: "recipe",
    ref: "",
    value,
    origin,
  }));
}
