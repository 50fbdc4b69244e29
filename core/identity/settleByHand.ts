import { placeKind } from "../facts/subjects";
import { factKey, type Fact, keyOf } from "../facts/fact";
import type { SettledByHand } from "./question";

/** What was said by hand takes the place of what the sources say, for people who are still there. */
export function settleByHand(
  facts: Map<string, Fact>,
  settled: readonly SettledByHand[],
  spare: ReadonlyMap<string, Fact>,
): Map<string, Fact> {
  const here = settled.filter(
    ({ subject }) => facts.has(keyOf(subject, "student")) || facts.has(keyOf(subject, "guardian")),
  );
  if (here.length === 0) return facts;
  const replaced = new Set(here.map(({ subject, kind }) => `${subject}|${kind}`));
  for (const [key, fact] of facts)
    if (
      replaced.has(`${fact.subject}|${fact.kind}`) &&
      (fact.kind !== "enrolment" || placeKind(fact.ref) === "class")
    )
      facts.delete(key);
  for (const { subject, kind, facts: settledFacts, by, at } of here) {
    for (const { ref, value } of settledFacts) {
      const fact = { subject, kind, ref, value, origin: { from: "hand", by, at } } as Fact;
      facts.set(factKey(fact), fact);
      const cohort = spare.get(ref);
      if (kind === "enrolment" && cohort !== undefined && !facts.has(factKey(cohort)))
        facts.set(factKey(cohort), cohort);
    }
  }
  return facts;
}
