import { type Message, message } from "@amigo/language/message";
import type { PersonMark, PersonLink } from "../personLink";
import { guardiansOf, whereOf, type RowOf, markOfRow, classesIn } from "./rowOf";
import { type Facts, keyOf } from "../../facts/fact";
import type { FactIndex } from "../../facts/factIndex";
import { wholeName } from "../../sheet/splitName";
import { fold } from "../../text/fold";
import type { KnownStudent } from "../knownStudents";
import type { NamedStudents } from "../nameStudents";
import type { Question, QuestionSide } from "../question";
import { nameKey } from "../sameName";

type Asked = NamedStudents["asked"][number];

/** Whose row is this? One question for each row without a number that could be several students', or nearly one's. */
export function askAboutStudents(
  asked: NamedStudents["asked"],
  rows: readonly RowOf[],
  facts: Facts,
  index: () => FactIndex,
): Question[] {
  const places = new Map(rows.map((row) => [row.record, row]));
  const questions = new Map<string, Question>();
  for (const one of asked) {
    const question = questionAbout(one, places.get(one.record), facts, index());
    if (!questions.has(question.key)) questions.set(question.key, question);
  }
  return [...questions.values()];
}

function questionAbout(
  asked: Asked,
  row: RowOf | undefined,
  facts: Facts,
  index: FactIndex,
): Question {
  const { record, candidates, why } = asked;
  const mark = markOfAsked(asked);
  const name = wholeName(record.name);
  const link = (student: KnownStudent, says: PersonLink["says"]): PersonLink => ({
    says,
    left: why === "number" ? { ...markOfStudent(student), strict: true } : markOfStudent(student),
    right: mark,
  });
  return {
    key: keyOfQuestion(asked, mark),
    kind: "same student",
    subject: "",
    about: sentenceOf(asked),
    sides: [
      {
        title: name,
        lines: [classesIn([...record.classes, ...record.teams]), ...guardiansOf(record)],
        where: whereOf(row),
      },
      ...candidates.map((student): QuestionSide => ({
        title: titleOf(student, index),
        lines: [classesIn(placesOf(student, index)), ...student.addresses].slice(0, 4),
        where: facts.get(keyOf(student.id, "student"))?.origin,
      })),
    ],
    choices: [
      ...candidates.map((student) => ({
        id: student.id,
        label: candidates.length === 1 ? message("identity.oneStudent") : titleOf(student, index),
        answer: { does: "link" as const, links: [link(student, "same")] },
      })),
      {
        id: "new",
        label: message("identity.somebodyElse"),
        answer: { does: "link", links: candidates.map((student) => link(student, "other")) },
      },
    ],
    meanwhile: message("identity.rowWaits"),
  };
}

/** Returns by what the row of a question is known again. */
function markOfAsked({ record, why }: Asked): PersonMark {
  return why === "number"
    ? { ...markOfRow(record), numbers: [fold(record.number)], strict: true }
    : markOfRow(record);
}

/** Returns the key by which an answer is remembered: the row's name and classes, and whom it could be. */
function keyOfQuestion({ record, candidates, why }: Asked, { names, places }: PersonMark): string {
  const what = why === "number" ? `same number ${fold(record.number)}` : "same student";
  const whom = candidates.map(({ id }) => id).sort();
  return `${what} ${names[0] ?? ""} | ${places.join(" ")} | ${whom.join(" ")}`;
}

function sentenceOf({ record, candidates, why }: Asked): Message {
  const name = wholeName(record.name);
  const known = wholeName(candidates[0]?.name ?? record.name);
  if (why === "number")
    return message("identity.numberOfTwo", { number: record.number, known, name });
  return candidates.length === 1
    ? message("identity.isTheStudent", { name, known })
    : message("identity.whichStudent", { name });
}

/** Returns a student's name with the number as the sheets write it. */
function titleOf({ id, name, number }: KnownStudent, { people }: FactIndex): string {
  return number === ""
    ? wholeName(name)
    : `${wholeName(name)}, ${people.get(id)?.number ?? number.toUpperCase()}`;
}

/** Returns the classes and teams of a student as the sheets write them, and others as they were understood. */
function placesOf({ id, places }: KnownStudent, { people, cohorts }: FactIndex): string[] {
  const written = [...(people.get(id)?.cohorts ?? [])].flatMap(
    (key) => cohorts.get(key)?.name ?? [],
  );
  const known = new Set(written.map(fold));
  return [...written, ...[...places].filter((place) => !known.has(place))];
}

function markOfStudent(student: KnownStudent): PersonMark {
  return {
    role: "student",
    names: [nameKey(student.name)],
    numbers: student.number === "" ? [] : [student.number],
    students: [],
    addresses: [],
    places: [...student.places],
  };
}
