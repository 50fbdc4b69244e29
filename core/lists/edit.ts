import type { Bound, Exemption } from "../posting/houseRules";
import { factKey, keyOf, type Fact, type Facts } from "../facts/fact";
import type { PresetValue } from "../facts/kinds/preset";
import type { Origin } from "../facts/origin";
import { factsOf } from "../facts/factsOf";
import { indexFrom, sharedIndex } from "../facts/indexFacts";
import { LayeredMap } from "../facts/layeredMap";
import { nameLists, type NamingRules } from "../naming/nameLists";
import { splitName } from "../sheet/splitName";
import { fold } from "../text/fold";
import type { ListPoint } from "./listPoint";
import type { RecipeValue } from "./recipe";
import { wantedLists } from "./sharedWanted";
import type { WantedList } from "./wantedLists";
import { wishOf } from "./wishOf";

/** What somebody wants to be otherwise about the lists of the house. */
export type Edit =
  /** A recipe as it is to be; `null` for no longer. Lists named by its old pattern get names by the new one. */
  | { what: "recipe"; recipe: number; value: RecipeValue | null; aliasUntil: string }
  /** Points of some lists; `null` takes a list back to what its recipe says. */
  | {
      what: "lists";
      lists: readonly {
        key: string;
        points: Partial<Record<ListPoint, string | null>>;
        keep?: readonly string[];
        /** The last day for those, as a calendar date; empty for no end. */ keepUntil?: string;
        /** What it is allowed beyond the house's rules, by rule; `null` for no longer. */ allow?: Readonly<
          Record<string, Exemption | null>
        >;
      }[];
      aliasUntil: string;
    }
  /** Patterns by recipe, short forms by full name (`null` for none), and the names that lists are to have. */
  | {
      what: "names";
      patterns: Readonly<Record<number, string>>;
      shorts: Readonly<Record<string, string | null>>;
      names: Readonly<Record<string, string>>;
      aliasUntil: string;
    }
  /** Bounds by kind and rule (`null` for Amigo's own), invariants that are off or (`null`) hold, and the house's presets by their ids. */
  | {
      what: "house";
      bounds: Readonly<Record<string, Bound | null>>;
      invariants: Readonly<Record<string, "off" | null>>;
      presets: Readonly<Record<string, PresetValue | null>>;
      aliasUntil: string;
    }
  /** People on the staff as they are from now on, and the ids of those who are no longer. */
  | { what: "staff"; people: readonly StaffMember[]; gone: readonly string[]; aliasUntil: "" };

/** Somebody on the staff, whose facts come with their account. `site` is a site's name, empty for none. */
export interface StaffMember {
  id: string;
  name: string;
  email: string;
  site: string;
}

/** Who edits, when, and in what house. */
export interface EditContext {
  /** The reason that is kept for people who were put on a list when it was made. */
  keptAsMade: string;
  origin: Extract<Origin, { from: "hand" }>;
  season: string;
  /** The sites' short codes by their names. */
  codes: ReadonlyMap<string, string>;
  naming: Omit<NamingRules, "shortForms">;
}

/** Returns the facts as an edit makes them. A list that gets another name keeps the old one as an alias until the chosen day. */
export function applyEdit(stand: Facts, edit: Edit, context: EditContext): Map<string, Fact> {
  const facts = new LayeredMap(stand);
  const editing: Editing = { stand, facts, context };
  if (edit.what === "recipe") editRecipe(editing, edit);
  if (edit.what === "lists") for (const list of edit.lists) editList(editing, list);
  if (edit.what === "house") editHouseRules(editing, edit);
  if (edit.what === "staff") editStaff(editing, edit);
  if (edit.what === "names") editNames(editing, edit);
  keepOldNames(stand, facts, edit.aliasUntil, context.origin);
  return facts;
}

/** Facts that are being edited: as they stood, and as they become. */
interface Editing {
  stand: Facts;
  facts: Map<string, Fact>;
  context: EditContext;
}

function put({ facts }: Editing, fact: Fact): void {
  facts.set(factKey(fact), fact);
}

function remove({ facts }: Editing, fact: Pick<Fact, "subject" | "kind" | "ref">): void {
  facts.delete(factKey(fact));
}

function editRecipe(editing: Editing, edit: Extract<Edit, { what: "recipe" }>): void {
  const { stand, facts, context } = editing;
  const { origin } = context;
  const subject = `recipe:${edit.recipe}`;
  if (edit.value === null) remove(editing, { subject, kind: "recipe", ref: "" });
  else put(editing, { subject, kind: "recipe", ref: "", value: edit.value, origin });
  for (const [key, name] of newNames(stand, facts, edit.recipe, context))
    put(editing, { subject: key, kind: "list", ref: "name", value: name, origin });
}

function editList(
  editing: Editing,
  {
    key: subject,
    points,
    keep = [],
    keepUntil = "",
    allow = {},
  }: Extract<Edit, { what: "lists" }>["lists"][number],
): void {
  const { origin, keptAsMade: reason } = editing.context;
  for (const [ref, value] of Object.entries(allow)) {
    if (value === null) remove(editing, { subject, kind: "exemption", ref });
    else put(editing, { subject, kind: "exemption", ref, value, origin });
  }
  for (const ref of keep)
    put(editing, {
      subject,
      kind: "kept",
      ref,
      value: { side: "on", reason, by: origin.by, lastDay: keepUntil },
      origin,
    });
  for (const [ref, value] of Object.entries(points) as [ListPoint, string | null][]) {
    if (value === null) remove(editing, { subject, kind: "list", ref });
    else put(editing, { subject, kind: "list", ref, value, origin });
  }
}

