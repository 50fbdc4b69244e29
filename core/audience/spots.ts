import { placeKind } from "../facts/subjects";
import type { FactIndex, Person } from "../facts/factIndex";
import { isCoachOf } from "../lists/whoLeads";
import { fold } from "../text/fold";
import type { Spot } from "./audience";

/** The keys under which a spot is looked up; without a kind it can be any of several. `undefined` is everywhere: the season itself. */
export function spotKeys(spot: Spot): readonly string[] | undefined {
  if (spot.kind === "season") return undefined;
  let keys = KEYS.get(spot);
  if (keys === undefined) KEYS.set(spot, (keys = keysOf(spot)));
  return keys;
}

/** The keys of a spot, worked out once however many people are held against it. */
const KEYS = new WeakMap<Spot, readonly string[]>();

function keysOf({ kind, name = "" }: Spot): string[] {
  const folded = fold(name);
  if (kind !== undefined) return [`${kind}:${folded}`];
  return [`class:${folded}`, `team:${folded}`, `committee:${folded}`, `site:${folded}`];
}

/** Which of some keys is a spot of a student; the classes and teams they are in are looked at first. */
export function spotAmong(
  keys: readonly string[],
  person: Person,
  index: FactIndex,
): string | undefined {
  const cohort = keys.find((key) => person.cohorts.has(key));
  if (cohort !== undefined) return cohort;
  if (!keys.some((key) => placeKind(key) === "site" || placeKind(key) === "level"))
    return undefined;
  const known = new Set<string>();
  addPlaces(person, index, known);
  return keys.find((key) => known.has(key));
}

/** The keys of all spots where a student is: classes and teams, the sites of these and their own, their level. */
export function spotsOfStudent(person: Person, index: FactIndex): Set<string> {
  const keys = new Set(person.cohorts);
  addPlaces(person, index, keys);
  return keys;
}

function addPlaces(person: Person, index: FactIndex, keys: Set<string>): void {
  for (const cohort of person.cohorts) {
    const site = index.cohorts.get(cohort)?.site ?? "";
    if (site !== "") keys.add(`site:${fold(site)}`);
  }
  if (person.site !== "") keys.add(`site:${fold(person.site)}`);
  if (person.level !== "") keys.add(`level:${fold(person.level)}`);
}

/** The cohorts that somebody on the staff coaches. */
export function coachedBy(
  person: Person,
  index: FactIndex,
  among: readonly string[] | undefined,
): string[] {
  return (among ?? [...index.cohorts.keys()]).filter((key) =>
    isCoachOf(person, index.cohorts.get(key)),
  );
}
