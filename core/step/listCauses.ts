import type { Fact } from "../facts/fact";
import { recipeNumber, type FactIndex } from "../facts/indexFacts";
import { POINT_WORDS, type ListPoint } from "../lists/listPoint";
import type { RecipeValue } from "../lists/recipe";
import { wantedList } from "../lists/wantedLists";
import { joined } from "../text/sentence";
import type { Cause } from "./cause";

/** What was changed about recipes, lists and short forms: one cause for each of them. */
export function listCauses(subject: string, adds: readonly Fact[], removes: readonly Fact[], was: FactIndex, is: FactIndex): Cause[] {
  const of = (kinds: readonly Fact["kind"][]) => ({ adds: adds.filter(({ kind }) => kinds.includes(kind)), removes: removes.filter(({ kind }) => kinds.includes(kind)) });
  const causes: Cause[] = [];
  const recipe = of(["recipe"]);
  if (recipe.adds.length + recipe.removes.length > 0) causes.push(recipeCause(subject, recipe, was, is));
  const short = of(["short"]);
  if (short.adds.length + short.removes.length > 0) causes.push(shortCause(subject, short));
  const list = of(["list", "alias"]);
  if (list.adds.length + list.removes.length > 0) causes.push(listCause(subject, list, was, is));
  return causes;
}

type Facts = Pick<Cause, "adds" | "removes">;

const RECIPE_WORDS: readonly (keyof RecipeValue)[] = ["name", "label", "each", "condition", "audience", "pattern", "preset", "leads", "findable", "outside", "leaving", "adding", "welcome", "season"];

function recipeCause(subject: string, facts: Facts, was: FactIndex, is: FactIndex): Cause {
  const old = was.recipes.get(recipeNumber(subject));
  const now = is.recipes.get(recipeNumber(subject));
  const title = now?.name ?? old?.name ?? "";
  const what = old === undefined || now === undefined ? [] : RECIPE_WORDS.filter((point) => old[point] !== now[point]);
  const detail = old === undefined ? `new recipe: ${now?.audience ?? ""}` : now === undefined ? "no longer a recipe" : `${joined(what.map((point) => point))} changed`;
  return { key: `recipe ${subject} ${detail}`, kind: "recipe", subject, title, detail, sentence: `${title}: ${detail}`, group: "", ...facts };
}

function shortCause(subject: string, facts: Facts): Cause {
  const title = subject.slice("short:".length);
  const value = (own: readonly Fact[]): string => { const [fact] = own; return fact?.kind === "short" ? fact.value : "none"; };
  const detail = `short form ${value(facts.removes)} → ${value(facts.adds)}`;
  return { key: `naming ${subject} ${detail}`, kind: "naming", subject, title, detail, sentence: `${title}: ${detail}`, group: "", ...facts };
}

function listCause(subject: string, facts: Facts, was: FactIndex, is: FactIndex): Cause {
  const list = wantedList(is, subject) ?? wantedList(was, subject);
  const title = list?.title ?? subject;
  const before = was.lists.get(subject);
  const now = is.lists.get(subject);
  const points = [...new Set([...facts.adds, ...facts.removes].flatMap(({ kind, ref }) => (kind === "list" ? [ref as ListPoint] : [])))];
  const words = points.map((point) => {
    if (point === "state") return now?.get(point) === "closed" ? "closed" : before?.get(point) === "closed" ? "opened again" : "made";
    if (point === "name") return `name ${before?.get(point) ?? "none"} → ${now?.get(point) ?? "none"}`;
    if (now?.get(point) === undefined) return `${POINT_WORDS[point]} by the recipe again`;
    return `${POINT_WORDS[point]} changed`;
  });
  const isNew = list?.recipe === undefined && before?.get("title") === undefined && now?.get("title") !== undefined;
  const aliases = facts.adds.flatMap((fact) => (fact.kind === "alias" ? [`${fact.ref} still leads there until ${fact.value}`] : []));
  const detail = isNew ? `new list: ${now?.get("audience") || "people by hand"}` : [...words, ...aliases].join("; ") || "an old name no longer leads there";
  return { key: `list ${subject} ${detail}`, kind: "list", subject, title, detail, sentence: `${title}: ${detail}`, group: "", ...facts };
}
