import { say } from "@amigo/language/say";
import { utils, write } from "@e965/xlsx";
import { strToU8, zipSync } from "fflate";
import { readFileSync } from "node:fs";
import { describe, expect, test } from "vitest";
import { comparePlans, followPlan } from "./comparePlans";
import { decodeText } from "./decodeText";
import { ALL_MEANINGS } from "./meanings/allMeanings";
import { readAgain } from "./readAgain";
import { readRecords } from "./readRecords";
import { splitChoices } from "./cellChoices";
import { planOf } from "./readingPlan";
import { readTable } from "./readTable";
import { tableFault } from "./tableNotes";
import { readText, readWorkbook } from "./readWorkbook";
import { columnLetters, FILE_LIMITS, type Workbook } from "./sheet";
import { splitName } from "./splitName";
import type { Table, ReadingPlan } from "./table";

const SAMPLES = new URL("../../demo/samples/", import.meta.url);
const sample = (file: string): Uint8Array => readFileSync(new URL(file, SAMPLES));

function bookOf(bytes: Uint8Array): Workbook {
  const read = readWorkbook(bytes);
  if (!read.ok) throw new Error(say(read.fault.sentence));
  return read.workbook;
}

function tableOf(text: string): Table {
  const read = readText(text);
  if (!read.ok) throw new Error(say(read.fault.sentence));
  const found = readTable(read.workbook);
  if (!found.ok) throw new Error(say(found.fault.sentence));
  return found.table;
}

const meanings = (table: Table): string[] =>
  table.columns.map(({ meaning, slot }) => `${meaning}${slot > 0 ? ` ${slot}` : ""}`);

describe("finding the sheet, its header and what the columns hold", () => {
  const ROSTER = [
    "student.number",
    "student.surname",
    "student.given",
    "student.level",
    "site",
    "classes",
    "guardian.name 1",
    "guardian.address 1",
    "guardian.name 2",
    "guardian.address 2",
    "coach",
  ];
  test.each([
    ["autumn-roster.xlsx", "Roster", 4, ROSTER],
    ["autumn-roster-week-2.xlsx", "Roster", 4, ["coach", ...ROSTER.slice(0, 10)]],
    ["troupes.ods", "Teams", 0, ["teams", "student.name", "unread"]],
    [
      "contact-form.csv",
      "Text",
      0,
      ["answered", "guardian.address 1", "guardian.name 1", "student.name", "classes"],
    ],
    [
      "contacts-long.csv",
      "Text",
      0,
      [
        "student.name",
        "student.number",
        "classes",
        "guardian.name 1",
        "guardian.relationship 1",
        "guardian.address 1",
      ],
    ],
    [
      "contacts-utf16.tsv",
      "Text",
      0,
      [
        "student.name",
        "student.number",
        "classes",
        "guardian.name 1",
        "guardian.relationship 1",
        "guardian.address 1",
      ],
    ],
  ])("%s", (file, sheet, headerRow, wanted) => {
    const found = readTable(bookOf(sample(file)));
    expect(found.ok && found.table).toMatchObject({ sheet, headerRow });
    if (found.ok) expect(meanings(found.table)).toEqual(wanted);
  });

  test.each([
    [
      "Name;Form;Mother's email;Father's email\nBram Quist;4;a@lettr.example;b@lettr.example\nUna Holm;5;c@lettr.example;",
      ["student.name", "classes", "guardian.address 1", "guardian.address 2"],
    ],
    [
      "Child\tParent emails\nQuist, Bram\ta@lettr.example b@oakmail.example",
      ["student.name", "guardian.address 1"],
    ],
    [
      "Student no.,Surname,First name,Class,Email\nCW-1,Quist,Bram,Wire Walk,a@lettr.example\nCW-2,Holm,Una,Wire Walk,b@lettr.example",
      ["student.number", "student.surname", "student.given", "classes", "guardian.address 1"],
    ],
    [
      "First name,Last name,Group,Contact\nBram,Quist,Wire Walk,Ana Quist",
      ["student.given", "student.surname", "classes", "guardian.name 1"],
    ],
    [
      "Surname,First name,Whereabouts\nQuist,Bram,a@lettr.example\nHolm,Una,b@lettr.example",
      ["student.surname", "student.given", "guardian.address 1"],
    ],
  ])("other titles: %#", (text, wanted) => expect(meanings(tableOf(text))).toEqual(wanted));

  test("totals, remarks, blank rows and repeated titles are set aside, and rows keep their numbers", () => {
    const table = tableOf(
      "List of the school\n\nSurname,First name,Class,Email\nQuist,Bram,Wire Walk,a@lettr.example\n\nSurname,First name,Class,Email\nHolm,Una,Wire Walk,b@lettr.example\nTotal,,2,\nAsk the office about mistakes,,,\n",
    );
    expect(table.headerRow).toBe(2);
    expect(table.rows).toEqual([3, 6]);
    expect(table.aside).toEqual([
      { row: 4, why: "blank" },
      { row: 5, why: "repeated header" },
      { row: 7, why: "total" },
      { row: 8, why: "remark" },
    ]);
  });

  test("every meaning has its own name and can be found by it", () => {
    expect(new Set(ALL_MEANINGS.map(({ id }) => id)).size).toBe(ALL_MEANINGS.length);
    for (const { title } of ALL_MEANINGS)
      for (const score of [...Object.values(title.what), title.bare, title.unsaid])
        expect(score).toBeLessThanOrEqual(1);
  });
});

