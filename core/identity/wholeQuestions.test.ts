import type { Said } from "@amigo/language/say";
import { describe, expect, test } from "vitest";
import { nameOf } from "../facts/factIndex";
import { derive, row, source } from "../testing/rosterRows";
import type { PersonMark } from "./personLink";
import type { Question } from "./question";
import type { SourceRecords } from "./sourceRecords";

const guardian = (name: string, address?: string) =>
  address === undefined ? { name } : { name, address };

/** How somebody is told apart in an answer: name, number, children, addresses, classes. */
function markText({
  names,
  numbers,
  students,
  addresses,
  places,
  role,
  strict,
}: PersonMark): string {
  const parts = [names, numbers, students, addresses, places].map((part) => part.join("+"));
  return `${role}(${parts.join("; ")}${strict === true ? "; strict" : ""})`;
}

function answerText(answer: Said<Question>["choices"][number]["answer"]): string[] {
  if (answer.does === "settle") {
    const { subject, kind, facts } = answer.settled;
    return [
      `settle ${kind} of ${subject}: ${facts
        .map(({ ref, value }) => [ref, typeof value === "string" ? value : JSON.stringify(value)])
        .map((part) => part.filter((text) => text !== "").join("="))
        .join(", ")}`,
    ];
  }
  return answer.links.map(
    ({ says, left, right }) => `${says}: ${markText(left)} ~ ${markText(right)}`,
  );
}

/** All that a question says, line by line, with people's names instead of their ids. */
function inFull(sources: SourceRecords[]): string[][] {
  const { questions, index } = derive(sources);
  return questions.map((question) =>
    [
      `${question.kind}: ${question.key}`,
      ...(question.subject === "" ? [] : [`of ${question.subject}`]),
      question.about,
      ...question.sides.map(({ title, lines, where }) =>
        [
          `side ${title}`,
          ...lines,
          where?.from === "row"
            ? `${where.source} ${where.reading} ${where.sheet}!${where.row} ${where.meaning} ${where.slot}`
            : "nowhere",
        ].join(" / "),
      ),
      ...question.choices.flatMap(({ id, label, answer }) => [
        `choice ${id}: ${label}`,
        ...answerText(answer),
      ]),
      question.meanwhile,
    ].map((line) =>
      [...index.people.values()].reduce(
        (text, person) => text.replaceAll(person.id, `<${nameOf(person)}>`),
        line,
      ),
    ),
  );
}

const ROSTER = source(
  "roster",
  row(2, "Bram Quist", "CW-1", "Wire Walk", [guardian("Ana Quist", "ana@lettr.example")]),
  row(3, "Tove Skov", "CW-2", "Acro Pairs", [guardian("Otto Skov", "otto@lettr.example")]),
);

