import { factKey, type Fact, type Facts } from "./fact";
import type { FactDifference } from "./factDifference";
import { factsOf } from "./factsOf";
import { shareIndexOver, sharedIndex } from "./indexFacts";
import { LayeredMap } from "./layeredMap";

/** From this share of all facts on, a layer is worth no more, and everything is put together anew. */
const MANY = 0.1;

/**
 * Returns facts in which some subjects have just the facts that are given, and all others those that they had. The facts before stay
 * as they are, and the index of those after is made from theirs.
 */
export function renewFacts(
  before: Facts,
  subjects: Iterable<string>,
  given: readonly Fact[],
): Facts {
  const index = sharedIndex(before);
  const facts = new LayeredMap(before);
  const difference: FactDifference = { added: [...given], removed: [] };
  for (const subject of subjects)
    for (const fact of factsOf(subject, before, index)) {
      difference.removed.push(fact);
      facts.delete(factKey(fact));
    }
  for (const fact of given) facts.set(factKey(fact), fact);
  if (facts.differences > facts.base.size * MANY) return new Map(facts);
  shareIndexOver(before, facts, difference);
  return facts;
}
