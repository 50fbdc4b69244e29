import type { Facts } from "../facts/fact";
import { factDifference } from "../facts/factDifference";
import { indexFrom, sharedIndex } from "../facts/indexFacts";
import { CAUSE_KINDS, type Cause } from "./cause";
import { listCauses } from "./causes/listCauses";
import { bySubject } from "./causes/bySubject";
import { tiesByStudent, tieCauses } from "./causes/tieCauses";
import { guardianCauses } from "./causes/personCauses";
import { staffCauses } from "./causes/staffCauses";
import { studentCauses } from "./causes/studentCauses";
import { cohortCauses } from "./causes/cohortCauses";
import { keptCauses } from "./causes/keptCauses";

const ALPHABET = new Intl.Collator("en");

/**
 * Compares the facts as they stood with the facts as the sources tell them now, and gathers every
 * difference under the cause that a person would name. Equal facts give no cause, whatever the order of rows.
 *
 * @param difference what differs between the two, where it's known already
 */
export function findCauses(
  before: Facts,
  after: Facts,
  difference = factDifference(before, after),
): Cause[] {
  const was = sharedIndex(before);
  const is = indexFrom(before, after, difference);
  const added = bySubject(difference.added);
  const removed = bySubject(difference.removed);
  let causes: Cause[] = [];
  const subjects = [...new Set([...added.keys(), ...removed.keys()])].sort();
  const tiesOf = tiesByStudent(added, removed);

  for (const subject of subjects) {
    const adds = added.get(subject) ?? [];
    const removes = removed.get(subject) ?? [];
    const person = is.people.get(subject) ?? was.people.get(subject);
    if (person === undefined)
      causes.push(
        ...cohortCauses(subject, adds, removes, was, is),
        ...keptCauses(adds, removes),
        ...listCauses(subject, adds, removes, was, is),
      );
    else if (person.role === "staff") causes.push(...staffCauses(person, adds, removes, was, is));
    else if (person.role === "student")
      causes.push(
        ...studentCauses(person, { adds, removes, ties: tiesOf.get(subject), was, is, after }),
      );
    else causes.push(...guardianCauses(person, adds, removes, was, is));
  }
  for (const [student, ties] of tiesOf) {
    if (was.people.has(student) && is.people.has(student))
      causes.push(...tieCauses(student, ties, was, is, after, before));
  }
  causes = causes.map(asCorrected);
  const order = new Map(CAUSE_KINDS.map((kind, index) => [kind, index]));
  return causes.sort(
    (a, b) =>
      (order.get(a.kind) ?? 0) - (order.get(b.kind) ?? 0) ||
      ALPHABET.compare(a.group, b.group) ||
      ALPHABET.compare(plainTitle(a), plainTitle(b)) ||
      (a.key < b.key ? -1 : 1),
  );
}

/** The name that a cause is about; House rules have none. */
function plainTitle({ title }: Cause): string {
  return typeof title === "string" ? title : "";
}

/** A change that comes from a correction, or from somebody's word, is told as one. */
function asCorrected(cause: Cause): Cause {
  const changeable =
    cause.kind === "moved" ||
    cause.kind === "address" ||
    cause.kind === "reachable" ||
    cause.kind === "unreachable" ||
    cause.kind === "name" ||
    cause.kind === "detail";
  const byHand =
    cause.adds.length > 0 &&
    cause.adds.every(
      ({ origin }) =>
        origin.from === "hand" || (origin.from === "row" && origin.corrected !== undefined),
    );
  return changeable && byHand ? { ...cause, kind: "corrected" } : cause;
}
