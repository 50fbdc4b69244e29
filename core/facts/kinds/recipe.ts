import { written } from "@amigo/language/message";
import * as z from "zod";
import { ADDING, EACH, type RecipeValue } from "../../lists/recipe";
import { recipeNumber } from "../factIndex";
import { someRules } from "./someRules";
import type { Kind } from "./kind";

/** A rule that makes one list for every class, team, committee, site or level: `recipe:1`. */
export const recipe: Kind<"recipe", "", RecipeValue> = {
  kind: "recipe",
  about: "house",
  value: z.object({
    name: z.string(),
    label: z.string(),
    keepsCase: z.boolean().optional(),
    position: z.number(),
    each: z.enum(EACH),
    condition: z.string(),
    audience: z.string(),
    pattern: z.string(),
    preset: z.string(),
    leads: z.string(),
    helpers: z.string().optional(),
    adding: z.enum(ADDING),
    season: z.enum(["every season", "this season only"]),
    ...someRules(),
  }),
  addTo: (index, { subject, value }) => {
    index.recipes.set(recipeNumber(subject), value);
  },
  removeFrom: (index, { subject }) => {
    index.recipes.delete(recipeNumber(subject));
  },
  isKeptByHand: () => true,
  nextSeason: (fact) => (fact.value.season === "every season" ? fact : undefined),
  called: ({ subject }, name) => written(name(subject)),
};
