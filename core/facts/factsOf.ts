import { keyOf, type Fact, type FactKind, type Facts } from "./fact";
import type { FactIndex } from "./factIndex";

/** Kinds of which a subject has one fact at most, so that the ref is empty. */
const SINGLE = [
  "student",
  "guardian",
  "staff",
  "name",
  "number",
  "level",
  "site",
  "cohort",
  "recipe",
  "short",
  "preset",
] as const satisfies readonly FactKind[];

/**
 * Returns the facts of a subject, found through the index of the facts instead of among all of them.
 *
 * @param index of the facts, or of others in which the subject has all the facts that it has in these
 */
export function factsOf(subject: string, facts: Facts, index: FactIndex): Fact[] {
  const found = SINGLE.flatMap((kind) => facts.get(keyOf(subject, kind)) ?? []);
  const take = (kind: FactKind, refs: Iterable<string> = []): void => {
    for (const ref of refs) {
      const fact = facts.get(keyOf(subject, kind, ref));
      if (fact !== undefined) found.push(fact);
    }
  };
  const person = index.people.get(subject);
  take("enrolment", person?.cohorts);
  take("tie", person?.ties.keys());
  take("address", person?.addresses);
  take("detail", person?.details.keys());
  take("kept", index.kept.get(subject)?.keys());
  take("list", index.lists.get(subject)?.keys());
  take("alias", index.aliases.get(subject)?.keys());
  take("exemption", index.exemptions.get(subject)?.keys());
  if (subject === "house") {
    take("bound", index.bounds.keys());
    take("invariant", index.invariantsOff);
  }
  return found;
}
