import type { Person } from "../facts/factIndex";
import { fold } from "../text/fold";
import type { Cluster, Mention } from "./clusterGuardians";
import { nameKey } from "./sameName";
import type { RowRecord } from "../sheet/rowRecord";

/** What a person is known again by in any later reading, however the rows have moved. */
export interface PersonMark {
  role: "student" | "guardian";
  /** Name keys. */
  names: string[];
  /** Folded student numbers. */
  numbers: string[];
  /** Ids of the students that a guardian is tied to. */
  students: string[];
  addresses: string[];
  /** Folded names of classes and teams. */
  places: string[];
  /** Where one number stands with two names: the number alone doesn't tell, the name has to fit as well. */
  strict?: boolean;
}

/**
 * Somebody's word that two are one person, or that they are two; or that somebody of whom only a form tells is a
 * student here, or is not (then both marks are the same). Later words come before earlier ones.
 */
export interface PersonLink {
  says: "same" | "other" | "here" | "gone";
  left: PersonMark;
  right: PersonMark;
}

/** The mark of a person as the facts have them. */
export function markOf(person: Person): PersonMark {
  return {
    role: person.role === "student" ? "student" : "guardian",
    names: [nameKey(person)],
    numbers: person.number === "" ? [] : [fold(person.number)],
    students: person.role === "guardian" ? [...person.ties.keys()] : [],
    addresses: [...person.addresses],
    places: [...person.cohorts].map((key) => key.slice(key.indexOf(":") + 1)),
  };
}

/** How well a guardian's mention fits a mark: 0 not at all, 1 by student, 2 by address, 3 by both. A mark without either goes by the name. */
export function fitsGuardian(
  mention: Pick<Mention, "name" | "student" | "address">,
  mark: PersonMark,
): number {
  if (mark.role !== "guardian" || !mark.names.includes(nameKey(mention.name))) return 0;
  const byAddress =
    mention.address !== undefined && mark.addresses.includes(mention.address) ? 2 : 0;
  return byAddress + (mark.students.includes(mention.student) ? 1 : 0);
}

/** Whether a row is about the student of a mark: by number, or by name and class where it has no number. */
export function fitsStudent(
  record: Pick<RowRecord, "number" | "name" | "classes" | "teams">,
  mark: PersonMark,
): boolean {
  if (mark.role !== "student") return false;
  if (record.number !== "" && (mark.numbers.length > 0 || mark.names.length === 0))
    return (
      mark.numbers.includes(fold(record.number)) &&
      (mark.strict !== true || mark.names.includes(nameKey(record.name)))
    );
  if (!mark.names.includes(nameKey(record.name))) return false;
  const places = [...record.classes, ...record.teams].map(fold);
  return (
    mark.places.length === 0 ||
    places.length === 0 ||
    places.some((place) => mark.places.includes(place))
  );
}

/** The mark of somebody who was joined with others before: with all names by which they are written. */
export function markWithNames(person: Person, links: readonly PersonLink[]): PersonMark {
  const mark = markOf(person);
  const names = new Set(mark.names);
  const touches = (other: PersonMark): boolean =>
    other.names.some((name) => names.has(name)) &&
    (other.students.some((id) => mark.students.includes(id)) ||
      other.addresses.some((address) => mark.addresses.includes(address)) ||
      other.numbers.some((number) => mark.numbers.includes(number)));
  for (const { says, left, right } of links)
    if (says === "same" && (touches(left) || touches(right)))
      for (const name of [...left.names, ...right.names]) names.add(name);
  return { ...mark, names: [...names] };
}

/** Joins and parts clusters of guardians as people have said, in the order in which they said it. */
export function followLinks(clusters: readonly Cluster[], links: readonly PersonLink[]): Cluster[] {
  let all = [...clusters];
  for (const { says, left, right } of links) {
    if (left.role !== "guardian" || says === "here" || says === "gone") continue;
    const fits = (cluster: Cluster, mark: PersonMark): boolean =>
      cluster.some((mention) => fitsGuardian(mention, mark) > 0);
    if (says === "same") {
      const [first, ...rest] = all.filter((cluster) => fits(cluster, left) || fits(cluster, right));
      if (first === undefined) continue;
      first.push(...rest.flat());
      all = all.filter((cluster) => !rest.includes(cluster));
    } else {
      for (const cluster of [...all]) {
        const others = cluster.filter(
          (mention) => fitsGuardian(mention, right) > fitsGuardian(mention, left),
        );
        if (others.length === 0 || others.length === cluster.length) continue;
        all[all.indexOf(cluster)] = cluster.filter((mention) => !others.includes(mention));
        all.push(others);
      }
    }
  }
  return all;
}

/** Whether somebody has said already what two marks are to each other. */
export function isSettled(
  links: readonly PersonLink[],
  fitsOne: (mark: PersonMark) => boolean,
  fitsOther: (mark: PersonMark) => boolean,
): boolean {
  return links.some(
    ({ left, right }) => (fitsOne(left) && fitsOther(right)) || (fitsOne(right) && fitsOther(left)),
  );
}
