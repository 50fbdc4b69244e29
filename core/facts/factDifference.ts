import { sameValue, type Fact, type Facts } from "./fact";
import { LayeredMap } from "./layeredMap";

/** What differs between facts before and after. A fact whose value has changed is in both. */
export interface FactDifference {
  added: Fact[];
  removed: Fact[];
}

/**
 * Returns what differs between facts before and after. Where one is layered on the other, or both on the same, only what is in the
 * layers is looked at.
 */
export function factDifference(before: Facts, after: Facts): FactDifference {
  const keys = keysToCompare(before, after);
  if (keys === undefined) return differenceOfAll(before, after);
  const found: FactDifference = { added: [], removed: [] };
  for (const key of keys) {
    const [was, is] = [before.get(key), after.get(key)];
    if (was === is || (was !== undefined && is !== undefined && sameValue(was.value, is.value)))
      continue;
    if (is !== undefined) found.added.push(is);
    if (was !== undefined) found.removed.push(was);
  }
  return found;
}

/** Returns the keys by which two can differ, where they have the same below them; undefined where that isn't known. */
function keysToCompare(before: Facts, after: Facts): Iterable<string> | undefined {
  if (before === after) return [];
  const [below, above] = [baseOf(before), baseOf(after)];
  if (below !== above) return undefined;
  return new Set([...differing(before), ...differing(after)]);
}

function baseOf(facts: Facts): Facts {
  return facts instanceof LayeredMap ? (facts.base as Facts) : facts;
}

function differing(facts: Facts): Iterable<string> {
  return facts instanceof LayeredMap ? (facts.differing() as Iterable<string>) : [];
}

function differenceOfAll(before: Facts, after: Facts): FactDifference {
  const added: Fact[] = [];
  const changed = new Set<string>();
  for (const [key, is] of after) {
    const was = before.get(key);
    if (was !== undefined && sameValue(was.value, is.value)) continue;
    added.push(is);
    if (was !== undefined) changed.add(key);
  }
  const removed: Fact[] = [];
  for (const [key, was] of before) if (changed.has(key) || !after.has(key)) removed.push(was);
  return { added, removed };
}
