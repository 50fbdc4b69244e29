import { nameOf, type FactIndex } from "../facts/indexFacts";
import { joined } from "../text/sentence";
import type { Reason } from "./belongs";

const ROLES: Record<Exclude<Reason["as"], "guardian" | "named">, string> = {
  student: "student",
  coach: "coach",
  lead: "lead",
  staff: "staff",
};

/** A reason in words: `guardian of Ida Brandt`, `student of Trapeze Two`. */
export function becauseOf(reason: Reason, index: FactIndex): string {
  if (reason.as === "named") return "named in the list's audience";
  if (reason.as === "guardian")
    return `guardian of ${joined(reason.students.map((id) => nameOf(index.people.get(id))))}`;
  const cohort = index.cohorts.get(reason.cohort)?.name;
  return cohort === undefined ? ROLES[reason.as] : `${ROLES[reason.as]} of ${cohort}`;
}
