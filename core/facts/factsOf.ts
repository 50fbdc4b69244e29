import { keyOf, type Fact, type Facts } from "./fact";
import type { FactIndex } from "./factIndex";

/** Returns the facts of a person, found through the index of the facts instead of among all of them. */
export function factsOf(id: string, facts: Facts, index: FactIndex): Fact[] {
  const person = index.people.get(id);
  const keys = [
    ...(["student", "guardian", "staff", "name", "number", "level", "site"] as const).map((kind) =>
      keyOf(id, kind),
    ),
    ...[...(person?.cohorts ?? [])].map((cohort) => keyOf(id, "enrolment", cohort)),
    ...[...(person?.ties.keys() ?? [])].map((student) => keyOf(id, "tie", student)),
    ...[...(person?.addresses ?? [])].map((address) => keyOf(id, "address", address)),
    ...[...(person?.details.keys() ?? [])].map((column) => keyOf(id, "detail", column)),
  ];
  return keys.flatMap((key) => facts.get(key) ?? []);
}
