import type { FactIndex } from "../facts/factIndex";
import { families } from "./families";

/** How many families each address turns up for, where there is more than one. */
export function sharedAddresses(index: FactIndex): Map<string, number> {
  const byAddress = new Map<string, string[]>();
  for (const person of index.people.values()) {
    if (person.role !== "guardian") continue;
    for (const address of person.addresses)
      byAddress.set(address, [...(byAddress.get(address) ?? []), person.id]);
  }
  const several = [...byAddress].filter(([, people]) => people.length > 1);
  if (several.length === 0) return new Map();
  const family = families(index);
  return new Map(
    several
      .map(
        ([address, people]) => [address, new Set(people.map((id) => family.get(id))).size] as const,
      )
      .filter(([, count]) => count > 1),
  );
}
