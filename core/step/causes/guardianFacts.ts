import { keyOf, type Fact, type Facts } from "../../facts/fact";
import { sharedIndex } from "../../facts/indexFacts";

/** The facts of a guardian beside their ties. */
export function factsOfGuardian(id: string, facts: Facts): Fact[] {
  const addresses = sharedIndex(facts).people.get(id)?.addresses ?? [];
  return [
    keyOf(id, "guardian"),
    keyOf(id, "name"),
    ...[...addresses].map((address) => keyOf(id, "address", address)),
  ].flatMap((key) => facts.get(key) ?? []);
}
