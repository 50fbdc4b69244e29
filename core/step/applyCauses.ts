import { factKey, type Fact, type Facts } from "../facts/fact";
import { factsOf } from "../facts/factsOf";
import { sharedIndex } from "../facts/indexFacts";
import { changeable } from "../facts/layeredMap";
import type { Cause } from "./cause";

/**
 * The facts after some causes are accepted. A guardian whose last student left is forgotten with
 * them, and one who is tied to a student by an accepted cause is known, whichever cause brought them first.
 */
export function applyCauses(stand: Facts, causes: readonly Cause[]): Map<string, Fact> {
  const facts = changeable(
    stand,
    causes.reduce((sum, { adds, removes }) => sum + adds.length + removes.length, 0),
  );
  for (const cause of causes) {
    for (const fact of cause.removes) facts.delete(factKey(fact));
    for (const fact of cause.adds) facts.set(factKey(fact), fact);
  }
  const untied = new Set(
    causes.flatMap((cause) =>
      cause.removes.filter((fact) => fact.kind === "tie").map((fact) => fact.subject),
    ),
  );
  if (untied.size === 0) return facts;
  const before = sharedIndex(stand);
  /** The ties of each as they stood and as causes bring them. */
  const ties = new Map([...untied].map((id) => [id, factsOf(id, facts, before)]));
  for (const { adds } of causes) for (const fact of adds) ties.get(fact.subject)?.push(fact);
  for (const theirs of ties.values()) {
    if (theirs.some((fact) => fact.kind === "tie" && facts.has(factKey(fact)))) continue;
    for (const fact of theirs) facts.delete(factKey(fact));
  }
  return facts;
}
