import { each, message, type Message } from "@amigo/language/message";
import { nameOf, type FactIndex } from "../facts/factIndex";
import type { Reason } from "./belongs";

/** A reason in words: `guardian of Ida Brandt`, `student of Trapeze Two`. */
export function becauseOf(reason: Reason, index: FactIndex): Message {
  if (reason.as === "named") return message("audience.named");
  if (reason.as === "guardian")
    return message("audience.guardianOf", {
      students: each(reason.students.map((id) => nameOf(index.people.get(id)))),
    });
  return message("audience.roleOf", {
    role: reason.as,
    cohort: index.cohorts.get(reason.cohort)?.name,
  });
}
