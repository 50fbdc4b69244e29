import { placeKind } from "../facts/subjects";
import { nameOf, type FactIndex, type Person } from "../facts/factIndex";
import { fold } from "../text/fold";
import type { Audience } from "./audience";
import { spotKeys, spotsOfStudent } from "./spots";

const EVERY_STUDENT = "every student";
const EVERY_STAFF = "every staff";

/**
 * By what an audience is found without looking at everybody: nobody belongs to it who has none of its anchors. The
 * anchors of a person are `anchorsOf`.
 */
export function anchors(audience: Audience): string[] {
  switch (audience.op) {
    case "person":
      return [`name:${fold(audience.name)}`];
    case "guardians":
      return anchors(audience.of);
    case "union":
      return [...new Set([...anchors(audience.left), ...anchors(audience.right)])];
    case "except":
      return anchors(audience.left);
    case "both": {
      const [left, right] = [anchors(audience.left), anchors(audience.right)];
      return breadth(left) <= breadth(right) ? left : right;
    }
    case "group": {
      if (audience.who !== "students") return [EVERY_STAFF];
      const choices = audience.spots.flatMap((spot) => {
        const keys = spotKeys(spot);
        return keys === undefined ? [] : [keys];
      });
      return [...(choices.sort((a, b) => breadth(a) - breadth(b))[0] ?? [EVERY_STUDENT])];
    }
  }
}

/**
 * The anchors by which a person can be found.
 *
 * @param withNames whether any audience names people; where none does, names are not looked at
 */
export function anchorsOf(person: Person, index: FactIndex, withNames = true): Set<string> {
  const known = new Set<string>();
  if (withNames) known.add(`name:${fold(nameOf(person))}`);
  if (person.role === "staff") known.add(EVERY_STAFF);
  if (person.role === "student") addStudent(person, index, known);
  if (person.role === "guardian") {
    for (const id of person.ties.keys()) {
      const student = index.people.get(id);
      if (student === undefined) continue;
      if (withNames) known.add(`name:${fold(nameOf(student))}`);
      addStudent(student, index, known);
    }
  }
  return known;
}

function addStudent(person: Person, index: FactIndex, known: Set<string>): void {
  known.add(EVERY_STUDENT);
  for (const key of spotsOfStudent(person, index)) known.add(key);
}

/** About how many people a choice of anchors brings: names few, classes some, levels and sites many. */
function breadth(keys: readonly string[]): number {
  return keys.reduce(
    (sum, key) =>
      sum +
      (key === EVERY_STUDENT
        ? 1000
        : placeKind(key) === "site" && keys.length === 1
          ? 100
          : placeKind(key) === "level"
            ? 50
            : key === EVERY_STAFF
              ? 20
              : key.startsWith("name:")
                ? 1
                : 5),
    0,
  );
}

/** The people who have one of an audience's anchors: the only ones who can belong to it. */
export function candidates(audience: Audience, index: FactIndex): Iterable<Person> {
  const wanted = withoutStrangeSites(anchors(audience), index);
  if (wanted.every((key) => /^(class|team|committee):/.test(key))) return around(wanted, index);
  if (wanted.every((key) => key === EVERY_STAFF))
    return [...index.staff].flatMap((id) => index.people.get(id) ?? []);
  return index.people.values();
}

/** A bare name can be a site's, too; where a class has it and no site does, the class alone is meant. */
function withoutStrangeSites(wanted: readonly string[], index: FactIndex): string[] {
  const hasSites = wanted.some((key) => placeKind(key) === "site");
  if (!hasSites || !wanted.some((key) => index.cohorts.has(key))) return [...wanted];
  const sites = new Set([...index.cohorts.values()].map(({ site }) => `site:${fold(site)}`));
  return wanted.filter((key) => placeKind(key) !== "site" || sites.has(key));
}

function around(cohorts: readonly string[], index: FactIndex): Set<Person> {
  const found = new Set<Person>();
  for (const cohort of cohorts) {
    for (const id of index.enrolled.get(cohort) ?? []) {
      const student = index.people.get(id);
      if (student === undefined) continue;
      found.add(student);
      for (const other of student.ties.keys()) {
        const guardian = index.people.get(other);
        if (guardian !== undefined) found.add(guardian);
      }
    }
  }
  return found;
}
