import type { FactIndex, Person } from "../facts/indexFacts";
import type { Audience } from "./audience";

/** Why a person belongs on a list: as a student of a cohort, or as guardian of students of it. */
export interface Reason {
  as: "student" | "guardian";
  /** The students by whom a guardian belongs; empty for a student. */
  students: string[];
  cohort: string;
}

/** Whether a person belongs to an audience of one cohort, and why. Looks only at the person and their ties. */
export function belongs(audience: Pick<Audience, "who">, cohort: string, person: Person, index: FactIndex): Reason | undefined {
  if (audience.who === "students") return person.role === "student" && person.cohorts.has(cohort) ? { as: "student", students: [], cohort } : undefined;
  if (person.role !== "guardian") return undefined;
  const students = [...person.ties.keys()].filter((student) => index.people.get(student)?.cohorts.has(cohort) ?? false);
  return students.length > 0 ? { as: "guardian", students, cohort } : undefined;
}

/** The cohorts by which a person could be on any list: their own, and those of the students they are tied to. */
export function cohortsAround(person: Person, index: FactIndex): Set<string> {
  const around = new Set(person.cohorts);
  if (person.role === "guardian") for (const student of person.ties.keys()) for (const cohort of index.people.get(student)?.cohorts ?? []) around.add(cohort);
  return around;
}
