import type { Fact } from "../../facts/fact";

export function bySubject(facts: readonly Fact[]): Map<string, Fact[]> {
  const groups = new Map<string, Fact[]>();
  for (const fact of facts) {
    const group = groups.get(fact.subject);
    if (group === undefined) groups.set(fact.subject, [fact]);
    else group.push(fact);
  }
  return groups;
}
