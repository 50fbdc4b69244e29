import { inOrder } from "@amigo/language/inOrder";
import { speechHere } from "@amigo/language/texts";
import type { FactKind } from "../facts/fact";
import type { FactIndex, Person } from "../facts/factIndex";
import { isShared, touches, whenRenewed } from "../facts/indexFacts";

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
export function familiesFound(index: FactIndex, which: WhichFamilies): readonly string[] {
  const ordered = orderOf(index);
  const isAll = Object.values(which).every((narrowed) => narrowed === undefined);
  if (isAll && ordered.all !== undefined) return ordered.all;
  const { places } = ordered;
  const firsts = [...firstsOf(index, which)].sort(
    (one, other) => (places.get(one) ?? 0) - (places.get(other) ?? 0),
  );
  if (isAll) ordered.all = firsts;
  return firsts;
}

function firstsOf(index: FactIndex, { found, only, within }: WhichFamilies): ReadonlySet<string> {
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
  return firsts;
}

function someOf(index: FactIndex, ids: ReadonlySet<string>): Person[] {
  return [...ids].flatMap((id) => index.people.get(id) ?? []);
}

/** What was worked out for an index, by the language whose order it is in. */
interface Ordered {
  places: ReadonlyMap<string, number>;
  /** All families, in order. */
  all?: readonly string[];
}

const ORDERED = new WeakMap<FactIndex, Map<string, Ordered>>();

/** Facts by which the order of students can differ, or whom they make a family with. */
const ORDERING: ReadonlySet<FactKind> = new Set(["student", "guardian", "name", "tie"]);

whenRenewed((below, index, difference) => {
  const known = ORDERED.get(below);
  if (known !== undefined && !touches(difference, ORDERING)) ORDERED.set(index, known);
});

/** The place of each student among all, by name in the language that is spoken here; sorted once for an index that nobody changes. */
function orderOf(index: FactIndex): Ordered {
  const { locale } = speechHere();
  const known = ORDERED.get(index) ?? new Map<string, Ordered>();
  const there = known.get(locale);
  if (there !== undefined) return there;
  const students = [...index.people.values()].filter(({ role }) => role === "student");
  students.sort(
    (one, other) =>
      inOrder(one.family, other.family) ||
      inOrder(one.given, other.given) ||
      (one.id < other.id ? -1 : 1),
  );
  const ordered = { places: new Map(students.map(({ id }, place) => [id, place])) };
  if (isShared(index)) ORDERED.set(index, known.set(locale, ordered));
  return ordered;
}
