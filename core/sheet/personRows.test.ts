import fc from "fast-check";
import { describe, expect, test } from "vitest";
import type { Understood } from "../understand/understand";
import { failingCells } from "./failingCells";
import { readAll } from "./readAll";
import { countReading } from "./readingSummary";
import { readTables } from "./readTable";
import { understoodIn } from "../testing/understoodIn";
import { readText } from "./readWorkbook";
import { kindOfPerson, kindShares } from "./shapes/kindOfPerson";

const told = ({ students }: Understood): string[] =>
  students
    .map(
      ({ given, family, classes, guardians }) =>
        `${given} ${family} [${classes.join("+")}] ${guardians
          .map((one) => `${one.given} ${one.family} <${one.address ?? ""}>`)
          .sort()
          .join(" ")}`,
    )
    .sort();

describe("a word for whom a row is about", () => {
  test.each([
    ["Child", "child"],
    ["Pupil", "child"],
    ["Schülerin", "child"],
    ["Enfant", "child"],
    ["Alumna", "child"],
    ["Parent", "parent"],
    ["Parent/Guardian", "parent"],
    ["Mother", "parent"],
    ["Grandmother", "parent"],
    ["Mutter", "parent"],
    ["Madre", "parent"],
    ["Primary contact", "parent"],
    ["Tutor legal", "parent"],
    ["Adult", "adult"],
    ["Adult member", "adult"],
    ["Responsible adult", "adult"],
    ["Senior", "adult"],
    ["Erwachsene", "adult"],
    ["Junior", "child"],
    ["Teacher", "staff"],
    ["3B", undefined],
    ["", undefined],
    ["Silks", undefined],
    ["a child of many words in this cell", undefined],
  ])("%j is %s", (cell, kind) => expect(kindOfPerson(cell)).toBe(kind));

  test("counts only where there are both children and adults", () => {
    expect(kindShares(["Child", "Parent", "Parent", "Child"])).toEqual({ kinds: 1, parents: 0.5 });
    expect(kindShares(["Child", "Adult"])).toEqual({ kinds: 1, parents: 0 });
    expect(kindShares(["Child", "Child", "Child"]).kinds).toBe(0);
    expect(kindShares(["Mother", "Father"]).kinds).toBe(0);
    expect(kindShares(["Child", "Parent", "3B", "4C"]).kinds).toBe(0.5);
    expect(kindShares(["Child"]).kinds).toBe(0);
  });
});

