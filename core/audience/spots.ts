import type { FactIndex, Person } from "../facts/indexFacts";
import { nameKey } from "../identity/sameName";
import { splitName } from "../sheet/splitName";
import { fold } from "../text/fold";
import type { Spot } from "./audience";

/** The keys under which a spot is looked up; without a kind it can be any of several. `undefined` is everywhere: the season itself. */
export function spotKeys({ kind, name = "" }: Spot): string[] | undefined {
  const folded = fold(name);
  if (kind === "season") return undefined;
  if (kind !== undefined) return [`${kind}:${folded}`];
  return [`class:${folded}`, `team:${folded}`, `committee:${folded}`, `site:${folded}`];
}

/** The keys of all spots where a student is: classes and teams, the sites of these and their own, their level. */
export function spotsOfStudent(person: Person, index: FactIndex): Set<string> {
  const keys = new Set(person.cohorts);
  for (const cohort of person.cohorts) {
    const site = index.cohorts.get(cohort)?.site ?? "";
    if (site !== "") keys.add(`site:${fold(site)}`);
  }
  if (person.site !== "") keys.add(`site:${fold(person.site)}`);
  if (person.level !== "") keys.add(`level:${fold(person.level)}`);
  return keys;
}

const NAME_KEYS = new Map<string, string>();

/** The name of a coach as a sheet writes it, made comparable with the names of people on the staff. */
export function coachKey(name: string): string {
  let key = NAME_KEYS.get(name);
  if (key === undefined) {
    if (NAME_KEYS.size > 5000) NAME_KEYS.clear();
    key = nameKey(splitName(name));
    NAME_KEYS.set(name, key);
  }
  return key;
}

/** The cohorts that somebody on the staff coaches. */
export function coachedBy(person: Person, index: FactIndex, among: readonly string[] | undefined): string[] {
  const own = nameKey(person);
  const coaches = (key: string): boolean => { const coach = index.cohorts.get(key)?.coach ?? ""; return coach !== "" && coachKey(coach) === own; };
  return among === undefined ? [...index.cohorts.keys()].filter(coaches) : among.filter(coaches);
}
