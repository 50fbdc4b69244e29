import type { FactIndex, Person } from "@amigo/core/facts/factIndex";
import { guardiansOf } from "@amigo/core/reach/reach";

/** Who is meant where somebody writes to a child. */
export type Whom = "guardians" | "themselves";

/**
 * Tells to whom mail for a person goes: for a child to the guardians, unless the child is meant; for anybody else to them. Of
 * a child's guardians those count whom the writer may know.
 */
export function recipientsFor(person: Person, known: FactIndex, whom: Whom): Person[] {
  if (person.role !== "student" || whom === "themselves") return [person];
  return guardiansOf(person, known);
}

/** The addresses to which mail for a person goes; none where none is known. */
export function addressesFor(person: Person, known: FactIndex, whom: Whom): string[] {
  return [
    ...new Set(recipientsFor(person, known, whom).flatMap(({ addresses }) => [...addresses])),
  ];
}