describe("a sheet with a row for each person", () => {
  const SHEET = [
    "Household,Person type,Forename,Surname,Class,E-mail",
    "H1,Child,Tove,Skov,3B,",
    "H1,Parent,Ane,Skov,,ane@lettr.example",
    "H2,Child,Inés,Ruiz,4C,ines@lettr.example",
    'H2,Parent,Pilar,Ruiz,,"pilar@oakmail.example; pilar.work@oakmail.example"',
    "H3,Parent,Ida,Feld,,ida@fernpost.example",
    "H3,Child,Lea,Feld,1A,",
    "H3,Child,Aron,Feld,3B,",
    "H3,Parent,Max,Feld,,",
  ].join("\n");

  test("makes the adults of a family the guardians of its children, in whatever order they stand", () => {
    const understood = understoodIn(SHEET);
    expect(told(understood)).toEqual([
      "Aron Feld [3B] Ida Feld <ida@fernpost.example> Max Feld <>",
      "Inés Ruiz [4C] Pilar Ruiz <pilar.work@oakmail.example> Pilar Ruiz <pilar@oakmail.example>",
      "Lea Feld [1A] Ida Feld <ida@fernpost.example> Max Feld <>",
      "Tove Skov [3B] Ane Skov <ane@lettr.example>",
    ]);
    expect(understood.questions).toEqual([]);
    expect(understood.faults).toEqual([]);
  });

  test("shows for each of them the row in which they stand", () => {
    const { faults } = understoodIn(SHEET.replace("ane@lettr.example", '"ane@lettr,example"'));
    expect(faults.map(({ row, written }) => `${row} ${written}`)).toEqual(["3 ane@lettr,example"]);
  });

  test("counts nobody as set aside who is a guardian, and marks what fails in the row in which it stands", () => {
    const book = readText(`${SHEET}\nH9,Parent,Runa,Lehto,,runa@lettr.example`);
    const found = book.ok ? readTables(book.workbook) : book;
    if (!found.ok) throw new Error("the sheet isn't read");
    const read = readAll(found.tables);
    expect(countReading(found.tables, read, 4)).toMatchObject({ rows: 9, children: 4, aside: 1 });
    const cells = failingCells(found.tables, read.records, (address) =>
      ["ida@fernpost.example", "ines@lettr.example"].includes(address),
    );
    expect(cells.map(({ row, column, written }) => `${row} ${column} ${written}`).sort()).toEqual([
      "4 5 ines@lettr.example",
      "6 5 ida@fernpost.example",
    ]);
  });

  test.each([
    [
      "German",
      "Familien-Nr.;Rolle;Nachname;Vorname;Klasse;E-Mail\n11;Schüler;Skov;Tove;3b;\n11;Mutter;Skov;Ane;;ane@lettr.example\n12;Schüler;Feld;Aron;4a;\n12;Vater;Feld;Max;;max@fernpost.example\n13;Schülerin;Dahl;Liv;3b;\n13;Mutter;Dahl;Rut;;rut@oakmail.example",
      [
        "Aron Feld [4a] Max Feld <max@fernpost.example>",
        "Liv Dahl [3b] Rut Dahl <rut@oakmail.example>",
        "Tove Skov [3b] Ane Skov <ane@lettr.example>",
      ],
    ],
    [
      "French, names in one column",
      "Foyer,Qualité,Nom complet,Classe,Courriel\nA,Élève,Tove Skov,CM1,\nA,Mère,Ane Skov,,ane@lettr.example\nB,Élève,Aron Feld,CE2,\nB,Père,Max Feld,,max@fernpost.example\nC,Élève,Liv Dahl,CM1,\nC,Mère,Rut Dahl,,rut@oakmail.example",
      [
        "Aron Feld [CE2] Max Feld <max@fernpost.example>",
        "Liv Dahl [CM1] Rut Dahl <rut@oakmail.example>",
        "Tove Skov [CM1] Ane Skov <ane@lettr.example>",
      ],
    ],
    [
      "an account number that is called nothing known",
      "Acct,First,Last,Member kind,Squad,Mail\n9001,Tove,Skov,Junior,Reds,\n9001,Ane,Skov,Adult,,ane@lettr.example\n9002,Aron,Feld,Junior,Blues,\n9002,Max,Feld,Adult,,max@fernpost.example\n9003,Liv,Dahl,Junior,Reds,\n9003,Rut,Dahl,Adult,,rut@oakmail.example",
      undefined,
    ],
  ])("is read in %s", (_, text, wanted) => {
    const understood = understoodIn(text);
    expect(understood.students).toHaveLength(3);
    expect(told(understood).map((line) => line.includes("<"))).toEqual([true, true, true]);
    if (wanted !== undefined) expect(told(understood)).toEqual(wanted);
  });

  test("keeps adults who are in a class of their own, and guardians who are that as well", () => {
    const understood = understoodIn(
      `${SHEET}\nH4,Adult,Runa,Lehto,Adult silks,runa@lettr.example\nH1,Parent,Per,Skov,Adult silks,per@lettr.example`,
    );
    expect(told(understood)).toContain("Runa Lehto [Adult silks] ");
    expect(told(understood)).toContain("Per Skov [Adult silks] ");
    expect(told(understood)).toContain(
      "Tove Skov [3B] Ane Skov <ane@lettr.example> Per Skov <per@lettr.example>",
    );
  });

  test("imports nobody on the staff", () => {
    const understood = understoodIn(`${SHEET}\n,Teacher,Ilse,Tamm,,ilse@copperwheel.example`);
    expect(understood.faults.map(({ row, written }) => `${row} ${written}`)).toEqual([
      "10 Teacher",
    ]);
    expect(told(understood)).toEqual(told(understoodIn(SHEET)));
  });

  test("takes what thousands have in common for no family, whoever says so", () => {
    const lines = Array.from({ length: 6000 }, (_, at) => {
      const isChild = at % 2 === 1;
      return `F${at % 3},${isChild ? "Child" : "Parent"},Nam${at},Sur${at},${isChild ? "Silks" : ""},`;
    });
    const book = readText(["Family,Type,First name,Last name,Class,Email", ...lines].join("\n"));
    const settled = new Map([[0, { meaning: "family" as const, slot: 0 }]]);
    const found = book.ok ? readTables(book.workbook, undefined, { settled }) : book;
    if (!found.ok) throw new Error("the sheet isn't read");
    const { records } = readAll(found.tables);
    expect(records.length).toBe(3000);
    expect(records.every(({ guardians }) => guardians.length === 0)).toBe(true);
  });

  test("tells of adults without a child, and imports them as nobody", () => {
    const understood = understoodIn(`${SHEET}\nH9,Parent,Runa,Lehto,,runa@lettr.example`);
    expect(understood.faults.map(({ row, written }) => `${row} ${written}`)).toEqual(["10 Parent"]);
    expect(told(understood)).toEqual(told(understoodIn(SHEET)));
  });

  const CLUB = [
    "Name,Type,Squad,E-mail",
    "Tove Skov,Junior,Reds,tove@lettr.example",
    "Esben Dahl,Adult,Reds,esben@lettr.example",
    "Runa Lehto,Adult,Veterans,runa@oakmail.example",
    "Aron Feld,Junior,Blues,aron@fernpost.example",
    "Ida Feld,Adult,,ida@fernpost.example",
  ];

  test("isn't one of juniors and adults who are all members of a club", () => {
    const names = (lines: string[]): string[] =>
      understoodIn(lines.join("\n"))
        .students.map(({ given }) => given)
        .sort();
    expect(names(CLUB)).toEqual(["Aron", "Esben", "Ida", "Runa", "Tove"]);
    // With families, an adult without a child stays a member by a class.
    const families = ["F1", "F2", "F3", "F4", "F4"];
    const together = CLUB.map(
      (line, at) => `${at === 0 ? "Family ID" : (families[at - 1] ?? "")},${line}`,
    );
    const understood = understoodIn(together.join("\n"));
    expect(understood.students.map(({ given }) => given).sort()).toEqual([
      "Aron",
      "Esben",
      "Runa",
      "Tove",
    ]);
    expect(told(understood)).toContain("Aron Feld [] Ida Feld <ida@fernpost.example>");
  });

  test("without anything that says who is one family says so, and takes no parent for a child", () => {
    const understood = understoodIn(
      SHEET.split("\n")
        .map((line) => line.slice(line.indexOf(",") + 1))
        .join("\n"),
    );
    expect(understood.students.map(({ given }) => given).sort()).toEqual([
      "Aron",
      "Inés",
      "Lea",
      "Tove",
    ]);
    expect(understood.faults).toHaveLength(4);
  });

  const NAMES =
    "Tove Esben Liv Inés Aron Noa Zofia Bartek Oona Kaarle Mirja Dov Ilse Runa Pau Nerea Jarek Siri Taavi Lumi Quentin Halima Bjarke Xochitl Ferdinand Wanda Gustav Yolanda Cosmo Ulrike".split(
      " ",
    );
  const person = fc.record({
    family: fc.integer({ min: 1, max: 6 }),
    isAdult: fc.boolean(),
  });

  test("never loses a child or gives one another family's guardians, whatever the order of rows", () => {
    fc.assert(
      fc.property(fc.array(person, { minLength: 8, maxLength: 30 }), (people) => {
        const share = people.filter(({ isAdult }) => isAdult).length / people.length;
        fc.pre(share > 0.2 && share < 0.8);
        fc.pre(new Set(people.map(({ family }) => family)).size > 2);
        const rows = people.map(({ family, isAdult }, at) =>
          [
            `F-${family}`,
            isAdult ? "Guardian" : "Student",
            NAMES[at],
            ["Skov", "Ruiz", "Feld", "Dahl", "Mazur", "Lehto"][family - 1],
            isAdult ? "" : ["Reds", "Blues"][at % 2],
            isAdult ? `parent${at}@lettr.example` : "",
          ].join(","),
        );
        const { students } = understoodIn(
          `Family number,Role,First name,Last name,Class,Email\n${rows.join("\n")}`,
        );
        const wanted = people.flatMap(({ family, isAdult }) =>
          isAdult
            ? []
            : people
                .flatMap((other, at) =>
                  other.isAdult && other.family === family ? [`parent${at}@lettr.example`] : [],
                )
                .sort()
                .join(" "),
        );
        const found = students.map(({ guardians }) =>
          guardians
            .flatMap(({ address }) => address ?? [])
            .sort()
            .join(" "),
        );
        expect(found.sort()).toEqual(wanted.sort());
      }),
      { numRuns: 60 },
    );
  });
});
