import { factKey, type Fact } from "../../facts/fact";

/** Groups facts by their subjects, those of each in an order of their own: a cause is the same whatever the order of rows and facts. */
export function bySubject(facts: readonly Fact[]): Map<string, Fact[]> {
  const groups = new Map<string, Fact[]>();
  for (const fact of facts) {
    const group = groups.get(fact.subject);
    if (group === undefined) groups.set(fact.subject, [fact]);
    else group.push(fact);
  }
  for (const group of groups.values())
    if (group.length > 1) group.sort((one, other) => (factKey(one) < factKey(other) ? -1 : 1));
  return groups;
}