function editHouseRules(
  editing: Editing,
  { bounds, invariants, presets }: Extract<Edit, { what: "house" }>,
): void {
  const { origin } = editing.context;
  for (const [ref, value] of Object.entries(bounds)) {
    if (value === null) remove(editing, { subject: "house", kind: "bound", ref });
    else put(editing, { subject: "house", kind: "bound", ref, value, origin });
  }
  for (const [ref, value] of Object.entries(invariants)) {
    if (value === null) remove(editing, { subject: "house", kind: "invariant", ref });
    else put(editing, { subject: "house", kind: "invariant", ref, value, origin });
  }
  for (const [id, value] of Object.entries(presets)) {
    const subject = `preset:${id}`;
    if (value === null) remove(editing, { subject, kind: "preset", ref: "" });
    else put(editing, { subject, kind: "preset", ref: "", value, origin });
  }
}

function editStaff(editing: Editing, { gone, people }: Extract<Edit, { what: "staff" }>): void {
  const changed = new Set([...gone, ...people.map(({ id }) => id)]);
  const index = sharedIndex(editing.stand);
  for (const id of changed)
    for (const fact of factsOf(id, editing.stand, index)) remove(editing, fact);
  for (const person of people)
    for (const fact of staffFacts(person, editing.context.origin)) put(editing, fact);
}

function editNames(
  editing: Editing,
  { patterns, shorts, names }: Extract<Edit, { what: "names" }>,
): void {
  const { origin } = editing.context;
  for (const [number, pattern] of Object.entries(patterns)) {
    const key = factKey({ subject: `recipe:${number}`, kind: "recipe", ref: "" });
    const old = editing.facts.get(key);
    if (old?.kind === "recipe") put(editing, { ...old, value: { ...old.value, pattern }, origin });
  }
  for (const [name, short] of Object.entries(shorts)) {
    const subject = `short:${fold(name)}`;
    if (short === null) remove(editing, { subject, kind: "short", ref: "" });
    else put(editing, { subject, kind: "short", ref: "", value: short, origin });
  }
  for (const [key, name] of Object.entries(names))
    put(editing, { subject: key, kind: "list", ref: "name", value: name, origin });
}

/** What is known of somebody on the staff. */
export function staffFacts({ id, name, email, site }: StaffMember, origin: Origin): Fact[] {
  return [
    { subject: id, kind: "staff", ref: "", value: "", origin },
    { subject: id, kind: "name", ref: "", value: splitName(name), origin },
    { subject: id, kind: "address", ref: email, value: "", origin },
    ...(site === "" ? [] : [{ subject: id, kind: "site", ref: "", value: site, origin } as const]),
  ];
}

/** The names of a recipe's lists by its new pattern, of those whose names went by the old one. */
function newNames(
  stand: Facts,
  facts: Facts,
  recipe: number,
  { season, codes, naming }: EditContext,
): Map<string, string> {
  const of = (
    points: Facts,
  ): { lists: WantedList[]; made: Map<string, { name: string; proposal: string }> } => {
    const index = indexFrom(stand, points);
    const lists = [...wantedLists(index).values()].filter(
      (list) => list.recipe === recipe && list.open,
    );
    return {
      lists,
      made: new Map(
        nameLists(
          lists.map((list) => wishOf(list, season, codes)),
          { ...naming, shortForms: index.shorts },
        ).map((named) => [named.key, named]),
      ),
    };
  };
  const before = of(stand);
  // As a layer of its own, for more is still to be changed.
  const after = of(new LayeredMap(facts));
  const found = new Map<string, string>();
  for (const { key, name } of after.lists) {
    const old = before.made.get(key);
    const made = after.made.get(key);
    if (
      name === undefined ||
      old === undefined ||
      made === undefined ||
      old.name === made.name ||
      made.name === ""
    )
      continue;
    if (name === old.name || name === old.proposal) found.set(key, made.proposal);
  }
  return found;
}

/** A list whose name has changed is still reached by the old one until a day; a name that it has again is no alias. */
function keepOldNames(stand: Facts, facts: Map<string, Fact>, until: string, origin: Origin): void {
  for (const [subject, points] of sharedIndex(stand).lists) {
    const name = points.get("name");
    const now = facts.get(keyOf(subject, "list", "name"));
    if (name === undefined || now === undefined || now.value === name || until === "") continue;
    const alias: Fact = { subject, kind: "alias", ref: name, value: until, origin };
    facts.set(factKey(alias), alias);
  }
  for (const [subject, aliases] of indexFrom(stand, new LayeredMap(facts)).aliases) {
    const now = facts.get(keyOf(subject, "list", "name"));
    if (typeof now?.value === "string" && aliases.has(now.value))
      facts.delete(keyOf(subject, "alias", now.value));
  }
}
