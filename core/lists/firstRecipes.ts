import { message, type Message } from "@amigo/language/message";
import type { Fact } from "../facts/fact";
import type { Origin } from "../facts/origin";
import type { RecipeValue } from "./recipe";

const USUAL = {
  condition: "",
  preset: "announcement-only",
  leads: "coach",
  outside: "any",
  adding: "quietly",
  season: "every season",
} as const;

/** The recipes that every house starts with; their names are said in its language when it is set up. */
export const FIRST_RECIPES: readonly (Omit<RecipeValue, "name" | "label"> & {
  name: Message;
  label: Message;
})[] = [
  {
    ...USUAL,
    name: message("lists.studentsOfEachClass"),
    label: message("lists.students"),
    position: 1,
    each: "class",
    audience: "students in this class",
    pattern: "{site}-{class}-{season}",
    outside: "none",
  },
  {
    ...USUAL,
    name: message("lists.guardiansOfEachClass"),
    label: message("lists.guardians"),
    position: 2,
    each: "class",
    audience: "guardians of students in this class",
    pattern: "{site}-{class}-{audience}-{season}",
  },
  {
    ...USUAL,
    name: message("lists.studentsOfEachTeam"),
    label: message("lists.students"),
    position: 3,
    each: "team",
    audience: "students in this team",
    pattern: "{team}-{season}",
    outside: "none",
  },
  {
    ...USUAL,
    name: message("lists.guardiansOfEachTeam"),
    label: message("lists.guardians"),
    position: 4,
    each: "team",
    audience: "guardians of students in this team",
    pattern: "{team}-{audience}-{season}",
  },
];

/** The short forms that every house starts with, beside the full names. */
export const FIRST_SHORTS = [
  { name: message("lists.guardians"), short: message("lists.guardiansShort") },
];

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
