import { factKey, type Fact, type Facts } from "../../facts/fact";
import { bySubject } from "./bySubject";

/** The facts of a guardian beside their ties. */
export function factsOfGuardian(id: string, facts: Facts): Fact[] {
  const found: Fact[] = [];
  for (const kind of ["guardian", "name"] as const) {
    const fact = facts.get(factKey({ subject: id, kind, ref: "" }));
    if (fact !== undefined) found.push(fact);
  }
  return [...found, ...(addressFacts(facts).get(id) ?? [])];
}

const addressCache = new WeakMap<Facts, Map<string, Fact[]>>();

/** Address facts by person, gathered once for a set of facts. */
function addressFacts(facts: Facts): Map<string, Fact[]> {
  let byPerson = addressCache.get(facts);
  if (byPerson === undefined) {
    const addresses: Fact[] = [];
    for (const fact of facts.values()) if (fact.kind === "address") addresses.push(fact);
    byPerson = bySubject(addresses);
    addressCache.set(facts, byPerson);
  }
  return byPerson;
}