describe("a question says all that a person needs, and what each answer does", () => {
  test("which of two students of one name a row is about", () => {
    const two = source(
      "roster",
      ...ROSTER.records.slice(0, 1),
      row(3, "Bram Quist", "CW-2", "Acro Pairs", [
        guardian("Otto Quist", "otto@lettr.example"),
        guardian("Ida Quist", "ida@lettr.example"),
      ]),
    );
    const team = source(
      "team",
      row(
        5,
        "Bram Quist",
        "",
        "",
        [guardian("Rosa Quist", "rosa@lettr.example"), guardian("Leif Holm")],
        {
          teams: ["Night Parade"],
        },
      ),
    );
    expect(inFull([two, team])).toEqual([
      [
        "same student: same student bram quist | night parade | <Bram Quist> <Bram Quist>",
        "Which student is Bram Quist?",
        "side Bram Quist / Night Parade / Rosa Quist, rosa@lettr.example / Leif Holm / team team Sheet!5 student.name 0",
        "side Bram Quist, CW-1 / Wire Walk / ana@lettr.example / roster roster Sheet!2 student.number 0",
        "side Bram Quist, CW-2 / Acro Pairs / otto@lettr.example / ida@lettr.example / roster roster Sheet!3 student.number 0",
        "choice <Bram Quist>: Bram Quist, CW-1",
        "same: student(bram quist; cw 1; ; ; wire walk) ~ student(bram quist; ; ; ; night parade)",
        "choice <Bram Quist>: Bram Quist, CW-2",
        "same: student(bram quist; cw 2; ; ; acro pairs) ~ student(bram quist; ; ; ; night parade)",
        "choice new: Somebody else",
        "other: student(bram quist; cw 1; ; ; wire walk) ~ student(bram quist; ; ; ; night parade)",
        "other: student(bram quist; cw 2; ; ; acro pairs) ~ student(bram quist; ; ; ; night parade)",
        "This row waits and changes nothing.",
      ],
    ]);
  });

  test("whether two names with one number are one student, where one row has no class", () => {
    const club = source(
      "club",
      row(9, "Otto Brandt", "CW-1", "", []),
      row(10, "Una Vale", "CW-8", "Silks", []),
    );
    expect(inFull([ROSTER, club])).toEqual([
      [
        "same student: same number cw 1 brandt otto |  | <Bram Quist>",
        "Number CW-1 belongs to two names: Bram Quist and Otto Brandt. Are they one student?",
        "side Otto Brandt / no class / club club Sheet!9 student.name 0",
        "side Bram Quist, CW-1 / Wire Walk / ana@lettr.example / roster roster Sheet!2 student.number 0",
        "choice <Bram Quist>: One student",
        "same: student(bram quist; cw 1; ; ; wire walk; strict) ~ student(brandt otto; cw 1; ; ; ; strict)",
        "choice new: Somebody else",
        "other: student(bram quist; cw 1; ; ; wire walk; strict) ~ student(brandt otto; cw 1; ; ; ; strict)",
        "This row waits and changes nothing.",
      ],
    ]);
  });

  test("once, however many rows ask the same", () => {
    const again = (at: number) => row(at, "Tova Skov", "", "Silks", []);
    expect(inFull([ROSTER, source("team", again(4), again(5))])).toHaveLength(1);
  });

  test("whether a student of whom only a form tells is here", () => {
    const form = source(
      "form",
      row(7, "Odile Penhaligon", "", "Silks", [guardian("Oona Penhaligon", "oona@lettr.example")], {
        answered: "2026-09-01",
      }),
    );
    expect(inFull([ROSTER, form])).toEqual([
      [
        "student here: student here odile penhaligon | silks",
        "Odile Penhaligon is in no roster, but somebody answered a form for them. Is Odile Penhaligon a student here?",
        "side Odile Penhaligon / Silks / Oona Penhaligon, oona@lettr.example / answered 2026-09-01 / form form Sheet!7 student.name 0",
        "choice here: A student here",
        "here: student(odile penhaligon; ; ; ; silks) ~ student(odile penhaligon; ; ; ; silks)",
        "choice gone: Not a student here",
        "gone: student(odile penhaligon; ; ; ; silks) ~ student(odile penhaligon; ; ; ; silks)",
        "The answer waits and changes nothing.",
      ],
    ]);
  });

  test("whether two guardians are one person", () => {
    const roster = source(
      "roster",
      row(2, "Ida Brandt", "CW-1", "Wire Walk", [guardian("Halim Brandt", "halim@lettr.example")]),
      row(3, "Una Brandt", "CW-3", "Silks", [guardian("Halim Brandt", "halim@lettr.example")]),
      row(4, "Bram Brandt", "CW-2", "Acro Pairs", [guardian("Halim Brandt")]),
    );
    expect(inFull([roster])).toEqual([
      [
        "same guardian: same guardian brandt halim of <Una Brandt> <Ida Brandt> | brandt halim of <Bram Brandt>",
        "Is Halim Brandt, guardian of Ida Brandt and Una Brandt, the same person as Halim Brandt, guardian of Bram Brandt?",
        "side Halim Brandt / halim@lettr.example / guardian of Ida Brandt and Una Brandt / on 2 rows / roster roster Sheet!2 guardian.name 1",
        "side Halim Brandt / no address / guardian of Bram Brandt / roster roster Sheet!4 guardian.name 1",
        "choice same: One person",
        "same: guardian(brandt halim; ; <Una Brandt>+<Ida Brandt>; halim@lettr.example; ) ~ guardian(brandt halim; ; <Bram Brandt>; ; )",
        "choice other: Two people",
        "other: guardian(brandt halim; ; <Una Brandt>+<Ida Brandt>; halim@lettr.example; ) ~ guardian(brandt halim; ; <Bram Brandt>; ; )",
        "Amigo treats them as two people.",
      ],
    ]);
  });

  test("which address, level, site or class is right where two sources differ", () => {
    const ida = (name: string, level: string, site: string, place: string, address: string) =>
      source(
        name,
        row(2, "Ida Brandt", "CW-1", place, [guardian("Halim Brandt", address)], { level, site }),
      );
    expect(
      inFull([
        ida("office", "3", "Quay", "Wire Walk", "old@lettr.example"),
        ida("coach", "4", "Mill", "Acro Pairs", "new@lettr.example"),
      ]),
    ).toEqual([
      [
        "which value: which address <Halim Brandt> new@lettr.example old@lettr.example",
        "of <Halim Brandt>",
        "Two sources give different addresses for Halim Brandt. Which one is right?",
        "side old@lettr.example / for Ida Brandt / office office Sheet!2 guardian.address 1",
        "side new@lettr.example / for Ida Brandt / coach coach Sheet!2 guardian.address 1",
        "choice old@lettr.example: old@lettr.example",
        "settle address of <Halim Brandt>: old@lettr.example",
        "choice new@lettr.example: new@lettr.example",
        "settle address of <Halim Brandt>: new@lettr.example",
        "choice all: Both",
        "settle address of <Halim Brandt>: old@lettr.example, new@lettr.example",
        "Mail goes to old@lettr.example, which the older source has.",
      ],
      [
        "which value: which level <Ida Brandt> 3 | 4",
        "of <Ida Brandt>",
        "Two sources give a different level for Ida Brandt. Which one is right?",
        "side 3 / office office Sheet!2 student.level 0",
        "side 4 / coach coach Sheet!2 student.level 0",
        "choice 3: 3",
        "settle level of <Ida Brandt>: 3",
        "choice 4: 4",
        "settle level of <Ida Brandt>: 4",
        '"3" counts, which the older source has.',
      ],
      [
        "which value: which site <Ida Brandt> Mill | Quay",
        "of <Ida Brandt>",
        "Two sources give a different site for Ida Brandt. Which one is right?",
        "side Quay / office office Sheet!2 site 0",
        "side Mill / coach coach Sheet!2 site 0",
        "choice Quay: Quay",
        "settle site of <Ida Brandt>: Quay",
        "choice Mill: Mill",
        "settle site of <Ida Brandt>: Mill",
        '"Quay" counts, which the older source has.',
      ],
      [
        "which value: which classes <Ida Brandt> wire walk | acro pairs",
        "of <Ida Brandt>",
        "Two sources give different classes for Ida Brandt. Which is right?",
        "side Wire Walk / office office Sheet!2 classes 0",
        "side Acro Pairs / coach coach Sheet!2 classes 0",
        "choice first: Wire Walk",
        "settle enrolment of <Ida Brandt>: class:wire walk",
        "choice other: Acro Pairs",
        "settle enrolment of <Ida Brandt>: class:acro pairs",
        "choice both: Both",
        "settle enrolment of <Ida Brandt>: class:wire walk, class:acro pairs",
        "Wire Walk counts, as the older source says.",
      ],
    ]);
  });

  test("which of the addresses is right that one guardian gave for different children", () => {
    const roster = source(
      "roster",
      row(2, "Ida Brandt", "CW-1", "Wire Walk", [guardian("Halim Brandt", "one@lettr.example")]),
      row(3, "Una Brandt", "CW-2", "Silks", [guardian("Halim Brandt", "one@lettr.example")]),
    );
    const form = source(
      "form",
      row(4, "Ida Brandt", "", "", [guardian("Halim Brandt", "one@lettr.example")], {
        answered: "2026-09-01T10:00:00Z",
        answeredAs: "2026-09-01T12:00",
      }),
      row(5, "Una Brandt", "", "", [guardian("Halim Brandt", "two@lettr.example")], {
        answered: "2026-09-02T10:00:00Z",
      }),
    );
    expect(inFull([roster, form])).toEqual([
      [
        "which value: which address <Halim Brandt> one@lettr.example two@lettr.example",
        "of <Halim Brandt>",
        "Halim Brandt gave different addresses for different children. Which one is right?",
        "side one@lettr.example / for Ida Brandt / answered 1 Sept 2026, 12:00 / form form Sheet!4 guardian.address 1",
        "side two@lettr.example / for Una Brandt / answered 2026-09-02T10:00:00Z / form form Sheet!5 guardian.address 1",
        "choice one@lettr.example: one@lettr.example",
        "settle address of <Halim Brandt>: one@lettr.example",
        "choice two@lettr.example: two@lettr.example",
        "settle address of <Halim Brandt>: two@lettr.example",
        "choice all: Both",
        "settle address of <Halim Brandt>: one@lettr.example, two@lettr.example",
        "Mail goes to one@lettr.example and two@lettr.example.",
      ],
    ]);
  });
});
