import { say } from "@amigo/language/say";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import type { Understood } from "../understand/understand";
import { readTables } from "./readTable";
import { understoodIn } from "../testing/understoodIn";
import { readText } from "./readWorkbook";
import { splitChildren } from "./shapes/splitChildren";
import { tableNotes } from "./tableNotes";

const told = ({ students }: Understood): string[] =>
  students
    .map(
      ({ given, family, classes, guardians }) =>
        `${given} ${family} [${classes.join("+")}] ${guardians
          .flatMap(({ address }) => address ?? [])
          .sort()
          .join(" ")}`,
    )
    .sort();

describe("the children of a family in one cell", () => {
  test.each<[string, string[]]>([
    ["Tove (3B), Esben (5A)", ["Tove|3B", "Esben|5A"]],
    ["Tove 3B / Esben 5A", ["Tove|3B", "Esben|5A"]],
    ["Tove, 3B; Esben, 5A", ["Tove|3B", "Esben|5A"]],
    ["Tove - 3B, Esben - 5A", ["Tove|3B", "Esben|5A"]],
    ["Tove: Year 3, Esben: Year 5", ["Tove|Year 3", "Esben|Year 5"]],
    ["Tove Klasse 3b und Esben Klasse 5a", ["Tove|3b", "Esben|5a"]],
    ["Jean-Luc (CM1) et Zoé (CE2)", ["Jean-Luc|CM1", "Zoé|CE2"]],
    ["Tove (2. klasse) og Esben (4. klasse)", ["Tove|2. klasse", "Esben|4. klasse"]],
    ["Piet van der Berg [5]\nSanne [7]", ["Piet van der Berg|5", "Sanne|7"]],
    ["Tove, Esben & Liv", ["Tove|", "Esben|", "Liv|"]],
    ["Tove (8 yrs), Esben (10 Jahre)", ["Tove|", "Esben|"]],
    ["Tove (Red group)", ["Tove|Red group"]],
    ["Tove U12", ["Tove|U12"]],
    ["Tove - K, Esben – Wire Walk", ["Tove|K", "Esben|Wire Walk"]],
  ])("%j are told apart", (written, wanted) =>
    expect(splitChildren(written).map(({ name, group }) => `${name}|${group}`)).toEqual(wanted),
  );

  test.each([
    "",
    "3B, 5A",
    "tove@lettr.example",
    "01632 960101",
    "12 Quay Street, Harbour",
    "(3B)",
  ])("%j names none", (written) => expect(splitChildren(written)).toEqual([]));

  test("nothing that a cell may hold takes long", () => {
    for (const piece of ["a ", "(", "a(", ") ", "3B ", "- ", ",", " and A", "1. "])
      expect(splitChildren(piece.repeat(100_000))).toEqual([]);
  });

  test("each are a student with their own class and the family's addresses", () => {
    const understood = understoodIn(
      "Family;Kids + class;Mum;Mum's e-mail;Dad's e-mail\nSkov;Tove (3B), Esben (5A);Ane;ane@lettr.example;\nRuiz;Inés (4C);Pilar;pilar@oakmail.example;raul@oakmail.example\nFeld;Aron (3B), Lea (1A), Noa (1A);Ida;ida.feld@fernpost.example;",
    );
    expect(told(understood)).toEqual([
      "Aron Feld [3B] ida.feld@fernpost.example",
      "Esben Skov [5A] ane@lettr.example",
      "Inés Ruiz [4C] pilar@oakmail.example raul@oakmail.example",
      "Lea Feld [1A] ida.feld@fernpost.example",
      "Noa Feld [1A] ida.feld@fernpost.example",
      "Tove Skov [3B] ane@lettr.example",
    ]);
  });

  test("have the surname of a sibling, or else that of their parents, where the cell has none", () => {
    const understood = understoodIn(
      'Kinder,Eltern,E-Mail\n"Tove 3b, Esben Skov 5a",Ane Dahl,ane@lettr.example\nLea 1a / Aron 3b,Ida & Max Feld,ida@oakmail.example\nInés 4c,Pilar Ruiz,pilar@fernpost.example',
    );
    expect(told(understood)).toEqual([
      "Aron Feld [3b] ida@oakmail.example",
      "Esben Skov [5a] ane@lettr.example",
      "Inés Ruiz [4c] pilar@fernpost.example",
      "Lea Feld [1a] ida@oakmail.example",
      "Tove Skov [3b] ane@lettr.example",
    ]);
  });

  test("without any class are told apart as well, and it is said that none has a list", () => {
    const text =
      'Surname,Children,Parent e-mail\nSkov,"Tove, Esben",ane@lettr.example\nRuiz,Inés,pilar@oakmail.example\nFeld,"Aron, Lea and Noa",ida@fernpost.example\nDahl,Liv,dahl@lettr.example';
    const understood = understoodIn(text);
    expect(told(understood)).toContain("Noa Feld [] ida@fernpost.example");
    expect(understood.students).toHaveLength(7);
    const notes = (written: string): string[] => {
      const book = readText(written);
      const found = book.ok ? readTables(book.workbook) : book;
      return found.ok ? found.tables.flatMap(tableNotes).map(say) : [];
    };
    expect(notes(text).join()).toContain("No column names a class or team");
    expect(notes(text.replaceAll(/(Tove|Esben|Inés|Aron|Lea|Noa|Liv)/g, "$1 (3B)"))).toEqual([]);
    // A line above the table says it for all of them.
    expect(told(understoodIn(`Class: 3B,,\n${text}`))).toContain(
      "Noa Feld [3B] ida@fernpost.example",
    );
  });

  test("a surname with a comma, and classes in one cell, are still what they were", () => {
    expect(
      told(
        understoodIn(
          'Child,Groups,Parent e-mail\n"Skov, Tove","Reds 1, Blues 2",ane@lettr.example\n"Ruiz, Inés",Reds 1,pilar@oakmail.example\n"Feld, Aron","Blues 2, Reds 1",ida@fernpost.example\n"Dahl, Liv",Blues 2,dahl@lettr.example',
        ),
      ),
    ).toEqual([
      "Aron Feld [Blues 2+Reds 1] ida@fernpost.example",
      "Inés Ruiz [Reds 1] pilar@oakmail.example",
      "Liv Dahl [Blues 2] dahl@lettr.example",
      "Tove Skov [Blues 2+Reds 1] ane@lettr.example",
    ]);
  });

  const NAMES =
    "Tove Esben Liv Inés Aron Noa Zofia Bartek Oona Kaarle Mirja Dov Ilse Runa Pau Nerea Jarek Siri Taavi Lumi".split(
      " ",
    );
  const FAMILIES = ["Skov", "Ruiz", "Feld", "Dahl", "Mazur", "Lehto", "Okafor", "Brandt"];
  const style = fc.record({
    title: fc.constantFrom("Children", "Pupils", "Kinder", "Enfants", "Hijos", "Barn"),
    between: fc.constantFrom(", ", "; ", " / ", " & ", "\n"),
    write: fc.constantFrom(
      (name: string, group: string) => `${name} (${group})`,
      (name: string, group: string) => `${name} ${group}`,
      (name: string, group: string) => `${name} [${group}]`,
    ),
    group: fc.constantFrom("3B", "U12", "4", "K2"),
  });
  /** Families with different children, as far as the names go. */
  const families = fc
    .tuple(
      fc.shuffledSubarray(NAMES, { minLength: NAMES.length }),
      fc.array(fc.integer({ min: 1, max: 4 }), { minLength: 4, maxLength: 8 }),
    )
    .map(([names, sizes]) => {
      const left = [...names];
      return sizes.map((size) => left.splice(0, size)).filter(({ length }) => length > 0);
    })
    .filter((made) => made.some(({ length }) => length > 1));

  test("whatever stands between them and around their classes, nobody is lost or made up", () => {
    fc.assert(
      fc.property(families, style, (made, { title, between, write, group }) => {
        const rows = made.map(
          (names, at) =>
            `${FAMILIES[at]},"${names.map((name) => write(name, group)).join(between)}",mail${at}@lettr.example`,
        );
        const understood = understoodIn(`Family name,${title},E-mail\n${rows.join("\n")}`);
        expect(told(understood)).toEqual(
          made
            .flatMap((names, at) =>
              names.map((name) => `${name} ${FAMILIES[at]} [${group}] mail${at}@lettr.example`),
            )
            .sort(),
        );
      }),
      { numRuns: 60 },
    );
  });
});
