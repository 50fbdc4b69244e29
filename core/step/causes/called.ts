import type { FactIndex, Person } from "../../facts/factIndex";

export function cohortNames(keys: Iterable<string>, index: FactIndex): string[] {
  return [...keys].map((key) => index.cohorts.get(key)?.name ?? key.slice(key.indexOf(":") + 1));
}

export function groupOf(person: Person, index: FactIndex): string {
  return cohortNames([...person.cohorts].slice(0, 1), index)[0] ?? "";
}

export function stableKey(person: Person): string {
  return person.number === "" ? person.id : person.number;
}
