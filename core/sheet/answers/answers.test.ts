import { said, say } from "@amigo/language/say";
import { readFileSync } from "node:fs";
import { strFromU8, unzipSync } from "fflate";
import fc from "fast-check";
import Papa from "papaparse";
import { utils, write } from "@e965/xlsx";
import { describe, expect, test } from "vitest";
import { readWorkbook } from "../readWorkbook";
import type { Sheet } from "../sheet";
import { answerCells, type RowNews } from "./answerCells";
import { ANSWER_TITLES, withoutAnswers, type SheetAnswers } from "./answerColumns";
import { intoOds } from "./intoOds";
import { intoText } from "./intoText";
import { intoXlsx } from "./intoXlsx";
import { attribute, toXml } from "./xml";

const sample = (name: string): Uint8Array =>
  new Uint8Array(readFileSync(new URL(`../../../demo/samples/${name}`, import.meta.url)));

function sheetsOf(bytes: Uint8Array): Sheet[] {
  const book = readWorkbook(bytes);
  if (!book.ok) throw new Error(say(book.fault.sentence));
  return book.workbook.sheets;
}

/** Answers for every row from the header on, with signs that XML, CSV and spreadsheets make something of. */
function answersFor({ name, rows }: Sheet, header: number): SheetAnswers {
  const column = rows.reduce((widest, row) => Math.max(widest, row.length), 0);
  return {
    sheet: name,
    column,
    rows: new Map(
      rows.flatMap((row, at) =>
        at < header || row.length === 0
          ? []
          : [
              [
                at,
                at === header
                  ? ANSWER_TITLES
                  : [`in step & "well" <${at}>`, "", "=1+1; two\nlines"],
              ] as const,
            ],
      ),
    ),
  };
}

const into = (name: string): typeof intoXlsx =>
  name.endsWith(".xlsx")
    ? intoXlsx
    : name.endsWith(".ods")
      ? intoOds
      : (bytes, [item]) => (item === undefined ? undefined : intoText(bytes, item));

