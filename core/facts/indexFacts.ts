import { wholeName } from "../sheet/splitName";
import type { ListPoint } from "../lists/listPoint";
import type { RecipeValue } from "../lists/recipe";
import type { Bound, Exemption } from "../posting/houseRules";
import type { Preset } from "../posting/presets";
import type { CohortValue, Fact, Facts, KeptValue, PresetValue } from "./fact";

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

export function indexFacts(facts: Facts): FactIndex {
  const index: FactIndex = {
    people: new Map(),
    cohorts: new Map(),
    enrolled: new Map(),
    kept: new Map(),
    recipes: new Map(),
    lists: new Map(),
    aliases: new Map(),
    shorts: new Map(),
    bounds: new Map(),
    invariantsOff: new Set(),
    presets: new Map(),
    exemptions: new Map(),
  };
  for (const fact of facts.values()) addToIndex(index, fact);
  return index;
}

const SHARED = new WeakMap<Facts, FactIndex>();

/** The index of facts that nobody changes any more, made once however many ask for it. Not to be changed. */
export function sharedIndex(facts: Facts): FactIndex {
  let index = SHARED.get(facts);
  if (index === undefined) {
    index = indexFacts(facts);
    SHARED.set(facts, index);
  }
  return index;
}

/** Takes one more fact into an index; an older value of the same fact is replaced. */
export function addToIndex(index: FactIndex, fact: Fact): void {
  if (fact.kind === "cohort") {
    index.cohorts.set(fact.subject, fact.value);
    return;
  }
  switch (fact.kind) {
    case "kept":
      setIn(index.kept, fact.subject, fact.ref, fact.value);
      return;
    case "list":
      setIn(index.lists, fact.subject, fact.ref, fact.value);
      return;
    case "alias":
      setIn(index.aliases, fact.subject, fact.ref, fact.value);
      return;
    case "recipe":
      index.recipes.set(recipeNumber(fact.subject), fact.value);
      return;
    case "short":
      index.shorts.set(fact.subject.slice("short:".length), fact.value);
      return;
    case "bound":
      index.bounds.set(fact.ref, fact.value);
      return;
    case "invariant":
      index.invariantsOff.add(fact.ref);
      return;
    case "preset":
      index.presets.set(fact.subject.slice("preset:".length), presetFrom(fact.value));
      return;
    case "exemption":
      setIn(index.exemptions, fact.subject, fact.ref, fact.value);
      return;
  }
  const person = personIn(index, fact.subject);
  switch (fact.kind) {
    case "student":
    case "staff":
    case "guardian":
      person.role = fact.kind;
      break;
    case "name":
      person.given = fact.value.given;
      person.family = fact.value.family;
      break;
    case "number":
    case "level":
    case "site":
      person[fact.kind] = fact.value;
      break;
    case "enrolment": {
      person.cohorts.add(fact.ref);
      const enrolled = index.enrolled.get(fact.ref);
      if (enrolled === undefined) index.enrolled.set(fact.ref, new Set([fact.subject]));
      else enrolled.add(fact.subject);
      break;
    }
    case "tie":
      person.ties.set(fact.ref, fact.value);
      personIn(index, fact.ref).ties.set(fact.subject, fact.value);
      break;
    case "address":
      person.addresses.add(fact.ref);
      break;
    case "detail":
      person.details.set(fact.ref, fact.value);
      break;
  }
}

function setIn<Key, Value>(
  maps: Map<string, Map<Key, Value>>,
  subject: string,
  key: Key,
  value: Value,
): void {
  const values = maps.get(subject);
  if (values === undefined) maps.set(subject, new Map([[key, value]]));
  else values.set(key, value);
}

/** Takes a fact out of an index again. */
export function removeFromIndex(index: FactIndex, fact: Fact): void {
  if (fact.kind === "cohort") {
    index.cohorts.delete(fact.subject);
    return;
  }
  switch (fact.kind) {
    case "kept":
      index.kept.get(fact.subject)?.delete(fact.ref);
      return;
    case "list":
      index.lists.get(fact.subject)?.delete(fact.ref);
      return;
    case "alias":
      index.aliases.get(fact.subject)?.delete(fact.ref);
      return;
    case "recipe":
      index.recipes.delete(recipeNumber(fact.subject));
      return;
    case "short":
      index.shorts.delete(fact.subject.slice("short:".length));
      return;
    case "bound":
      index.bounds.delete(fact.ref);
      return;
    case "invariant":
      index.invariantsOff.delete(fact.ref);
      return;
    case "preset":
      index.presets.delete(fact.subject.slice("preset:".length));
      return;
    case "exemption":
      index.exemptions.get(fact.subject)?.delete(fact.ref);
      return;
  }
  const person = index.people.get(fact.subject);
  if (person === undefined) return;
  switch (fact.kind) {
    case "student":
    case "staff":
    case "guardian":
      index.people.delete(fact.subject);
      break;
    case "name":
      person.given = "";
      person.family = "";
      break;
    case "number":
    case "level":
    case "site":
      person[fact.kind] = "";
      break;
    case "enrolment":
      person.cohorts.delete(fact.ref);
      index.enrolled.get(fact.ref)?.delete(fact.subject);
      break;
    case "tie":
      person.ties.delete(fact.ref);
      index.people.get(fact.ref)?.ties.delete(fact.subject);
      break;
    case "address":
      person.addresses.delete(fact.ref);
      break;
    case "detail":
      person.details.delete(fact.ref);
      break;
  }
}

function presetFrom({ name, what, ...rules }: PresetValue): Preset {
  return { name, what, rules };
}

/** A person's name as one text; "someone without a name" where no source gives one. */
export function nameOf(person: Pick<Person, "given" | "family"> | undefined): string {
  const name = person === undefined ? "" : wholeName(person);
  return name === "" ? "someone without a name" : name;
}

function personIn(index: FactIndex, id: string): Person {
  let person = index.people.get(id);
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
