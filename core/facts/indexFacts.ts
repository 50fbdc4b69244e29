import type { Fact, Facts } from "./fact";
import type { FactIndex } from "./factIndex";
import { kindOf } from "./kinds/allKinds";

export function indexFacts(facts: Facts): FactIndex {
  const index: FactIndex = {
    people: new Map(),
    cohorts: new Map(),
    enrolled: new Map(),
    kept: new Map(),
    recipes: new Map(),
    lists: new Map(),
    aliases: new Map(),
    shorts: new Map(),
    bounds: new Map(),
    invariantsOff: new Set(),
    presets: new Map(),
    exemptions: new Map(),
  };
  for (const fact of facts.values()) addToIndex(index, fact);
  return index;
}

const SHARED = new WeakMap<Facts, FactIndex>();

/** The index of facts that nobody changes any more, made once however many ask for it. Not to be changed. */
export function sharedIndex(facts: Facts): FactIndex {
  let index = SHARED.get(facts);
  if (index === undefined) {
    index = indexFacts(facts);
    SHARED.set(facts, index);
  }
  return index;
}

/** Takes one more fact into an index; an older value of the same fact is replaced. */
export function addToIndex(index: FactIndex, fact: Fact): void {
  kindOf(fact).addTo(index, fact);
}

/** Takes a fact out of an index again. */
export function removeFromIndex(index: FactIndex, fact: Fact): void {
  kindOf(fact).removeFrom(index, fact);
}
