import { placeKind } from "../facts/subjects";
import { bindAudience, type This } from "../audience/bindAudience";
import type { Audience } from "../audience/audience";
import { satisfies } from "../audience/holds";
import type { CohortValue } from "../facts/cohort";
import type { FactIndex } from "../facts/factIndex";
import type { NameParts } from "../naming/pattern";
import { settleRules, type Exemption, type OutOfBounds } from "../posting/houseRules";
import { listKind } from "../posting/listKind";
import { presetOf } from "../posting/presets";
import type { ListKind, Rules } from "../posting/rules/rule";
import { fold } from "../text/fold";
import { listKey, listKeyParts } from "./listKey";
import { LIST_POINTS, type ListPoint, isRule } from "./listPoint";
import type { Adding, Each, RecipeValue, Running } from "./recipe";
import { NOBODY, understoodAudience, understoodCondition } from "./understood";
import { usualTitle, nameParts } from "./listParts";

/** A list as recipes and people want it. */
export interface WantedList extends Running {
  key: string;
  recipe: number | undefined;
  /** What it is of: a cohort's key, `site:…`, `level:…` or `house`; empty for a single list. */
  of: string;
  /** Its cohort's key; undefined for a list without a class, team or committee. */
  cohort: string | undefined;
  /** The site's name; empty where it has none. */
  site: string;
  title: string;
  description: string;
  short: string;
  /** Its audience as text, and as it is meant for this list. */
  text: string;
  audience: Audience;
  /** Its name where it has one already. */
  name: string | undefined;
  /** How its name is made by the convention. */
  pattern: string;
  /** What fills the pattern, but for the site's code and the season. */
  parts: Omit<NameParts, "site" | "season">;
  /** What sort of people it is for, as far as the house's rules tell them apart. */
  kind: ListKind;
  /** Its posting rules as they hold, within those of the house. */
  rules: Rules;
  /** What was chosen for it and the house does not allow. */
  refused: OutOfBounds[];
  season: RecipeValue["season"];
  open: boolean;
  /** In what it stands apart from its recipe. */
  apart: ListPoint[];
}

/** What a list without a recipe has where nobody has said otherwise. */
const SINGLE = {
  preset: "announcement-only",
  leads: "",
  helpers: "",
  adding: "quietly",
  season: "every season",
  pattern: "{list}",
} as const;

/** The points in which a list can stand apart from its recipe; a name or a short name of its own is none. */
const APART: ReadonlySet<ListPoint> = new Set([
  "title",
  "audience",
  "preset",
  "leads",
  "helpers",
  "adding",
  "season",
] satisfies ListPoint[]);

const isApart = (point: ListPoint): boolean => APART.has(point) || isRule(point);

/** Everything that the recipes and people of a house want to be a list, by its key. */
export function allWanted(index: FactIndex): Map<string, WantedList> {
  const found = new Map<string, WantedList>();
  for (const cohort of index.cohorts.keys())
    for (const list of wantedOf(index, cohort)) found.set(list.key, list);
  for (const list of wantedAtPlaces(index)) found.set(list.key, list);
  for (const [key, points] of index.lists)
    if (listKeyParts(key) === undefined && points.has("title"))
      found.set(key, single(index, key, points));
  return found;
}

/** The lists of all levels and sites, and of the whole house. */
export function wantedAtPlaces(index: FactIndex): WantedList[] {
  return [...index.recipes].flatMap(([number, recipe]) =>
    placesOf(recipe.each, index).flatMap((place) => ofRecipe(index, number, recipe, place) ?? []),
  );
}

/** The lists of one cohort. */
export function wantedOf(index: FactIndex, cohort: string): WantedList[] {
  const value = index.cohorts.get(cohort);
  if (value === undefined) return [];
  return [...index.recipes].flatMap(
    ([number, recipe]) =>
      ofRecipe(index, number, recipe, {
        of: cohort,
        cohort: value,
        to: { kind: value.kind, name: value.name },
      }) ?? [],
  );
}

/** The lists of one level or site. */
export function wantedAt(index: FactIndex, each: "level" | "site", name: string): WantedList[] {
  if (name === "") return [];
  return [...index.recipes].flatMap(([number, recipe]) =>
    recipe.each === each ? (ofRecipe(index, number, recipe, placeOf(each, name)) ?? []) : [],
  );
}

/** One list by its key, whether anything wants it or not; undefined where there is nothing of that key. */
export function wantedList(index: FactIndex, key: string): WantedList | undefined {
  const parts = listKeyParts(key);
  if (parts === undefined) {
    const points = index.lists.get(key);
    return points?.has("title") === true ? single(index, key, points) : undefined;
  }
  const recipe = index.recipes.get(parts.recipe);
  const cohort = index.cohorts.get(parts.of);
  if (recipe === undefined) return undefined;
  if (cohort !== undefined)
    return ofRecipe(index, parts.recipe, recipe, {
      of: parts.of,
      cohort,
      to: { kind: cohort.kind, name: cohort.name },
    });
  const place =
    placesOf(recipe.each, index).find(({ of }) => of === parts.of) ?? placeByKey(parts.of);
  return place === undefined ? undefined : ofRecipe(index, parts.recipe, recipe, place);
}