describe("files", () => {
  const fault = (bytes: Uint8Array, limits?: Parameters<typeof readWorkbook>[1]): string => {
    const read = readWorkbook(bytes, limits);
    if (read.ok) return "none";
    expect(say(read.fault.sentence)).toMatch(/^[A-Z].*\.$/s);
    return read.fault.code;
  };
  const small = { ...FILE_LIMITS, bytes: 1000, unpackedBytes: 10_000, rows: 2, columns: 10 };

  test.each([
    ["nothing", new Uint8Array(), "empty-file"],
    ["blank text", strToU8(" \n \n"), "empty-file"],
    ["a PDF", strToU8("%PDF-1.7 ..."), "not-a-spreadsheet"],
    ["a web page", strToU8("<!doctype html><p>x"), "not-a-spreadsheet"],
    [
      "a picture",
      Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 0, 0, 0, 0, 1, 2, 3]),
      "not-a-spreadsheet",
    ],
    ["another archive", zipSync({ "a.txt": strToU8("x") }), "not-a-spreadsheet"],
    ["a text document", zipSync({ "word/document.xml": strToU8("<x/>") }), "not-a-spreadsheet"],
    [
      "half an archive",
      zipSync({ "xl/workbook.xml": strToU8("<workbook/>".repeat(500)) }).subarray(0, 60),
      "broken-file",
    ],
  ])("%s is refused in a sentence", (_what, bytes, code) => {
    const got = fault(bytes);
    if (code === "broken-file") expect(["broken-file", "not-a-spreadsheet"]).toContain(got);
    else expect(got).toBe(code);
  });

  test("too large, too many rows, unpacking too far", () => {
    expect(fault(new Uint8Array(1001).fill(65), small)).toBe("too-large");
    expect(fault(strToU8("a\nb\nc\nd"), small)).toBe("too-many-rows");
    expect(
      fault(
        zipSync({
          "xl/workbook.xml": strToU8("<x/>"),
          "xl/big.xml": new Uint8Array(60 * 1024 * 1024),
        }),
        { ...small, bytes: 1e9, unpackedBytes: 1e6 },
      ),
    ).toBe("unpacks-too-far");
  });

  test("a workbook without any filled cell is empty", () => {
    const book = utils.book_new();
    utils.book_append_sheet(book, utils.aoa_to_sheet([]), "Nothing");
    expect(
      fault(new Uint8Array(write(book, { type: "array", bookType: "xlsx" }) as ArrayBuffer)),
    ).toBe("empty-file");
  });

  test("dates are written as dates, formulas give their value, numbers stay as they look", () => {
    const book = utils.book_new();
    const sheet = utils.aoa_to_sheet([
      ["Surname", "Level"],
      ["Quist", 4],
    ]);
    sheet.C1 = { t: "s", v: "Born" };
    sheet.C2 = { t: "d", v: new Date(Date.UTC(2015, 2, 4)) };
    sheet.D2 = { t: "n", v: 7, f: "3+4" };
    sheet["!ref"] = "A1:D2";
    utils.book_append_sheet(book, sheet, "S");
    expect(
      bookOf(
        new Uint8Array(
          write(book, { type: "array", bookType: "xlsx", cellDates: true }) as ArrayBuffer,
        ),
      ).sheets[0]?.rows[1],
    ).toEqual(["Quist", "4", "2015-03-04", "7"]);
  });

  test.each([
    [[0xef, 0xbb, 0xbf, 0x41], "utf-8", "A"],
    [[0xff, 0xfe, 0x41, 0], "utf-16le", "A"],
    [[0xfe, 0xff, 0, 0x41], "utf-16be", "A"],
    [[0x41, 0, 0x42, 0], "utf-16le", "AB"],
    [[0x5a, 0x6f, 0xeb], "windows-1252", "Zoë"],
    [[0x8a, 0x69, 0x9a, 0x80, 0x92], "windows-1252", "Šiš€’"],
    [[0x5a, 0x6f, 0xc3, 0xab], "utf-8", "Zoë"],
  ])("octets %j are %s", (octets, encoding, text) =>
    expect(decodeText(Uint8Array.from(octets))).toEqual({ text, encoding }),
  );
});

