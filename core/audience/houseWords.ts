import { nameOf, type FactIndex } from "../facts/factIndex";
import { fold } from "../text/fold";
import { numberIn, OWN_COLUMNS } from "./holds";
import type { CohortKind } from "../facts/cohort";

/** The names of a house that an audience can use. */
export interface HouseWords {
  cohorts: { name: string; kind: CohortKind; coach: string }[];
  sites: string[];
  levels: string[];
  /** Columns, with some of the values that stand in them. */
  columns: { name: string; values: string[] }[];
  season: string;
  /** People by folded name: how many have it, and what tells them apart. */
  people(name: string): { name: string; hint: string }[];
  /** People whose names begin so, a few. */
  peopleLike(start: string): { name: string; hint: string }[];
}

const VALUES_KEPT = 200;
const PEOPLE_SHOWN = 8;

/** Gathers the names of a house from its facts. */
export function houseWords(index: FactIndex, season: string): HouseWords {
  const sites = new Map<string, string>();
  const levels = new Set<string>();
  const columns = new Map<string, Set<string>>();
  for (const { site } of index.cohorts.values()) if (site !== "") sites.set(fold(site), site);
  for (const person of index.people.values()) {
    if (person.site !== "" && !sites.has(fold(person.site)))
      sites.set(fold(person.site), person.site);
    if (person.level !== "") levels.add(person.level);
    for (const [column, value] of person.details) {
      const values = columns.get(column) ?? new Set<string>();
      columns.set(column, values);
      if (values.size < VALUES_KEPT) values.add(value);
    }
  }
  const sorted = (texts: Iterable<string>): string[] =>
    [...texts].sort((a, b) => (numberIn(a) ?? 0) - (numberIn(b) ?? 0) || a.localeCompare(b, "en"));
  const current = (
    person: Parameters<typeof nameOf>[0] & { number: string; addresses: ReadonlySet<string> },
  ) => ({ name: nameOf(person), hint: person.number || [...person.addresses][0] || "" });
  return {
    cohorts: [...index.cohorts.values()].map(({ name, kind, coach }) => ({ name, kind, coach })),
    sites: sorted(sites.values()),
    levels: sorted(levels),
    season,
    columns: [
      ...Object.keys(OWN_COLUMNS).map((name) => ({
        name,
        values: name === "level" ? sorted(levels) : name === "site" ? sorted(sites.values()) : [],
      })),
      ...[...columns].map(([name, values]) => ({ name, values: sorted(values) })),
    ],
    people: (name) =>
      [...index.people.values()]
        .filter((person) => fold(nameOf(person)) === fold(name))
        .map(current),
    peopleLike: (start) => {
      const found: { name: string; hint: string }[] = [];
      const wanted = fold(start);
      for (const person of index.people.values()) {
        if (found.length >= PEOPLE_SHOWN) break;
        const name = fold(nameOf(person));
        if (name.startsWith(wanted) || name.includes(` ${wanted}`)) found.push(current(person));
      }
      return found;
    },
  };
}
