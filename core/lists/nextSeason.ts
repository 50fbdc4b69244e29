import { placeKind } from "../facts/subjects";
import { cohortKey, factKey, type Fact, type Facts } from "../facts/fact";
import type { Origin } from "../facts/origin";
import { indexFacts } from "../facts/indexFacts";
import type { FactIndex } from "../facts/factIndex";
import { numberIn } from "../audience/holds";
import { fold } from "../text/fold";
import { listKey, listKeyParts } from "./listKey";
import { wantedLists } from "./sharedWanted";
import { kindOf } from "../facts/kinds/allKinds";
import type { Crossing } from "../facts/kinds/kind";

/** How the next season begins. */
export interface SeasonPlanWanted {
  label: string;
  /** Each class, team and committee: its name from now on, or null to drop it; and the old key of the one to which its students go, empty for none. */
  cohorts: { key: string; name: string | null; students: string }[];
  /** Whether students go up a level, stay as they are, or are left for the new roster to place in classes. */
  students: "one level up" | "as they are" | "left for the roster";
}

/** The facts with which a season begins, and what becomes of the lists of the one before. */
export interface NextSeason {
  facts: Map<string, Fact>;
  /** Keys of lists without a recipe that go on as they are, with their address. */
  moved: Set<string>;
  /** Old list keys to the keys of the lists that take their place. */
  successors: Map<string, string>;
  /** Students taken along, and how many of them have a class or team. */
  students: number;
  placed: number;
}

/** `2026-27` becomes `2027-28`; anything else gets nothing proposed. */
export function nextLabel(label: string): string {
  const parts = /^(\d{4})-(\d{2})$/.exec(label);
  if (parts === null) return "";
  const year = Number(parts[1]) + 1;
  return `${year}-${String((year + 1) % 100).padStart(2, "0")}`;
}

/** The beginning of the next season as it is proposed: every class carried over with its students, one level up, teams emptied. */
export function proposeSeason({ cohorts }: FactIndex, label: string): SeasonPlanWanted {
  return {
    label: nextLabel(label),
    students: "one level up",
    cohorts: [...cohorts]
      .map(([key, { name, kind }]) => ({ key, name, students: kind === "class" ? key : "" }))
      .sort((a, b) => (a.key < b.key ? -1 : 1)),
  };
}

/**
 * Takes from the facts of one season those with which the next begins: people with their ties and addresses, the staff,
 * recipes and short forms, classes as they are wanted, lists without a recipe that go on, and what was set by hand of
 * lists that have a successor. Names are made again.
 *
 * @param today a calendar date: what is kept on or off until before it stays behind
 */
export function nextSeason(stand: Facts, wanted: SeasonPlanWanted, today: string): NextSeason {
  const index = indexFacts(stand);
  const facts = new Map<string, Fact>();
  const put = (fact: Fact): void => {
    facts.set(factKey(fact), fact);
  };
  const newKeys = newCohorts(index, wanted, put);
  const crossing: SeasonsMet = {
    index,
    wanted,
    today,
    newKeys,
    targets: new Map(wanted.cohorts.map(({ key, students }) => [key, newKeys.get(students) ?? ""])),
  };
  const ways = waysAcross(crossing);
  for (const fact of stand.values()) {
    const ask = kindOf(fact).nextSeason;
    const carried = ask === undefined ? fact : ask(fact, ways);
    if (carried !== undefined) put(carried as Fact);
  }
  const people = [...indexFacts(facts).people.values()].filter(({ role }) => role === "student");
  return {
    facts,
    ...listsAfter(facts, crossing),
    students: people.length,
    placed: people.filter(({ cohorts }) => cohorts.size > 0).length,
  };
}

const CARRIED: Origin = { from: "rule", rule: "carried over" };

/** The facts of one season beside what is wanted of the next. */
interface SeasonsMet {
  index: FactIndex;
  wanted: SeasonPlanWanted;
  today: string;
  /** The keys of the classes that go on, by what they were. */
  newKeys: ReadonlyMap<string, string>;
  /** Into which class the students of each class go; empty for none. */
  targets: ReadonlyMap<string, string>;
}

/** Makes the classes of the next season; returns their keys by what they were. */
function newCohorts(
  { cohorts }: FactIndex,
  wanted: SeasonPlanWanted,
  put: (fact: Fact) => void,
): Map<string, string> {
  const newKeys = new Map<string, string>();
  for (const { key, name } of wanted.cohorts) {
    const value = cohorts.get(key);
    if (value === undefined || name === null) continue;
    const subject = cohortKey(value.kind, fold(name));
    newKeys.set(key, subject);
    put({ subject, kind: "cohort", ref: "", value: { ...value, name }, origin: CARRIED });
  }
  return newKeys;
}

/** Returns what kinds of facts ask to cross from one season to the next. */
function waysAcross(crossing: SeasonsMet): Crossing {
  const { wanted, targets, today } = crossing;
  return {
    today,
    listAfter: (key) => keyAfter(key, crossing),
    cohortAfter: (key) => {
      const target = targets.get(key) ?? "";
      const isLeft = wanted.students === "left for the roster" && placeKind(target) === "class";
      return target === "" || isLeft ? undefined : target;
    },
    levelAfter: (level) => (wanted.students === "one level up" ? levelUp(level) : undefined),
  };
}

/** Returns the key that a list has in the next season, or undefined where it ends. */
function keyAfter(key: string, { index, newKeys }: SeasonsMet): string | undefined {
  const parts = listKeyParts(key);
  if (parts === undefined)
    return index.lists.get(key)?.get("season") === "this season only" ? undefined : key;
  if (index.recipes.get(parts.recipe)?.season !== "every season") return undefined;
  const of = index.cohorts.has(parts.of) ? newKeys.get(parts.of) : parts.of;
  return of === undefined ? undefined : listKey(parts.recipe, of);
}

/** Returns which lists without a recipe move on, and which list follows each list of a recipe. */
function listsAfter(
  facts: Facts,
  crossing: SeasonsMet,
): { moved: Set<string>; successors: Map<string, string> } {
  const moved = new Set<string>();
  const successors = new Map<string, string>();
  const there = wantedLists(indexFacts(facts));
  for (const key of wantedLists(crossing.index).keys()) {
    const after = keyAfter(key, crossing);
    if (after === undefined || !there.has(after)) continue;
    if (listKeyParts(key) === undefined) moved.add(key);
    else successors.set(key, after);
  }
  return { moved, successors };
}

function levelUp(level: string): string {
  const number = numberIn(level);
  return number === undefined ? level : String(number + 1);
}
