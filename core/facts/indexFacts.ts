import { wholeName } from "../sheet/splitName";
import type { CohortValue, Fact, Facts, KeptValue } from "./fact";

/** A person gathered from facts. */
export interface Person {
  id: string;
  role: "student" | "guardian";
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
}

/** Facts gathered by person and cohort, for everything that looks up rather than scans. */
export interface FactIndex {
  people: Map<string, Person>;
  cohorts: Map<string, CohortValue>;
  /** Students of each cohort. */
  enrolled: Map<string, Set<string>>;
  /** Addresses kept on or off each list, by the list's id. */
  kept: Map<string, Map<string, KeptValue>>;
}

export function indexFacts(facts: Facts): FactIndex {
  const index: FactIndex = { people: new Map(), cohorts: new Map(), enrolled: new Map(), kept: new Map() };
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
  if (fact.kind === "kept") {
    const kept = index.kept.get(fact.subject);
    if (kept === undefined) index.kept.set(fact.subject, new Map([[fact.ref, fact.value]]));
    else kept.set(fact.ref, fact.value);
    return;
  }
  const person = personIn(index, fact.subject);
  switch (fact.kind) {
    case "student":
    case "guardian": person.role = fact.kind; break;
    case "name": person.given = fact.value.given; person.family = fact.value.family; break;
    case "number":
    case "level":
    case "site": person[fact.kind] = fact.value; break;
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
    case "address": person.addresses.add(fact.ref); break;
  }
}

/** Takes a fact out of an index again. */
export function removeFromIndex(index: FactIndex, fact: Fact): void {
  if (fact.kind === "cohort") {
    index.cohorts.delete(fact.subject);
    return;
  }
  if (fact.kind === "kept") {
    index.kept.get(fact.subject)?.delete(fact.ref);
    return;
  }
  const person = index.people.get(fact.subject);
  if (person === undefined) return;
  switch (fact.kind) {
    case "student":
    case "guardian": index.people.delete(fact.subject); break;
    case "name": person.given = ""; person.family = ""; break;
    case "number":
    case "level":
    case "site": person[fact.kind] = ""; break;
    case "enrolment": person.cohorts.delete(fact.ref); index.enrolled.get(fact.ref)?.delete(fact.subject); break;
    case "tie": person.ties.delete(fact.ref); index.people.get(fact.ref)?.ties.delete(fact.subject); break;
    case "address": person.addresses.delete(fact.ref); break;
  }
}

/** A person's name as one text; "someone without a name" where no source gives one. */
export function nameOf(person: Pick<Person, "given" | "family"> | undefined): string {
  const name = person === undefined ? "" : wholeName(person);
  return name === "" ? "someone without a name" : name;
}

function personIn(index: FactIndex, id: string): Person {
  let person = index.people.get(id);
  if (person === undefined) {
    person = { id, role: "guardian", given: "", family: "", number: "", level: "", site: "", cohorts: new Set(), addresses: new Set(), ties: new Map() };
    index.people.set(id, person);
  }
  return person;
}
