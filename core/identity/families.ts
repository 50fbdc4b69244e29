import type { FactIndex } from "../facts/factIndex";

/** Tells the family of somebody by their id. */
export interface Families {
  /** Returns what a family goes by: the least id of its people. The same for whoever isn't known is their own id. */
  get(id: string): string;
}

/**
 * Returns the families of people: students who share a guardian, with all guardians of theirs. A family is looked for when somebody
 * of it is asked about, so who asks about few doesn't wait for all.
 *
 * @param index stays as it is
 */
export function families(index: FactIndex): Families {
  const known = new Map<string, string>();
  return {
    get(id) {
      const found = known.get(id);
      if (found !== undefined) return found;
      const family = new Set([id]);
      let least = id;
      // A set takes in what is added while it is gone through.
      for (const one of family)
        for (const other of index.people.get(one)?.ties.keys() ?? []) {
          family.add(other);
          if (other < least) least = other;
        }
      for (const one of family) known.set(one, least);
      return least;
    },
  };
}
