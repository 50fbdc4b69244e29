import { canonicalAddress } from "../address/domainName";
import { placeKind } from "../facts/subjects";
import { nameOf, type FactIndex, type Person } from "../facts/factIndex";
import { listKeyParts } from "../lists/listKey";
import { fold } from "../text/fold";
import type { Audience, Spot } from "./audience";
import { holds } from "./holds";
import { coachedBy, spotAmong, spotKeys } from "./spots";

/** Why a person belongs on a list. */
export interface Reason {
  as: "student" | "guardian" | "coach" | "lead" | "staff" | "named";
  /** The students by whom a guardian belongs; empty for the others. */
  students: string[];
  /** The class, team or committee by which they belong; empty where it is another thing. */
  cohort: string;
}

/** Whether a person belongs to an audience, and why. Looks only at the person and their ties. */
export function belongs(audience: Audience, person: Person, index: FactIndex): Reason | undefined {
  switch (audience.op) {
    case "union":
      return belongs(audience.left, person, index) ?? belongs(audience.right, person, index);
    case "both": {
      const left = belongs(audience.left, person, index);
      return left === undefined || belongs(audience.right, person, index) === undefined
        ? undefined
        : left;
    }
    case "except":
      return belongs(audience.right, person, index) === undefined
        ? belongs(audience.left, person, index)
        : undefined;
    case "person":
      return isNamed(person, audience) ? { as: "named", students: [], cohort: "" } : undefined;
    case "guardians":
      return asGuardian(audience.of, person, index);
    case "group":
      return audience.who === "students"
        ? asStudent(audience, person, index)
        : asStaff(audience, person, index);
  }
}

type Group = Extract<Audience, { op: "group" }>;

function asGuardian(of: Audience, person: Person, index: FactIndex): Reason | undefined {
  if (person.role !== "guardian") return undefined;
  let cohort = "";
  const students: string[] = [];
  for (const id of person.ties.keys()) {
    const student = index.people.get(id);
    const reason = student === undefined ? undefined : belongs(of, student, index);
    if (reason === undefined) continue;
    if (students.length === 0) cohort = reason.cohort;
    students.push(id);
  }
  return students.length > 0 ? { as: "guardian", students, cohort } : undefined;
}

function asStudent({ spots, where }: Group, person: Person, index: FactIndex): Reason | undefined {
  if (person.role !== "student") return undefined;
  let cohort = "";
  for (const spot of spots) {
    const keys = spotKeys(spot);
    if (keys === undefined) continue;
    const at = spotAmong(keys, person, index);
    if (at === undefined) return undefined;
    if (person.cohorts.has(at)) cohort = at;
  }
  return where === undefined || holds(where, person, index)
    ? { as: "student", students: [], cohort }
    : undefined;
}

function asStaff(
  { who, spots, where }: Group,
  person: Person,
  index: FactIndex,
): Reason | undefined {
  if (person.role !== "staff" || (where !== undefined && !holds(where, person, index)))
    return undefined;
  if (who === "staff") {
    const known = new Set([
      `site:${fold(person.site)}`,
      ...coachedBy(person, index, undefined).flatMap((key) => [
        key,
        `site:${fold(index.cohorts.get(key)?.site ?? "")}`,
      ]),
    ]);
    return spots.every((spot) => spotKeys(spot)?.some((key) => known.has(key)) ?? true)
      ? { as: "staff", students: [], cohort: "" }
      : undefined;
  }
  const cohorts = cohortsAt(spots, index);
  const coached = coachedBy(person, index, cohorts);
  if (who === "coaches")
    return coached[0] === undefined ? undefined : { as: "coach", students: [], cohort: coached[0] };
  const led = coached[0] ?? ledBy(person, index, cohorts)[0];
  return led === undefined ? undefined : { as: "lead", students: [], cohort: led };
}

/** The cohorts at some spots; `undefined` for all there are. A level's cohorts are those with a student of it. */
function cohortsAt(spots: readonly Spot[], index: FactIndex): string[] | undefined {
  let found: string[] | undefined;
  for (const spot of spots) {
    const keys = spotKeys(spot);
    if (keys === undefined) continue;
    const at = keys.flatMap((key) => {
      if (placeKind(key) === "site")
        return [...index.cohorts]
          .filter(([, { site }]) => `site:${fold(site)}` === key)
          .map(([cohort]) => cohort);
      if (placeKind(key) === "level")
        return [...index.enrolled]
          .filter(([, students]) =>
            [...students].some((id) => `level:${fold(index.people.get(id)?.level ?? "")}` === key),
          )
          .map(([cohort]) => cohort);
      return index.cohorts.has(key) ? [key] : [];
    });
    found = found === undefined ? at : found.filter((key) => at.includes(key));
  }
  return found;
}

/** The cohorts of which somebody leads a list by hand. */
function ledBy(person: Person, index: FactIndex, among: readonly string[] | undefined): string[] {
  const found: string[] = [];
  for (const [key, points] of index.lists) {
    const cohort = listKeyParts(key)?.of ?? "";
    if (
      index.cohorts.has(cohort) &&
      (among === undefined || among.includes(cohort)) &&
      (points.get("leads") ?? "").split(" ").includes(person.id)
    )
      found.push(cohort);
  }
  return found;
}

/** Whether a name in an audience, with its hint, means a person. */
export function isNamed(person: Person, { name, hint }: { name: string; hint: string }): boolean {
  if (fold(nameOf(person)) !== fold(name)) return false;
  return (
    hint === "" ||
    person.number.toLowerCase() === canonicalAddress(hint) ||
    person.addresses.has(canonicalAddress(hint)) ||
    person.id === hint
  );
}
