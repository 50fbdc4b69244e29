import { cohortKey, factKey, type Fact, type Facts, type Origin } from "../facts/fact";
import { indexFacts } from "../facts/indexFacts";
import { numberIn } from "../audience/holds";
import { fold } from "../text/fold";
import { listKey, listKeyParts } from "./listKey";
import { wantedLists } from "./wantedLists";

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
export function proposeSeason(stand: Facts, label: string): SeasonPlanWanted {
  return {
    label: nextLabel(label),
    students: "one level up",
    cohorts: [...indexFacts(stand).cohorts]
      .map(([key, { name, kind }]) => ({ key, name, students: kind === "class" ? key : "" }))
      .sort((a, b) => (a.key < b.key ? -1 : 1)),
  };
}

/**
 * Takes from the facts of one season those with which the next begins: people with their ties and addresses, the staff,
 * recipes and short forms, classes as they are wanted, lists without a recipe that go on, and what was set by hand of
 * lists that have a successor. Names are made anew.
 *
 * @param today a calendar date: what is kept on or off until before it stays behind
 */
export function nextSeason(stand: Facts, wanted: SeasonPlanWanted, today: string): NextSeason {
  const index = indexFacts(stand);
  const carried: Origin = { from: "rule", rule: "carried over" };
  const facts = new Map<string, Fact>();
  const put = (fact: Fact): void => {
    facts.set(factKey(fact), fact);
  };
  const newKeys = new Map<string, string>();
  for (const { key, name } of wanted.cohorts) {
    const value = index.cohorts.get(key);
    if (value === undefined || name === null) continue;
    newKeys.set(key, cohortKey(value.kind, fold(name)));
    put({
      subject: newKeys.get(key) ?? key,
      kind: "cohort",
      ref: "",
      value: { ...value, name },
      origin: carried,
    });
  }
  const targets = new Map(
    wanted.cohorts.map(({ key, students }) => [key, newKeys.get(students) ?? ""]),
  );
  const goesOn = (key: string): string | undefined => {
    const parts = listKeyParts(key);
    if (parts === undefined)
      return index.lists.get(key)?.get("season") === "this season only" ? undefined : key;
    if (index.recipes.get(parts.recipe)?.season !== "every season") return undefined;
    const of = index.cohorts.has(parts.of) ? newKeys.get(parts.of) : parts.of;
    return of === undefined ? undefined : listKey(parts.recipe, of);
  };
  for (const fact of stand.values()) {
    switch (fact.kind) {
      case "cohort":
        break;
      case "enrolment": {
        const target = targets.get(fact.ref) ?? "";
        if (
          target !== "" &&
          !(wanted.students === "left for the roster" && target.startsWith("class:"))
        )
          put({ ...fact, ref: target, origin: carried });
        break;
      }
      case "level":
        put(
          wanted.students === "one level up"
            ? { ...fact, value: levelUp(fact.value), origin: carried }
            : fact,
        );
        break;
      case "recipe":
        if (fact.value.season === "every season") put(fact);
        break;
      case "list":
      case "alias": {
        const key = goesOn(fact.subject);
        const isSingle = listKeyParts(fact.subject) === undefined;
        if (key !== undefined && (isSingle || (fact.kind === "list" && fact.ref !== "name")))
          put({ ...fact, subject: key });
        break;
      }
      case "exemption": {
        const key = goesOn(fact.subject);
        if (key !== undefined && (fact.value.until === "" || fact.value.until >= today))
          put({ ...fact, subject: key });
        break;
      }
      case "kept": {
        const key = goesOn(fact.subject);
        if (key !== undefined && (fact.value.lastDay === "" || fact.value.lastDay >= today))
          put({ ...fact, subject: key });
        break;
      }
      default:
        put(fact);
    }
  }
  const moved = new Set<string>();
  const successors = new Map<string, string>();
  const wantedNow = wantedLists(indexFacts(facts));
  for (const key of wantedLists(index).keys()) {
    const after = goesOn(key);
    if (after === undefined || !wantedNow.has(after)) continue;
    if (listKeyParts(key) === undefined) moved.add(key);
    else successors.set(key, after);
  }
  const people = [...indexFacts(facts).people.values()].filter(({ role }) => role === "student");
  return {
    facts,
    moved,
    successors,
    students: people.length,
    placed: people.filter(({ cohorts }) => cohorts.size > 0).length,
  };
}

function levelUp(level: string): string {
  const number = numberIn(level);
  return number === undefined ? level : String(number + 1);
}
