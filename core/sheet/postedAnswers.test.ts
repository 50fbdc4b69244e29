import { said, say } from "@amigo/language/say";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { POSTED_AT, postedSheet, readPosted, storedFields } from "./postedAnswers";

describe("what a form tool posts", () => {
  test.each<[unknown, [string, string][]]>([
    [
      { Name: " Ida  Brandt ", Age: 7, Coming: true },
      [
        ["Name", "Ida Brandt"],
        ["Age", "7"],
        ["Coming", "true"],
      ],
    ],
    [
      { child: { name: "Ida", days: ["Mo", "We"] }, nothing: null },
      [
        ["child.name", "Ida"],
        ["child.days", "Mo; We"],
      ],
    ],
    [
      {
        answers: [
          { title: "Name", value: "Ida" },
          { title: "Class", value: "Wire Walk" },
        ],
      },
      [
        ["answers.1.title", "Name"],
        ["answers.1.value", "Ida"],
        ["answers.2.title", "Class"],
        ["answers.2.value", "Wire Walk"],
      ],
    ],
    [{ " a ": "1", a: "2" }, [["a", "1"]]],
    [{ a: "x\r\ny\u0000" }, [["a", "x y"]]],
  ])("%j is %j", (body, fields) => expect(readPosted(body)).toEqual({ ok: true, fields }));

  test.each([
    [[]],
    [null],
    ["text"],
    [7],
    [{}],
    [{ a: null, b: {} }],
    [{ file: new File([], "x") }],
  ])("%j is no answer", (body) =>
    expect(said(readPosted(body))).toMatchObject({
      ok: false,
      sentence: expect.stringMatching(/\.$/),
    }),
  );

  test("what lies too deep is left out, and nothing falls over", () => {
    const deep = JSON.parse(
      `{"name": "Ida", "deep": ${"[".repeat(5000)}{}${"]".repeat(5000)}}`,
    ) as unknown;
    expect(readPosted(deep)).toEqual({ ok: true, fields: [["name", "Ida"]] });
  });

  test("whatever it is, it is taken as short single lines or told in a sentence", () => {
    fc.assert(
      fc.property(fc.anything(), (body) => {
        const read = readPosted(body);
        if (!read.ok) {
          expect(say(read.sentence)).toMatch(/\.$/);
          return;
        }
        for (const text of read.fields.flat()) expect(text).not.toMatch(/[\r\n]/);
        expect(new Set(read.fields.map(([name]) => name)).size).toBe(read.fields.length);
      }),
    );
  });
});

test("all answers are one sheet, with a column for each field that ever came", () => {
  expect(
    postedSheet([
      {
        at: "2026-11-27T10:00:00Z",
        fields: [
          ["Name", "Ida"],
          [POSTED_AT, "never"],
        ],
      },
      {
        at: "2026-11-28T10:00:00Z",
        fields: [
          ["Class", "Wire Walk"],
          ["Name", "Una"],
        ],
      },
    ]),
  ).toEqual([
    ["Answered", "Name", "Class"],
    ["2026-11-27T10:00:00Z", "Ida", ""],
    ["2026-11-28T10:00:00Z", "Una", "Wire Walk"],
  ]);
});

describe("what of an answer is stored", () => {
  const kept = (fields: Record<string, string>, last?: Parameters<typeof storedFields>[1]) =>
    storedFields(Object.entries(fields), last)
      .filter(([, value]) => value !== "")
      .map(([name]) => name);

  test.each([
    [["Nombre", "Alergias", "Fecha de nacimiento"], ["Nombre"]],
    [
      ["kind.vorname", "kind.geburtsdatum", "eltern.handynummer", "eltern.mail"],
      ["kind.vorname", "eltern.mail"],
    ],
    [
      ["Pupil", "Does your child have any medical conditions?", "Class"],
      ["Pupil", "Class"],
    ],
  ])("names of fields tell what isn't: %j", (names, wanted) =>
    expect(kept(Object.fromEntries(names.map((name) => [name, "x"])))).toEqual(wanted),
  );

  test("what was decided at the last import counts more than a name", () => {
    const last = {
      sheet: "Text",
      headerRow: 0,
      columns: [
        { title: "Allergies", meaning: "detail" as const, slot: 1 },
        { title: "Pupil", meaning: "student.name" as const, slot: 0 },
        { title: "Shoe size", meaning: "private" as const, slot: 0 },
      ],
    };
    expect(kept({ Pupil: "Ida", Allergies: "none", "Shoe size": "34" }, last)).toEqual([
      "Pupil",
      "Allergies",
    ]);
  });
});