/** A site or level by its key alone, where those who are of it are not at hand. */
function placeByKey(of: string): Place | undefined {
  const [kind = "", name = ""] = [of.slice(0, of.indexOf(":")), of.slice(of.indexOf(":") + 1)];
  return kind === "site" || kind === "level"
    ? { of, cohort: undefined, to: { kind, name } }
    : undefined;
}

interface Place {
  of: string;
  cohort: CohortValue | undefined;
  to: This | undefined;
}

/** What a recipe that is not for cohorts makes a list each for. */
function placesOf(each: Each, index: FactIndex): Place[] {
  if (each === "house") return [{ of: "house", cohort: undefined, to: undefined }];
  const names = new Map<string, string>();
  if (each === "site")
    for (const { site } of index.cohorts.values())
      if (site !== "") names.set(`site:${fold(site)}`, site);
  if (each === "level")
    for (const { level } of index.people.values())
      if (level !== "") names.set(`level:${fold(level)}`, level);
  return [...names.values()].map((name) => placeOf(each === "site" ? "site" : "level", name));
}

function placeOf(kind: "level" | "site", name: string): Place {
  return { of: `${kind}:${fold(name)}`, cohort: undefined, to: { kind, name } };
}

function ofRecipe(
  index: FactIndex,
  number: number,
  recipe: RecipeValue,
  { of, cohort, to }: Place,
): WantedList | undefined {
  const key = listKey(number, of);
  const points = index.lists.get(key) ?? NONE;
  const state = points.get("state");
  // Made or closed by hand, whatever the recipe says; else the recipe's own condition decides.
  if (state === undefined && !(isFor(recipe, cohort) && meets(recipe, cohort, to)))
    return undefined;
  const text = points.get("audience") ?? recipe.audience;
  const name = to?.name ?? "";
  const found = <Point extends ListPoint & keyof RecipeValue>(point: Point): RecipeValue[Point] =>
    (points.get(point) ?? recipe[point]) as RecipeValue[Point];
  const audience = understand(text, to);
  return {
    key,
    recipe: number,
    of,
    cohort: cohort === undefined ? undefined : of,
    site: cohort?.site ?? (placeKind(of) === "site" ? name : ""),
    title: points.get("title") ?? usualTitle(of, name, recipe),
    description: points.get("description") ?? "",
    short: points.get("short") ?? "",
    text,
    audience,
    name: points.get("name"),
    pattern: recipe.pattern,
    parts: nameParts(of, name, recipe, cohort),
    preset: found("preset"),
    leads: found("leads"),
    helpers: found("helpers") ?? "",
    adding: found("adding"),
    season: found("season"),
    ...settled(index, key, listKind(audience), found("preset"), points, recipe),
    open: state !== "closed",
    apart: LIST_POINTS.filter((point) => points.has(point) && isApart(point)),
  };
}

const NONE: ReadonlyMap<ListPoint, string> = new Map();

function isFor({ each }: RecipeValue, cohort: CohortValue | undefined): boolean {
  return cohort === undefined || cohort.kind === each;
}

function meets(
  { condition }: RecipeValue,
  cohort: CohortValue | undefined,
  to: This | undefined,
): boolean {
  const understood = understoodCondition(condition);
  if (!understood.ok) return false;
  if (understood.condition === undefined) return true;
  const values: Record<string, string> = {
    name: to?.name ?? "",
    site: cohort?.site ?? (to?.kind === "site" ? to.name : ""),
    coach: cohort?.coach ?? "",
  };
  return satisfies(understood.condition, (column) => [values[column] ?? ""]);
}

/** What kind of list it is, and its rules within those of the house. */
function settled(
  index: FactIndex,
  key: string,
  kind: ListKind,
  preset: string,
  known: ReadonlyMap<ListPoint, string>,
  recipe: Partial<Rules>,
): Pick<WantedList, "kind" | "rules" | "refused"> {
  return {
    kind,
    ...settleRules({
      kind,
      own: known,
      recipe,
      preset: presetOf(preset, index.presets),
      house: index.bounds,
      exemptions: index.exemptions.get(key) ?? NO_EXEMPTIONS,
    }),
  };
}

const NO_EXEMPTIONS: ReadonlyMap<string, Exemption> = new Map();

function single(index: FactIndex, key: string, points: ReadonlyMap<ListPoint, string>): WantedList {
  const text = points.get("audience") ?? "";
  const title = points.get("title") ?? "";
  const found = <Point extends ListPoint & keyof typeof SINGLE>(point: Point) =>
    points.get(point) ?? SINGLE[point];
  const audience = text === "" ? NOBODY : understand(text, undefined);
  const kind = text === "" ? "other" : listKind(audience);
  return {
    key,
    recipe: undefined,
    of: "",
    cohort: undefined,
    site: "",
    title,
    description: points.get("description") ?? "",
    short: points.get("short") ?? "",
    text,
    audience,
    name: points.get("name"),
    pattern: SINGLE.pattern,
    parts: { of: title, audience: "", lead: "" },
    preset: found("preset"),
    leads: found("leads"),
    helpers: found("helpers"),
    adding: found("adding") as Adding,
    ...settled(index, key, kind, found("preset"), points, {}),
    season: found("season") as RecipeValue["season"],
    open: points.get("state") !== "closed",
    apart: [],
  };
}

function understand(text: string, to: This | undefined): Audience {
  const understood = understoodAudience(text);
  return understood.ok ? bindAudience(understood.audience, to) : NOBODY;
}
