import { describe, expect, test } from "vitest";
import type { Facts } from "../facts/fact";
import type { RowRecord } from "../sheet/rowRecord";
import { derive, row, source } from "../testing/rosterRows";

const at = (address: string) => [{ name: "", address }];

/**
 * Says whose a row without a number is: the number of a student of the roster, `new`, or `asked` with the numbers of those who
 * could be meant.
 */
function whose(roster: readonly RowRecord[], asked: RowRecord, stand: Facts = new Map()): string {
  const { questions, index } = derive(
    [source("roster", ...roster), source("team", { ...asked, teams: ["Night Parade"] })],
    {},
    stand,
  );
  const own = questions.filter(({ kind }) => kind === "same student");
  if (own.length > 0)
    return own
      .map(
        ({ sides }) => `asked ${sides.slice(1).map(({ title }) => title.split(", ")[1] ?? title)}`,
      )
      .join("; ");
  const found = [...index.people.values()].filter(({ cohorts }) =>
    cohorts.has("team:night parade"),
  );
  return found.map(({ number }) => (number === "" ? "new" : number)).join("; ");
}

const TOVE = row(2, "Tove Skov", "N1", "Silks", at("skov@lettr.example"));
const ESBEN = row(3, "Esben Skov", "N2", "Wire Walk", at("skov@lettr.example"));
const AINO = row(4, "Aino Koskela", "N3", "Silks", at("koskela@lettr.example"));
const ROSTER = [TOVE, ESBEN, AINO];

describe("whose a row without a number is", () => {
  test.each<[string, RowRecord, string]>([
    ["the only one of that name", row(9, "Tove Skov", "", "", []), "N1"],
    ["in another class as well", row(9, "Tove Skov", "", "Hoops", []), "N1"],
    ["written in capitals and turned", row(9, "SKOV TOVE", "", "", []), "N1"],
    ["nobody's of that name", row(9, "Runa Lehto", "", "Silks", []), "new"],
    ["a brother's of nearly that name", row(9, "Espen Skov", "", "", []), "asked N2"],
    ["nearly the name, same class", row(9, "Tova Skov", "", "Silks", []), "N1"],
    ["nearly the name, same parent", row(9, "Tova Skov", "", "", at("skov@lettr.example")), "N1"],
    ["nearly the name, another class", row(9, "Tova Skov", "", "Hoops", []), "asked N1"],
    ["an initial, same class", row(9, "A Koskela", "", "Silks", []), "N3"],
    ["an initial alone", row(9, "A Koskela", "", "", []), "asked N3"],
    ["an initial of nobody", row(9, "K Koskela", "", "Silks", []), "new"],
    ["a lost letter", row(9, "T?ve Skov", "", "", []), "N1"],
    ["two slips", row(9, "Tuva Skoff", "", "Silks", []), "new"],
    [
      "another first name, same parent",
      row(9, "Lars Skov", "", "", at("skov@lettr.example")),
      "new",
    ],
  ])("%s", (_, asked, wanted) => expect(whose(ROSTER, asked)).toBe(wanted));

  const TWINS = [
    ...ROSTER,
    row(5, "Tove Skov", "N4", "Hoops", at("other@lettr.example")),
    row(6, "Tyve Skov", "N5", "Acro", []),
  ];
  test.each<[string, RowRecord, string]>([
    ["of two of that name, by the class", row(9, "Tove Skov", "", "Hoops", []), "N4"],
    ["by the parent's address", row(9, "Tove Skov", "", "", at("other@lettr.example")), "N4"],
    ["by neither", row(9, "Tove Skov", "", "", []), "asked N1,N4"],
    ["by a lost letter that fits several", row(9, "T?ve Skov", "", "", []), "asked N1,N4,N5"],
  ])("%s", (_, asked, wanted) => expect(whose(TWINS, asked)).toBe(wanted));

  test("one sheet that writes two names that differ by a letter means two children", () => {
    const team = (...records: RowRecord[]) =>
      derive([source("team", ...records)]).questions.map(({ about }) => about);
    expect(
      team(row(2, "Tove Berg", "", "Silks", []), row(3, "Tova Berg", "", "Hoops", [])),
    ).toEqual([]);
    expect(
      team(row(2, "Tove Berg", "", "Silks", []), row(3, "Tova Berg", "", "Silks", [])),
    ).toEqual(["Is Tova Berg the student Tove Berg?"]);
    // An answer to a form can hold a slip where the roster has none.
    expect(
      derive([
        source("team", row(2, "Tove Berg", "", "Silks", [])),
        source("form", row(3, "Tova Berg", "", "Silks", [], { answered: "2026-09-01" })),
      ]).people,
    ).toHaveLength(1);
  });

  test("a first name alone is one child only with an address in common", () => {
    const students = (...records: RowRecord[]) =>
      derive([source("choir", ...records)]).people.filter((line) => line.startsWith("Tove")).length;
    expect(
      students(
        row(2, "Tove", "", "Alto", at("a@lettr.example")),
        row(3, "Tove", "", "Alto", at("b@lettr.example")),
      ),
    ).toBe(2);
    expect(
      students(
        row(2, "Tove", "", "Alto", at("a@lettr.example")),
        row(3, "Tove", "", "Bass", at("a@lettr.example")),
      ),
    ).toBe(1);
    expect(students(row(2, "Tove", "", "Alto", []), row(3, "Tove", "", "Bass", []))).toBe(1);
  });
});

