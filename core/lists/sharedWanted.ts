import type { FactDifference } from "../facts/factDifference";
import type { FactIndex } from "../facts/factIndex";
import { forgetBelow, madeFrom } from "../facts/indexFacts";
import type { FactKind } from "../facts/fact";
import { LayeredMap } from "../facts/layeredMap";
import { listKey, listKeyParts } from "./listKey";
import { allWanted, wantedAtPlaces, wantedList, wantedOf, type WantedList } from "./wantedLists";

const SHARED = new WeakMap<FactIndex, ReadonlyMap<string, WantedList>>();

/**
 * Everything that the recipes and people of a house want to be a list, by its key. For an index that nobody changes any more it's
 * worked out once, and from that of the index below by what differs. Not to be changed.
 */
export function wantedLists(index: FactIndex): ReadonlyMap<string, WantedList> {
  const from = madeFrom(index);
  if (from === undefined) return allWanted(index);
  let wanted = SHARED.get(index);
  if (wanted === undefined) {
    wanted =
      from.below === undefined
        ? allWanted(index)
        : renewedWanted(wantedLists(from.below), index, from.difference);
    SHARED.set(index, wanted);
    forgetBelow(index);
  }
  return wanted;
}

/** Facts by which any list of the house can become another. */
const HOUSE_WIDE: ReadonlySet<FactKind> = new Set(["recipe", "bound", "preset"]);
/** Facts of which levels and sites there are. */
const OF_PLACES: ReadonlySet<FactKind> = new Set(["level", "cohort"]);

function renewedWanted(
  below: ReadonlyMap<string, WantedList>,
  index: FactIndex,
  { added, removed }: FactDifference,
): ReadonlyMap<string, WantedList> {
  const changed = [...removed, ...added];
  if (changed.some(({ kind }) => HOUSE_WIDE.has(kind))) return allWanted(index);
  const wanted = new LayeredMap(below);
  const put = (key: string, list: WantedList | undefined): void => {
    if (list === undefined) wanted.delete(key);
    else wanted.set(key, list);
  };
  let isPlaceChanged = changed.some(({ kind }) => OF_PLACES.has(kind));
  for (const { kind, subject } of changed) {
    if (kind === "cohort") {
      const found = new Map(wantedOf(index, subject).map((list) => [list.key, list]));
      for (const number of index.recipes.keys()) {
        const key = listKey(number, subject);
        put(key, found.get(key));
      }
    }
    if (kind !== "list" && kind !== "exemption") continue;
    const of = listKeyParts(subject)?.of;
    if (of === undefined || index.cohorts.has(of)) put(subject, wantedList(index, subject));
    else isPlaceChanged = true;
  }
  if (isPlaceChanged) {
    for (const [key, { recipe, cohort }] of below)
      if (recipe !== undefined && cohort === undefined) wanted.delete(key);
    for (const list of wantedAtPlaces(index)) wanted.set(list.key, list);
  }
  return wanted;
}