describe("a sheet that is handed back", () => {
  test.each<[string, string, number]>([
    ["autumn-roster.xlsx", "Roster", 4],
    ["autumn-roster.ods", "Roster", 4],
    ["autumn-roster-week-2.xlsx", "Roster", 4],
    ["troupes.ods", "", 0],
    ["contacts-long.csv", "Text", 0],
    ["contacts-utf16.tsv", "Text", 0],
    ["contact-form.csv", "Text", 0],
  ])("%s is read again just as it was", (name, sheet, header) => {
    const before = sheetsOf(sample(name));
    const found = before.find((one) => one.name === sheet) ?? before[0];
    if (found === undefined) throw new Error("no sheet");
    const made = into(name)(sample(name), [answersFor(found, header)]);
    if (made === undefined) throw new Error("nothing was made");
    expect(sheetsOf(made)).toEqual(before);
    // And once more: answers do not pile up.
    const again = into(name)(made, [answersFor(found, header)]);
    expect(sheetsOf(again ?? new Uint8Array())).toEqual(before);
    if (/\.(csv|tsv)$/.test(name)) return;
    const xml = Object.entries(unzipSync(again ?? new Uint8Array()))
      .map(([part, octets]) => (part.endsWith(".xml") ? strFromU8(octets) : ""))
      .join("");
    expect(xml.split(ANSWER_TITLES[0]).length - 1).toBe(1);
  });

  test("every part of an XLSX but the sheet itself stays octet for octet, and so do the sheet's own cells and styles", () => {
    const roster = sheetsOf(sample("autumn-roster.xlsx")).find(({ name }) => name === "Roster");
    const [before, after] = [
      unzipSync(sample("autumn-roster.xlsx")),
      unzipSync(
        intoXlsx(sample("autumn-roster.xlsx"), [
          answersFor(roster ?? { name: "", hidden: false, rows: [], joined: [] }, 4),
        ]) ?? new Uint8Array(),
      ),
    ];
    expect(Object.keys(after)).toEqual(Object.keys(before));
    for (const [name, part] of Object.entries(before))
      if (name !== "xl/worksheets/sheet2.xml") expect(after[name], name).toEqual(part);
    const [was, is] = [before, after].map((parts) =>
      strFromU8(parts["xl/worksheets/sheet2.xml"] ?? new Uint8Array()),
    );
    const cells = (xml = ""): string[] =>
      [...xml.matchAll(/<c r="([A-K]\d+)"[^>]*?(?:\/>|>.*?<\/c>)/g)].map(([whole]) => whole);
    expect(cells(is)).toEqual(cells(was));
    expect(is).toContain('ref="A1:N228"');
  });

  test("a CSV keeps its encoding, its line ends and every line as it was written", () => {
    const bytes = sample("contacts-long.csv");
    const [eachSheet] = sheetsOf(bytes);
    const made =
      intoText(
        bytes,
        answersFor(eachSheet ?? { name: "", hidden: false, rows: [], joined: [] }, 0),
      ) ?? new Uint8Array();
    const lines = (octets: Uint8Array): string[] =>
      new TextDecoder("latin1").decode(octets).split(/\r?\n/);
    lines(bytes).forEach((line, at) => expect(lines(made)[at]?.startsWith(line)).toBe(true));
  });

  test("a sheet that is not in the file is told, not guessed", () => {
    const answers: SheetAnswers = { sheet: "Nowhere", column: 3, rows: new Map() };
    expect([
      intoXlsx(sample("autumn-roster.xlsx"), [answers]),
      intoOds(sample("autumn-roster.ods"), [answers]),
    ]).toEqual([undefined, undefined]);
  });

  const cell = fc
    .oneof(
      fc.constantFrom(
        "",
        "",
        "a",
        "Ünï",
        "two\nlines",
        "semi;colon",
        'quo"te',
        "1",
        "<b>&amp;</b>",
      ),
      fc.string({ maxLength: 6 }),
    )
    .map((text) =>
      text.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufeff\r\ufffe\uffff]/g, ""),
    );
  const table = fc
    .array(fc.array(cell, { minLength: 1, maxLength: 6 }), { minLength: 1, maxLength: 8 })
    .map((rows) => [
      ["Name", "Class", ...Array.from({ length: 4 }, (_, at) => `Column ${at}`)],
      ...rows,
    ]);

  test.each(["xlsx", "ods"] as const)(
    "any %s that a library writes is read again just as it was",
    (bookType) => {
      fc.assert(
        fc.property(table, (rows) => {
          const book = utils.book_new();
          utils.book_append_sheet(book, utils.aoa_to_sheet([["A title"], [], ...rows]), "R & <Q>");
          const bytes = new Uint8Array(write(book, { bookType, type: "array" }) as ArrayBuffer);
          const before = sheetsOf(bytes);
          const made = into(`x.${bookType}`)(
            bytes,
            before.map((eachSheet) => answersFor(eachSheet, 2)),
          );
          expect(sheetsOf(made ?? new Uint8Array())).toEqual(before);
        }),
        { numRuns: 60 },
      );
    },
  );

  test.each([",", ";", "\t"])(
    "any text with %j between its cells is read again just as it was",
    (delimiter) => {
      fc.assert(
        fc.property(table, fc.constantFrom("\n", "\r\n"), fc.boolean(), (rows, newline, ends) => {
          const bytes = new TextEncoder().encode(
            Papa.unparse(rows, { delimiter, newline }) + (ends ? newline : ""),
          );
          const book = readWorkbook(bytes);
          if (!book.ok || book.workbook.sheets[0]?.rows[0]?.length !== 6) return;
          const [eachSheet] = book.workbook.sheets;
          const made = intoText(bytes, answersFor(eachSheet, 0)) ?? new Uint8Array();
          expect(sheetsOf(made)[0]?.rows.map((row) => row.join("|").replace(/\|+$/, ""))).toEqual(
            eachSheet.rows.map((row) => row.join("|").replace(/\|+$/, "")),
          );
        }),
        { numRuns: 100 },
      );
    },
  );
});

