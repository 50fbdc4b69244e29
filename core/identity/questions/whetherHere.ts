import { guardiansOf, whereOf, type RowOf, markOfRow, classesIn } from "./rowOf";
import { localTime, message } from "@amigo/language/message";
import { wholeName } from "../../sheet/splitName";
import { fold } from "../../text/fold";
import type { PersonLink } from "../personLink";
import type { Question, QuestionSide } from "../question";
import { nameKey } from "../sameName";
import type { RowRecord } from "../../sheet/rowRecord";
import { push } from "./push";

/** Is this a student here? Asked once for each student of whom only answers to a form tell. */
export function askWhetherHere(records: readonly RowRecord[], rows: readonly RowOf[]): Question[] {
  const places = new Map(rows.map((row) => [row.record, row]));
  const byStudent = new Map<string, RowRecord[]>();
  for (const record of records)
    push(byStudent, `${nameKey(record.name)} | ${record.classes.map(fold).join(" ")}`, record);
  return [...byStudent].flatMap(([key, student]): Question[] => {
    const [first] = student;
    if (first === undefined) return [];
    const mark = markOfRow(first);
    const name = wholeName(first.name);
    const say = (says: "here" | "gone"): PersonLink => ({ says, left: mark, right: mark });
    return [
      {
        key: `student here ${key}`,
        kind: "student here",
        subject: "",
        about: message("identity.isAStudentHere", { name }),
        sides: student.map((record): QuestionSide => ({
          title: name,
          lines: [
            classesIn(record.classes),
            ...guardiansOf(record),
            message("identity.answered", {
              when: localTime(record.answeredAs ?? record.answered),
            }),
          ],
          where: whereOf(places.get(record)),
        })),
        choices: [
          {
            id: "here",
            label: message("identity.aStudentHere"),
            answer: { does: "link", links: [say("here")] },
          },
          {
            id: "gone",
            label: message("identity.notAStudentHere"),
            answer: { does: "link", links: [say("gone")] },
          },
        ],
        meanwhile: message("identity.answerWaits"),
      },
    ];
  });
}
