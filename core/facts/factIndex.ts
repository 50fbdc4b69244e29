import { toChange } from "./layeredMap";
import { wholeName } from "../sheet/splitName";
import type { ListPoint } from "../lists/listPoint";
import type { RecipeValue } from "../lists/recipe";
import type { Bound, Exemption } from "../posting/houseRules";
import type { Preset } from "../posting/presets";
import type { CohortValue } from "./cohort";
import type { KeptValue } from "../lists/kept";

/** A person gathered from facts. */
export interface Person {
  id: string;
  role: "student" | "guardian" | "staff";
  given: string;
  family: string;
  number: string;
  level: string;
  site: string;
  /** Cohort keys. */
  cohorts: Set<string>;
  addresses: Set<string>;
  /** For a guardian: student id to relationship. For a student: guardian id to relationship. */
  ties: Map<string, string>;
  /** What further columns say, by their titles. */
  details: Map<string, string>;
}

/** Facts gathered by person and cohort, for everything that looks up rather than scans. */
export interface FactIndex {
  people: Map<string, Person>;
  /** The ids of those on the staff. */
  staff: Set<string>;
  cohorts: Map<string, CohortValue>;
  /** Students of each cohort. */
  enrolled: Map<string, Set<string>>;
  /** Addresses kept on or off each list, by the list's key. */
  kept: Map<string, Map<string, KeptValue>>;
  /** Recipes by their numbers. */
  recipes: Map<number, RecipeValue>;
  /** What somebody has set of each list, by its key. */
  lists: Map<string, Map<ListPoint, string>>;
  /** The old names of each list with their last days, by its key. */
  aliases: Map<string, Map<string, string>>;
  /** The house's short forms, by folded name. */
  shorts: Map<string, string>;
  /** What the house allows of posting rules, by kind of list and rule. */
  bounds: Map<string, Bound>;
  /** Invariants that the house does without. */
  invariantsOff: Set<string>;
  /** The house's own presets, by their ids. */
  presets: Map<string, Preset>;
  /** What each list is allowed beyond the house's rules, by its key. */
  exemptions: Map<string, Map<string, Exemption>>;
}

/** The number of a recipe, from the subject of its fact. */
export function recipeNumber(subject: string): number {
  return Number(subject.slice("recipe:".length));
}

export function setIn<Key, Value>(
  maps: Map<string, Map<Key, Value>>,
  subject: string,
  key: Key,
  value: Value,
): void {
  const values = toChange(maps, subject, (map) => new Map(map));
  if (values === undefined) maps.set(subject, new Map([[key, value]]));
  else values.set(key, value);
}

/** Takes a value out of a map of maps, and the inner map as well where it was its last one. */
export function dropIn<Key, Value>(
  maps: Map<string, Map<Key, Value>>,
  subject: string,
  key: Key,
): void {
  const values = toChange(maps, subject, (map) => new Map(map));
  values?.delete(key);
  if (values?.size === 0) maps.delete(subject);
}

/** A person's name as one text; "someone without a name" where no source gives one. */
export function nameOf(person: Pick<Person, "given" | "family"> | undefined): string {
  const name = person === undefined ? "" : wholeName(person);
  return name === "" ? "someone without a name" : name;
}

/** Returns somebody whom an index knows so that they can be changed; undefined where it knows nobody of that id. */
export function knownPerson({ people }: FactIndex, id: string): Person | undefined {
  return toChange(people, id, ({ cohorts, addresses, ties, details, ...plain }) => ({
    ...plain,
    cohorts: new Set(cohorts),
    addresses: new Set(addresses),
    ties: new Map(ties),
    details: new Map(details),
  }));
}

/** Returns somebody of an index so that they can be changed, and makes them where it knows nobody of that id. */
export function personIn(index: FactIndex, id: string): Person {
  let person = knownPerson(index, id);
  if (person === undefined) {
    person = {
      id,
      role: "guardian",
      given: "",
      family: "",
      number: "",
      level: "",
      site: "",
      cohorts: new Set(),
      addresses: new Set(),
      ties: new Map(),
      details: new Map(),
    };
    index.people.set(id, person);
  }
  return person;
}
