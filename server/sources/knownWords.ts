import type { z } from "zod";
import type { getKnownWords } from "@amigo/contract/readings";
import type { MeaningId } from "@amigo/core/sheet/meanings/meaning";
import type { Queries } from "../db/connect";
import { latestReadings } from "../facts/readingQueries";
import { loadCurrentSeason, listSites } from "../db/houseQueries";
import { listNumbers, listCohortNames, listAccountNames, namesOf } from "./knownQueries";

/** The most titles that are given; those of the newest sources are kept. */
const MOST_TITLES = 2000;
/** A column that wasn't used may hold anything. */
const TELLS_NOTHING: ReadonlySet<MeaningId> = new Set<MeaningId>(["unread"]);

type Words = z.output<typeof getKnownWords.answer>;

/** What the house knows before it looks at a sheet: titles that were read before, its classes, teams, sites and people. */
export async function knownWords(db: Queries): Promise<Words> {
  const current = await loadCurrentSeason(db);
  if (current === undefined)
    return {
      titles: [],
      classes: [],
      teams: [],
      sites: [],
      staff: [],
      people: { students: [], guardians: [], numbers: [] },
    };
  const [students, guardians, numbers, readings, cohorts, sites, staff] = await Promise.all([
    namesOf(db, current.id, "student"),
    namesOf(db, current.id, "guardian"),
    listNumbers(db, current.id),
    latestReadings(db, current.id),
    listCohortNames(db, current.id),
    listSites(db),
    listAccountNames(db),
  ]);
  const named = (kind: string): string[] =>
    cohorts.filter((cohort) => cohort.kind === kind).map(({ name }) => name);
  return {
    titles: readings
      .flatMap(({ plan }) => plan.columns)
      .filter(({ title, meaning }) => title !== "" && !TELLS_NOTHING.has(meaning))
      .map(({ title, meaning }) => ({ title, meaning }))
      .slice(-MOST_TITLES),
    classes: named("class"),
    teams: named("team"),
    sites: sites.flatMap(({ name, code }) => [name, code]),
    staff: staff.map(({ name }) => name),
    people: { students, guardians, numbers: numbers.map(({ number }) => number) },
  };
}
