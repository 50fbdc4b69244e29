import { factDifference } from "../facts/factDifference";
import type { Facts } from "../facts/fact";
import { indexFrom, sharedIndex } from "../facts/indexFacts";
import { wantedLists } from "../lists/sharedWanted";
import type { Cause } from "./cause";
import { planRound } from "./planRound";

/** From this share of all facts on, looking at every list is less work. */
const MANY = 0.2;

/**
 * Returns the keys of the lists that going from some facts to others can change: who is to be on them, or anything about the list itself;
 * undefined for any list.
 */
export function listsTouched(before: Facts, after: Facts): ReadonlySet<string> | undefined {
  const { added: adds, removed: removes } = factDifference(before, after);
  if (adds.length + removes.length > after.size * MANY) return undefined;
  const wanted = wantedLists(indexFrom(before, after));
  const were = wantedLists(sharedIndex(before));
  const { changes } = planRound(before, [{ ...AT_ONCE, adds, removes }]);
  return new Set([
    ...[...(changes.get(AT_ONCE.key) ?? [])].map(({ list }) => list),
    ...[...wanted].filter(([key, list]) => were.get(key) !== list).map(([key]) => key),
    ...[...were.keys()].filter((key) => !wanted.has(key)),
  ]);
}

/** Everything that changes as one cause, of which nobody reads anything. */
const AT_ONCE: Omit<Cause, "adds" | "removes"> = {
  key: "",
  kind: "list",
  subject: "",
  title: "",
  detail: "",
  sentence: "",
  group: "",
};
