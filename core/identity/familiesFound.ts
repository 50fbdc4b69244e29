import { inOrder } from "@amigo/language/inOrder";
import { speechHere } from "@amigo/language/texts";
import type { FactIndex, Person } from "../facts/factIndex";
import { madeFrom } from "../facts/indexFacts";

/** Whose families are looked for; what is left out means all. */
export interface WhichFamilies {
  /** People by whom a family is found, students or guardians. */
  found?: ReadonlySet<string> | undefined;
  /** Students to whose families it is narrowed. */
  only?: ReadonlySet<string> | undefined;
  /** The people whom the asker sees. */
  within?: ReadonlySet<string> | undefined;
}

/**
 * Returns one student for each family that is found, in the order of their names: of those who share a guardian, the one whose id is
 * least. Guardians without students are no family.
 *
 * @param index stays as it is
 */
export function familiesFound(index: FactIndex, { found, only, within }: WhichFamilies): string[] {
  const isSeen = (id: string): boolean => within === undefined || within.has(id);
  const firsts = new Set<string>();
  const take = (student: Person): void => {
    if (!isSeen(student.id) || only?.has(student.id) === false) return;
    let least: string | undefined;
    for (const guardian of student.ties.keys())
      for (const other of index.people.get(guardian)?.ties.keys() ?? [])
        if (isSeen(other) && (least === undefined || other < least)) least = other;
    firsts.add(least ?? student.id);
  };
  for (const person of found === undefined ? index.people.values() : someOf(index, found)) {
    if (person.role === "student") take(person);
    else if (person.role === "guardian" && found !== undefined)
      for (const id of person.ties.keys()) {
        const student = index.people.get(id);
        if (student !== undefined) take(student);
      }
  }
  const places = placesByName(index);
  return [...firsts].sort((one, other) => (places.get(one) ?? 0) - (places.get(other) ?? 0));
}

function someOf(index: FactIndex, ids: ReadonlySet<string>): Person[] {
  return [...ids].flatMap((id) => index.people.get(id) ?? []);
}

const ORDERED = new WeakMap<FactIndex, Map<string, ReadonlyMap<string, number>>>();

/** The place of each student among all, by name in the language that is spoken here; sorted once for an index that nobody changes. */
function placesByName(index: FactIndex): ReadonlyMap<string, number> {
  const { locale } = speechHere();
  const known = ORDERED.get(index) ?? new Map<string, ReadonlyMap<string, number>>();
  let places = known.get(locale);
  if (places !== undefined) return places;
  // What is nearly in order already is sorted in no time.
  const from = madeFrom(index);
  const below = from?.below === undefined ? undefined : ORDERED.get(from.below)?.get(locale);
  const before = [...(below?.keys() ?? [])].flatMap((id) => index.people.get(id) ?? []);
  const others = [...index.people.values()].filter(({ id }) => below?.has(id) !== true);
  const students = [...before, ...others].filter(({ role }) => role === "student");
  students.sort(
    (one, other) =>
      inOrder(one.family, other.family) ||
      inOrder(one.given, other.given) ||
      (one.id < other.id ? -1 : 1),
  );
  places = new Map(students.map(({ id }, place) => [id, place]));
  if (from !== undefined) ORDERED.set(index, known.set(locale, places));
  return places;
}
