import { said } from "@amigo/language/say";
import { whoBelongs } from "@amigo/core/audience/whoBelongs";
import { factKey, type Fact, type Facts } from "@amigo/core/facts/fact";
import { indexFacts } from "@amigo/core/facts/indexFacts";
import type { FactIndex } from "@amigo/core/facts/factIndex";
import { deriveFacts } from "@amigo/core/identity/deriveFacts";
import { FIRST_RECIPES, recipeFacts } from "@amigo/core/lists/firstRecipes";
import { wantedLists } from "@amigo/core/lists/sharedWanted";
import { readRecords } from "@amigo/core/sheet/readRecords";
import { readTable } from "@amigo/core/sheet/readTable";
import { readWorkbook } from "@amigo/core/sheet/readWorkbook";
import { ListBook, membersOf } from "@amigo/core/step/listMembers";
import { asWorkbook, makeRoster, type Size } from "./roster";

/** What evaluating every list's audience took, in milliseconds, beside two ways that are no language at all. */
export interface AudienceFigures {
  people: number;
  lists: number;
  places: number;
  /** All lists at once, as a round does it. */
  together: number;
  /** One list after the other, as pages do it. */
  singly: number;
  /** The bare loop: every student's classes and their guardians' addresses put into sets, with no audience looked at. */
  bare: number;
  /** What one list would take by looking at everybody, times the lists. */
  rescanning: number;
}

/** Evaluates the audiences of every list of a made school. */
export function measureAudiences(size: Size): AudienceFigures {
  const index = everybody(size);
  const lists = [...wantedLists(index).values()];
  const time = (measure: () => number): { time: number; places: number } => {
    const runs = [0, 1, 2]
      .map(() => {
        const begin = performance.now();
        const places = measure();
        return { time: performance.now() - begin, places };
      })
      .sort((a, b) => a.time - b.time);
    return runs[1] ?? { time: 0, places: 0 };
  };
  const together = time(() =>
    [...membersOf(index, new ListBook(lists)).values()].reduce(
      (sum, addresses) => sum + addresses.size,
      0,
    ),
  );
  const singly = time(() =>
    lists.reduce((sum, { audience }) => sum + whoBelongs(audience, index).length, 0),
  );
  const bare = time(() => bareLoop(index));
  const few = lists.slice(0, 10);
  const rescanning = time(() => few.reduce((sum, list) => sum + rescan(list.of, index), 0));
  return {
    people: index.people.size,
    lists: lists.length,
    places: together.places,
    together: together.time,
    singly: singly.time,
    bare: bare.time,
    rescanning: (rescanning.time / few.length) * lists.length,
  };
}

function everybody(size: Size): FactIndex {
  const recipes = recipeFacts(said(FIRST_RECIPES), { from: "hand", by: "the bench", at: "" }).map(
    (fact): [string, Fact] => [factKey(fact), fact],
  );
  return indexFacts(new Map([...factsOf(size), ...recipes]));
}

/** The facts about the people of a made school. */
export function factsOf(size: Size): Facts {
  const book = readWorkbook(asWorkbook(makeRoster(size)));
  const found = book.ok ? readTable(book.workbook) : book;
  if (!book.ok || !found.ok) throw new Error("the made roster was not read");
  const sheet = book.workbook.sheets.find(({ name }) => name === found.table.sheet);
  if (sheet === undefined) throw new Error("the made roster has no sheet");
  const { facts } = deriveFacts(
    [{ source: "made", reading: "made", records: readRecords(sheet, found.table).records }],
    new Map(),
    { studentAddress: "{number}@copperwheel.example" },
  );
  return facts;
}

function bareLoop(index: FactIndex): number {
  const sets = new Map<string, Set<string>>();
  const put = (list: string, addresses: Iterable<string>): void => {
    const found = sets.get(list) ?? new Set<string>();
    sets.set(list, found);
    for (const address of addresses) found.add(address);
  };
  for (const person of index.people.values()) {
    if (person.role !== "student") continue;
    for (const cohort of person.cohorts) {
      put(`1:${cohort}`, person.addresses);
      for (const id of person.ties.keys())
        put(`2:${cohort}`, index.people.get(id)?.addresses ?? []);
    }
  }
  return [...sets.values()].reduce((sum, addresses) => sum + addresses.size, 0);
}

function rescan(cohort: string, index: FactIndex): number {
  let found = 0;
  for (const person of index.people.values())
    if (
      person.role === "student"
        ? person.cohorts.has(cohort)
        : [...person.ties.keys()].some((id) => index.people.get(id)?.cohorts.has(cohort) ?? false)
    )
      found++;
  return found;
}