describe("what stands in the way", () => {
  test.each([
    ["Class,Email\nWire Walk,a@lettr.example", "no-name-column"],
    ["Surname,First name,Class\nQuist,Bram,Wire Walk", undefined],
    ["Surname,First name,Email\n", "no-rows"],
    ["Surname,First name,Email\nQuist,Bram,a@lettr.example", undefined],
    ['Team,Name\nNight Parade,"Quist, Bram"', undefined],
  ])("%#", (text, code) => expect(tableFault(tableOf(text))?.code).toBe(code));
});

describe("what was settled for a source", () => {
  const last: ReadingPlan = {
    sheet: "Text",
    headerRow: 0,
    columns: [
      { title: "Surname", meaning: "student.surname", slot: 0 },
      { title: "First name", meaning: "student.given", slot: 0 },
      { title: "Set", meaning: "classes", slot: 0 },
      { title: "Email", meaning: "guardian.address", slot: 1 },
    ],
  };

  test("is remembered by title: a meaning given by hand holds at the next reading", () => {
    const table = followPlan(
      tableOf("First name,Surname,Set,Email\nBram,Quist,Wire Walk,a@lettr.example"),
      last,
    );
    expect(meanings(table)).toEqual([
      "student.given",
      "student.surname",
      "classes",
      "guardian.address 1",
    ]);
  });

  test("is compared: moved, renamed, added and gone columns are told, nothing else", () => {
    const kinds = (text: string): string[] =>
      comparePlans(followPlan(tableOf(text), last), last).map(
        ({ kind, sentence }) => `${kind}: ${say(sentence)}`,
      );
    expect(kinds("Surname,First name,Set,Email\nQuist,Bram,Wire Walk,a@lettr.example")).toEqual([]);
    expect(kinds("Email,Surname,First name,Set\na@lettr.example,Quist,Bram,Wire Walk")).toEqual([
      'moved: Guardian 1 address: the column "Email" has moved.',
    ]);
    expect(
      kinds("Surname,First name,Class,Email,Coach\nQuist,Bram,Wire Walk,a@lettr.example,Hale"),
    ).toEqual([
      'renamed: Classes: the column is now called "Class"; it was "Set".',
      'added: "Coach" is new and holds Coach.',
    ]);
    expect(kinds("Surname,First name,Email\nQuist,Bram,a@lettr.example")).toEqual([
      'gone: No column holds Classes any more; it was "Set".',
    ]);
  });
});

describe("a plan that was agreed to", () => {
  const follow = (text: string, change: (plan: ReadingPlan) => ReadingPlan): Table => {
    const table = tableOf(text);
    return followPlan(table, change(planOf(table)));
  };

  test("keeps columns of one title apart, and columns without titles by their places", () => {
    const table = follow(
      "Name,Class,Mail,Mail,\nIda Brandt,Larks,a@lettr.example,b@lettr.example,c@lettr.example\nUna Holm,Owls,d@lettr.example,e@lettr.example,f@lettr.example",
      (plan) => ({
        ...plan,
        columns: plan.columns.map((column, at) =>
          at < 2
            ? column
            : { ...column, meaning: "guardian.address", slot: [2, 1, 3][at - 2] ?? 0 },
        ),
      }),
    );
    expect(meanings(table)).toEqual([
      "student.name",
      "classes",
      "guardian.address 2",
      "guardian.address 1",
      "guardian.address 3",
    ]);
  });

  test("keeps its layout: two surnames, and lines between rows that were said to be teams", () => {
    const text =
      "Larks,\nName,Email\nIda Brandt Holm,a@lettr.example\nUna Holm Vega,b@lettr.example\nOwls,\nBram Quist Roth,c@lettr.example\nWren Gallo Soler,d@lettr.example";
    const table = follow(text, (plan) => ({
      ...plan,
      twoSurnames: true,
      headings: { meaning: "teams", rows: plan.headings?.rows ?? [] },
    }));
    expect(table.headings?.meaning).toBe("teams");
    expect(table.twoSurnames).toBe(true);
  });
});

