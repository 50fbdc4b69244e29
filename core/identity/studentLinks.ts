import { fitsStudent, type PersonLink, type PersonMark } from "./personLink";
import { nameKey } from "./sameName";
import type { RowRecord } from "../sheet/rowRecord";
import { type KnownStudent, type Students } from "./knownStudents";

export function isSaidOther(
  record: RowRecord,
  student: KnownStudent,
  links: readonly PersonLink[],
): boolean {
  return links.some(
    ({ says, left, right }) =>
      says === "other" &&
      ((fitsStudent(record, left) && isOf(student, right)) ||
        (fitsStudent(record, right) && isOf(student, left))),
  );
}

function isOf(student: KnownStudent, mark: PersonMark): boolean {
  return student.number !== ""
    ? mark.numbers.includes(student.number)
    : mark.names.includes(nameKey(student.name));
}

/** The student whom somebody has said a row to be. */
export function linkedTo(
  record: RowRecord,
  links: readonly PersonLink[],
  known: Students,
): string | undefined {
  for (const { says, left, right } of [...links].reverse()) {
    if (says !== "same") continue;
    const other = fitsStudent(record, left) ? right : fitsStudent(record, right) ? left : undefined;
    if (other === undefined) continue;
    const [number] = other.numbers;
    if (number !== undefined) return known.numbered(number);
    const named = other.names.flatMap((name) => known.called(name));
    const only =
      named.find(({ places }) => other.places.some((place) => places.has(place))) ?? named[0];
    if (only !== undefined) return only.id;
  }
  return undefined;
}

/** Two numbers that somebody has said to be one student go by the first. */
export function followStudentLinks(
  ids: Map<RowRecord, string>,
  links: readonly PersonLink[],
): Map<RowRecord, string> {
  for (const { says, left, right } of links) {
    if (says !== "same" || left.numbers.length === 0 || right.numbers.length === 0) continue;
    const target = [...ids].find(([record]) => fitsStudent(record, left))?.[1];
    if (target === undefined) continue;
    for (const record of ids.keys()) if (fitsStudent(record, right)) ids.set(record, target);
  }
  return ids;
}
