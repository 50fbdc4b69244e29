import { type Person, type FactIndex, nameOf } from "@amigo/core/facts/factIndex";
import { each } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { t } from "../texts/t";

/** What somebody is, in a few words: a student's classes, a guardian's children. */
export function detailOf(person: Person, index: FactIndex): string {
  if (person.role === "staff") return t("privateLists.staff");
  if (person.role === "guardian")
    return t("shared.guardianOf", {
      students: each([...person.ties.keys()].map((id) => nameOf(index.people.get(id)))),
    });
  const classes = [...person.cohorts].map((key) => index.cohorts.get(key)?.name ?? "");
  return t("privateLists.studentOf", { classes: say(each(classes)) || t("shared.noClass") });
}