describe("a name that changes", () => {
  const before = derive([source("roster", ...ROSTER)]).facts;

  test.each<[string, string, string]>([
    ["a new surname keeps the number", "Tove Lehto", "Tove Lehto"],
    ["a second first name does, too", "Tove Maria Skov", "Tove Maria Skov"],
  ])("%s", (_, name, wanted) => {
    const { index, questions } = derive(
      [
        source(
          "roster",
          {
            ...TOVE,
            name: { given: name.split(" ")[0] ?? "", family: name.split(" ").slice(1).join(" ") },
          },
          ESBEN,
          AINO,
        ),
      ],
      {},
      before,
    );
    expect(questions).toEqual([]);
    const person = [...index.people.values()].find(({ number }) => number === "N1");
    expect(`${person?.given} ${person?.family}`).toBe(wanted);
  });

  test("a number that passes to somebody with nothing in common is asked about", () => {
    const { questions } = derive(
      [source("roster", row(2, "Bartek Mazur", "N1", "Silks", []), ESBEN, AINO)],
      {},
      before,
    );
    expect(questions.map(({ about }) => about)).toEqual([
      "Number N1 belongs to two names: Tove Skov and Bartek Mazur. Are they one student?",
    ]);
  });

  test("without a number, somebody of a new surname is asked about where class or parent are the same and the old name is gone", () => {
    const sheet = (...records: RowRecord[]) => [source("sheet", ...records)];
    const stood = derive(
      sheet(
        row(2, "Tove Skov", "", "Silks", at("skov@lettr.example")),
        row(3, "Aino Koskela", "", "Silks", []),
      ),
    ).facts;
    const asked = (...records: RowRecord[]) =>
      derive(sheet(...records), {}, stood).questions.map(({ about }) => about);
    const aino = row(3, "Aino Koskela", "", "Silks", []);
    expect(asked(row(2, "Tove Skov Lehto", "", "Silks", []), aino)).toEqual([
      "Is Tove Skov Lehto the student Tove Skov?",
    ]);
    expect(asked(row(2, "Tove Lehto", "", "Hoops", at("skov@lettr.example")), aino)).toEqual([
      "Is Tove Lehto the student Tove Skov?",
    ]);
    expect(asked(row(2, "Tove Lehto", "", "Hoops", []), aino)).toEqual([]);
    expect(
      asked(
        row(2, "Tove Skov Lehto", "", "Silks", []),
        row(4, "Tove Skov", "", "Silks", at("skov@lettr.example")),
        aino,
      ),
    ).toEqual([]);
  });
});
