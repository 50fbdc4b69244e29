import { say } from "@amigo/language/say";
import { describe, expect, test } from "vitest";
import { showQuestion } from "./columns/answerEffects";
import { ALL_MEANINGS } from "./meanings/allMeanings";
import { meaningName } from "./meanings/meaningName";
import type { MeaningId } from "./meanings/meaning";
import { otherSeasonNotes, readingSummary, type ReadingCounts } from "./readingSummary";
import { readTable } from "./readTable";
import { readText } from "./readWorkbook";
import { tableFault, tableNotes } from "./tableNotes";
import type { Table } from "./table";

function tableOf(text: string): { table: Table; notes: string[]; fault: string } {
  const book = readText(text);
  const found = book.ok ? readTable(book.workbook) : book;
  if (!found.ok) throw new Error(say(found.fault.sentence));
  return {
    table: found.table,
    notes: tableNotes(found).map(say),
    fault: say(tableFault(found.table)?.sentence),
  };
}

const NOTHING: ReadingCounts = {
  rows: 0,
  children: 0,
  aside: 0,
  toFix: 0,
  again: 0,
  otherSeasons: [],
};

test.each<[Partial<ReadingCounts>, string]>([
  [{}, "0 rows: 0 children"],
  [{ rows: 1, children: 1 }, "1 row: 1 child"],
  [
    { rows: 64, children: 62, aside: 2, toFix: 3 },
    "64 rows: 62 children, 2 set aside; 3 cells to fix",
  ],
  [
    { rows: 3, children: 2, again: 1, toFix: 1 },
    "3 rows: 2 children, 1 more row about the same children; 1 cell to fix",
  ],
  [
    { rows: 1300, children: 1200, aside: 100, otherSeasons: [{ season: "2025-26", rows: 90 }] },
    "1,300 rows: 1,200 children, 90 of season 2025-26 set aside, 10 set aside",
  ],
])("an import of %j is one line", (counts, line) =>
  expect(say(readingSummary({ ...NOTHING, ...counts }))).toBe(line),
);

test("rows of other seasons are counted in words that agree", () =>
  expect(
    otherSeasonNotes([
      { season: "2024-25", rows: 1 },
      { season: "2025-26", rows: 12 },
    ]).map(say),
  ).toEqual([
    "1 row of season 2024-25 was set aside.",
    "12 rows of season 2025-26 were set aside.",
  ]));

describe("what a column holds", () => {
  test.each<[MeaningId, number, string, string]>([
    ["classes", 0, "Classes", "Classes"],
    ["guardian.address", 2, "Guardian 2, address", "Guardian 2 address"],
    ["student.prefix", 0, "Surname, prefix", "Surname prefix"],
    ["student.given", 3, "First name 3", "First name 3"],
  ])("%s %i has a name as a label, and one in a sentence", (meaning, slot, label, inSentence) => {
    expect(say(meaningName({ meaning, slot }))).toBe(label);
    expect(say(meaningName({ meaning, slot }, "in a sentence"))).toBe(inSentence);
  });

  test("has a name of its own for every meaning", () => {
    const names = ALL_MEANINGS.map(({ id }) => say(meaningName({ meaning: id, slot: 0 })));
    expect(new Set(names).size).toBe(names.length);
  });

  test("is explained in whole sentences, column by column", () => {
    const { table } = tableOf(
      [
        "No.,Surname,First name,Set,Parent email,Allergies,",
        "CW-1,Brandt,Ida,Wire Walk,ida.brandt@oakmail.example,none,",
        "CW-2,Holm,Una,Silks,u.holm@lettr.example,nuts,",
        "CW-3,Quist,Bram,Wire Walk,quist@fernpost.example,,",
        "CW-4,Vale,Jon,Silks,jon.vale@lettr.example,,",
      ].join("\n"),
    );
    for (const { why } of table.columns)
      expect(say(why)).toMatch(/^([A-Z0-9][^.]*\.)( [A-Z0-9][^.]*\.)*$/);
    expect(table.columns.map(({ isEmpty }) => isEmpty === true)).toEqual(
      table.columns.map(({ title }) => title === ""),
    );
  });
});

test.each([
  [
    "First name,Email\nIda,ida@lettr.example\nUna,una@lettr.example",
    /No column names a class or team/,
  ],
  ["First name,Email\nIda,ida@lettr.example\nUna,una@lettr.example", /No column holds surnames/],
  ["Surname,First name,Class\nHolm,Una,Silks\nVale,Jon,Silks", /No column holds email addresses/],
])("%j is imported with a note", (text, note) =>
  expect(tableOf(text).notes).toContainEqual(expect.stringMatching(note)),
);

test.each([
  ["Item,Price\nRope,12\nChalk,4", /^The sheet "Text" has no column with the students' names\./],
  [
    "a@lettr.example\nb@lettr.example\nc@lettr.example",
    /^The sheet "Text" is a plain column of addresses:/,
  ],
])("%j can't be imported, and says why", (text, why) => expect(tableOf(text).fault).toMatch(why));

describe("an answer to a question about columns", () => {
  const effectOf = (
    meaning: MeaningId,
    cells: readonly string[],
    known: readonly string[] = [],
  ) => {
    const { answers } = showQuestion(
      {
        about: meaningName({ meaning, slot: 0 }),
        answers: [
          {
            label: meaningName({ meaning, slot: 0 }),
            column: 0,
            sets: [{ column: 0, meaning, slot: 0 }],
          },
        ],
      },
      () => cells,
      { titles: [], classes: known, teams: [], sites: [], staff: [] },
    );
    return [say(answers[0]?.values), say(answers[0]?.effect)];
  };

  test.each<[MeaningId, string[], string[], [string, string]]>([
    ["classes", ["Owls", "Owls"], [], ["1 value: Owls", "Makes 1 class with 2 children."]],
    [
      "classes",
      ["Owls", "Larks"],
      [],
      ["2 values: Owls, Larks", "Makes 2 classes with 1 child each."],
    ],
    [
      "classes",
      ["Owls", "Larks", "owls", ""],
      ["Owls"],
      [
        "3 values: Owls, Larks, owls",
        "Makes 2 classes with 1 to 2 children. 1 of these names is here already.",
      ],
    ],
    [
      "teams",
      ["U8", "U8", "U10"],
      [],
      ["2 values: U8, U10", "Makes 2 teams with 1 to 2 children."],
    ],
    ["private", ["nuts"], [], ["1 value: nuts", "Never stored."]],
  ])("%s of %j says what follows", (meaning, cells, known, said) =>
    expect(effectOf(meaning, cells, known)).toEqual(said),
  );

  test("shows a few values and that there are more", () => {
    const [values] = effectOf(
      "detail",
      Array.from({ length: 9 }, (_, at) => `value ${at}`),
    );
    expect(values).toBe("9 values: value 0, value 1, value 2, value 3, value 4, …");
  });
});
