import type { FactIndex, Person } from "@amigo/core/facts/indexFacts";

/** Who is meant where somebody writes to a child. */
export type Whom = "guardians" | "themselves";

/**
 * Tells to whom mail for a person goes: for a child to the guardians, unless the child is meant; for anybody else to them. Of
 * a child's guardians those count whom the writer may know.
 */
export function recipientsFor(person: Person, known: FactIndex, whom: Whom): Person[] {
  if (person.role !== "student" || whom === "themselves") return [person];
  return [...person.ties.keys()].flatMap((id) => known.people.get(id) ?? []);
}

/** The addresses to which mail for a person goes; none where nobody can be reached. */
export function addressesFor(person: Person, known: FactIndex, whom: Whom): string[] {
  return [
    ...new Set(recipientsFor(person, known, whom).flatMap(({ addresses }) => [...addresses])),
  ];
}