describe("a file read again", () => {
  const book = (rows: string[][], name = "Roster"): Workbook["sheets"][number] => ({
    name,
    rows,
    joined: [],
    hidden: false,
  });
  const HEAD = ["Name", "Email"];
  const rows = [HEAD, ["Ida Brandt", "a@lettr.example"], ["Una Holm", "b@lettr.example"]];

  test("keeps the class that its name said when it was settled", () => {
    const text = readText(rows.map((row) => row.join(",")).join("\n"));
    if (!text.ok) throw new Error(say(text.fault.sentence));
    const first = readTable(text.workbook, undefined, { file: "klasse-4c.csv" });
    if (!first.ok) throw new Error(say(first.fault.sentence));
    const again = readAgain(text.workbook, planOf(first.table), { file: "export (2).csv" });
    expect(again.ok && again.table.everyRow).toEqual({ meaning: "classes", value: "4c" });
  });

  test("reads the sheet that was settled, and of those read along the ones that are still there", () => {
    const workbook: Workbook = {
      format: "xlsx",
      sheets: [book([...rows, ["Bram Quist", "c@lettr.example"]], "4b"), book(rows, "4a")],
    };
    const last: ReadingPlan = {
      sheet: "4a",
      headerRow: 0,
      columns: [
        { title: "Name", meaning: "student.name", slot: 0 },
        { title: "Email", meaning: "guardian.address", slot: 1 },
      ],
      others: ["4b", "4c"],
    };
    const again = readAgain(workbook, last, {});
    expect(again.ok && [again.table.sheet, again.table.rows.length, again.others]).toEqual([
      "4a",
      2,
      ["4b"],
    ]);
  });
});

describe("rows", () => {
  const recordsOf = (text: string) => {
    const read = readText(text);
    if (!read.ok) throw new Error(say(read.fault.sentence));
    const found = readTable(read.workbook);
    if (!found.ok) throw new Error(say(found.fault.sentence));
    return readRecords(found.sheet, found.table);
  };

  test("two addresses in one cell are two guardians", () => {
    const { records } = recordsOf(
      'Student,Parent emails\n"Quist, Bram","a@lettr.example, b@oakmail.example"',
    );
    expect(records[0]?.guardians.map(({ address }) => address)).toEqual([
      "a@lettr.example",
      "b@oakmail.example",
    ]);
  });

  test("a row without a name is a fault, and nobody comes of it", () => {
    const { records, faults } = recordsOf(
      "Surname,First name,Class,Email\n,,Wire Walk,a@lettr.example\nHolm,Una,Wire Walk,b@lettr.example",
    );
    expect(records.map(({ row }) => row)).toEqual([3]);
    expect(faults).toMatchObject([{ row: 2, column: 0, fault: "no-name", answer: "unusable" }]);
  });

  test.each([
    ["Trapeze Two; Wire Walk", ["Trapeze Two", "Wire Walk"]],
    ["Stilts & Clowning", ["Stilts & Clowning"]],
    ["Hoops and Staff,\nAcro Pairs", ["Hoops and Staff", "Acro Pairs"]],
    [" ", []],
  ])("choices in %j", (cell, wanted) => expect(splitChoices(cell)).toEqual(wanted));

  test.each([
    ["Achterberg, Chloé", [], "Chloé", "Achterberg"],
    ["Ana Lucía Escudé", [], "Ana Lucía", "Escudé"],
    ["Leif van der Berg", [], "Leif", "van der Berg"],
    ["Ana Lucía Escudé", ["Lucía Escudé"], "Ana", "Lucía Escudé"],
    ["Zoë", [], "Zoë", ""],
    ["", [], "", ""],
  ])("the name %j", (text, hints, given, family) =>
    expect(splitName(text, hints)).toEqual({ given, family }),
  );

  test.each([
    [0, "A"],
    [25, "Z"],
    [26, "AA"],
    [701, "ZZ"],
    [702, "AAA"],
  ])("column %i is called %s", (index, letters) => expect(columnLetters(index)).toBe(letters));
});