test("only a header of Amigo's own titles at its end is taken for one", () => {
  const rows = [
    ["Name", ...ANSWER_TITLES],
    ["Ida", "in step", "", ""],
  ];
  expect(withoutAnswers(rows)).toEqual([["Name"], ["Ida"]]);
  for (const other of [
    [["Name", ANSWER_TITLES[0], "Class"]],
    [["Name", ...ANSWER_TITLES, "Class"], ["Ida"]],
    [["Amigo: status"]],
    [],
  ])
    expect(withoutAnswers(other)).toEqual(other);
});

describe("what is said of a row", () => {
  const QUIET: RowNews = {
    known: true,
    lists: [
      { title: "Trapeze Two, students", since: "2026-09-14" },
      { title: "Trapeze Two, guardians", since: "2026-09-14" },
    ],
    waiting: [],
    questions: [],
    faults: [],
    failing: [],
    unreachable: false,
  };
  const waiting = [
    { sentence: "Ida Brandt moved from Juggling One to Trapeze Two", round: 4, held: false },
  ];
  const fault = {
    column: 7,
    written: "una@lettr,example",
    sentence: "There is a comma where a dot belongs",
    proposal: "una@lettr.example",
    mended: undefined,
  };

  test.each<[string, Partial<RowNews>, [string | RegExp, string | RegExp, string | RegExp]]>([
    [
      "in step",
      {},
      ["in step", "Trapeze Two, students and Trapeze Two, guardians (since 2026-09-14)", ""],
    ],
    [
      "on lists since different days",
      {
        lists: [
          { title: "A", since: "2026-09-14" },
          { title: "B", since: "2026-10-01" },
        ],
      },
      ["in step", "A (since 2026-09-14); B (since 2026-10-01)", ""],
    ],
    [
      "changed",
      { waiting },
      ["changed, waits in round 4: Ida Brandt moved from Juggling One to Trapeze Two", /since/, ""],
    ],
    [
      "held",
      { waiting: waiting.map((item) => ({ ...item, held: true })) },
      [/^held in round 4/, /since/, ""],
    ],
    ["new", { known: false, lists: [], waiting }, ["new, waits in round 4", "", ""]],
    ["on no list", { lists: [] }, ["known, on no list", "", ""]],
    [
      "asked about",
      { questions: ["Is Oona Penhaligon one student or two?"] },
      ["question", /since/, "Question: Is Oona Penhaligon one student or two?"],
    ],
    [
      "faulty",
      { faults: [fault] },
      [
        "fault",
        /since/,
        'Column H, "una@lettr,example": There is a comma where a dot belongs. Write una@lettr.example if that is meant.',
      ],
    ],
    [
      "corrected",
      { faults: [{ ...fault, mended: "una@lettr.example" }] },
      [
        "in step",
        /since/,
        /A correction reads it as una@lettr\.example; write it like that here\.$/,
      ],
    ],
    [
      "not mended by anybody",
      { faults: [{ ...fault, proposal: undefined }] },
      ["fault", /since/, /Write another address here\.$/],
    ],
    [
      "failing",
      { failing: [{ column: 7, address: "a@lettr.example", why: "no such mailbox" }] },
      [
        "fault",
        /since/,
        "Column H: mail to a@lettr.example comes back (no such mailbox). Ask for another address.",
      ],
    ],
    [
      "without a guardian who is reached",
      { unreachable: true },
      ["in step", /since/, "No guardian can be reached. Ask for an address."],
    ],
  ])("%s", (_what, over, [status, lists, toDo]) =>
    expect(said(answerCells({ ...QUIET, ...over }))).toEqual(
      [status, lists, toDo].map((wanted) =>
        typeof wanted === "string" ? wanted : expect.stringMatching(wanted),
      ),
    ),
  );
});

test("what goes into XML can be read out of it, and none of it is taken for a tag", () => {
  fc.assert(
    fc.property(fc.string({ unit: "binary" }), (text) => {
      const written = toXml(text);
      expect(written).not.toMatch(/[<>]/);
      expect(attribute(` name="${written}"`, "name")).toBe(
        [...text]
          .filter((sign) => /[\t\n\r\u0020-\uD7FF\uE000-\uFFFD\u{10000}-\u{10FFFF}]/u.test(sign))
          .join(""),
      );
    }),
  );
});
