import { factKey, type Fact, type Facts } from "../facts/fact";
import type { Cause } from "./cause";

/**
 * The facts after some causes are accepted. A guardian whose last student left is forgotten with
 * them, and one who is tied to a student by an accepted cause is known, whichever cause brought them first.
 */
export function applyCauses(stand: Facts, causes: readonly Cause[]): Map<string, Fact> {
  const facts = new Map(stand);
  for (const cause of causes) {
    for (const fact of cause.removes) facts.delete(factKey(fact));
    for (const fact of cause.adds) facts.set(factKey(fact), fact);
  }
  const touched = new Set(
    causes.flatMap((cause) =>
      cause.removes.filter((fact) => fact.kind === "tie").map((fact) => fact.subject),
    ),
  );
  if (touched.size > 0) {
    for (const fact of facts.values()) if (fact.kind === "tie") touched.delete(fact.subject);
    for (const [key, fact] of facts) if (touched.has(fact.subject)) facts.delete(key);
  }
  return facts;
}
