import { said, say } from "@amigo/language/say";
import { speechHere } from "@amigo/language/texts";
import { factKey, type Fact } from "@amigo/core/facts/fact";
import { FIRST_RECIPES, FIRST_SHORTS, recipeFacts } from "@amigo/core/lists/firstRecipes";
import { keepsCaseIn } from "@amigo/core/lists/listParts";
import type { RecipeValue } from "@amigo/core/lists/recipe";
import { fold } from "@amigo/core/text/fold";
import type { Queries } from "../db/connect";
import { storeFacts } from "./queries";

function firstShorts(): Record<string, string> {
  return Object.fromEntries(FIRST_SHORTS.map(({ name, short }) => [say(name), say(short)]));
}

function firstRecipes(): RecipeValue[] {
  const keepsCase = keepsCaseIn(speechHere().language);
  return said(FIRST_RECIPES).map((recipe) => (keepsCase ? { ...recipe, keepsCase } : recipe));
}

/** Gives a season its first recipes and short forms. */
export async function storeFirst(
  db: Queries,
  seasonId: number,
  by: string,
  recipes: readonly RecipeValue[] = firstRecipes(),
  shorts: Readonly<Record<string, string>> = firstShorts(),
): Promise<void> {
  const origin = { from: "hand", by, at: new Date().toISOString() } as const;
  const facts = [
    ...recipeFacts(recipes, origin),
    ...Object.entries(shorts).map(([name, value]): Fact => ({
      subject: `short:${fold(name)}`,
      kind: "short",
      ref: "",
      value,
      origin,
    })),
  ];
  await storeFacts(
    db,
    seasonId,
    null,
    new Map(),
    new Map(facts.map((fact) => [factKey(fact), fact])),
  );
}
