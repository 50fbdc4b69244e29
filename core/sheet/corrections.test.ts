import { say } from "@amigo/language/say";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { applyCorrections, rowKey, type Correction } from "./corrections";
import { failingCells } from "./failingCells";
import { readAll } from "./readAll";
import { readTables } from "./readTable";
import { seasonsNamed } from "./seasonsNamed";
import type { Sheet } from "./sheet";
import type { ReadingPlan, TableInSheet } from "./table";

const HEAD = ["Student no.", "Surname", "First name", "Class", "Parent 1", "Email 1"];
const IDA = ["CW-1", "Brandt", "Ida", "Trapeze Two", "Halim Brandt", "hbrandt@oakmail,example"];
const WREN = ["CW-2", "Eastlake", "Wren", "Trapeze Two", "Tove Eastlake", "n/a"];
const UNA = ["", "Holm", "Una", "Wire Walk", "Otto Holm", "otto@lettr.example"];

const PLAN: ReadingPlan = {
  sheet: "Roster",
  headerRow: 0,
  columns: (
    [
      "student.number",
      "student.surname",
      "student.given",
      "classes",
      "guardian.name",
      "guardian.address",
    ] as const
  ).map((meaning, at) => ({
    title: HEAD[at] ?? "",
    meaning,
    slot: meaning.startsWith("guardian") ? 1 : 0,
  })),
};

function tables(...rows: string[][]): TableInSheet[] {
  const sheet: Sheet = { name: "Roster", hidden: false, joined: [], rows: [HEAD, ...rows] };
  const found = readTables({ format: "text", sheets: [sheet] }, PLAN);
  if (!found.ok) throw new Error(say(found.fault.sentence));
  return found.tables;
}

const correction = (overrides: Partial<Correction> = {}): Correction => ({
  id: "c1",
  row: "number cw 2",
  meaning: "guardian.address",
  slot: 1,
  written: "n/a",
  read: "tove@lettr.example",
  ...overrides,
});
const addresses = (read: ReturnType<typeof readAll>) =>
  read.records.map(({ guardians }) => guardians[0]?.address);

describe("a corrected cell", () => {
  test("is read as corrected, and keeps its fault with the correction beside it", () => {
    const read = readAll(tables(IDA, WREN), [correction()]);
    expect(addresses(read)).toEqual(["hbrandt@oakmail.example", "tove@lettr.example"]);
    expect(read.faults.map(({ row, correction: id }) => [row, id])).toEqual([
      [2, undefined],
      [3, "c1"],
    ]);
    expect(read.records[1]?.corrected).toEqual(new Map([["guardian.address 1", "c1"]]));
    expect(read.outdated).toEqual([]);
  });

  test("is found again wherever its row has moved", () => {
    fc.assert(
      fc.property(
        fc.shuffledSubarray([IDA, UNA, ["CW-9", "Quist", "Bram", "Wire Walk", "Ana Quist", "n/a"]]),
        fc.nat(3),
        (others, at) => {
          const rows = [...others.slice(0, at), WREN, ...others.slice(at)];
          const read = readAll(tables(...rows), [correction()]);
          expect(
            read.records
              .filter(({ corrected }) => corrected !== undefined)
              .map(({ number }) => number),
          ).toEqual(["CW-2"]);
        },
      ),
    );
  });

  test.each<[string, string[], boolean, string[]]>([
    ["says the same still", WREN, true, []],
    ["says something else now", [...WREN.slice(0, 5), "tove.new@lettr.example"], false, ["c1"]],
    ["says nothing now", [...WREN.slice(0, 5), ""], false, ["c1"]],
    ["is gone with its row", IDA, false, []],
  ])("the sheet %s", (_what, row, holds, outdated) => {
    const read = readAll(tables(row), [correction()]);
    expect(read.records[0]?.corrected !== undefined).toBe(holds);
    expect(read.outdated).toEqual(outdated);
  });

  test("by name finds the row of a student without a number", () => {
    const read = readAll(tables(UNA), [
      correction({ row: "name holm una", written: "otto@lettr.example", read: "" }),
    ]);
    expect(addresses(read)).toEqual([undefined]);
  });

  test("of a column that is gone does nothing", () => {
    expect(readAll(tables(WREN), [correction({ slot: 2 })]).records[0]?.corrected).toBeUndefined();
  });

  test("leaves the sheet itself as it is", () => {
    const [one] = tables(WREN);
    if (one === undefined) throw new Error("no table");
    const before = JSON.stringify(one.sheet);
    expect(applyCorrections(one.sheet, one.table, [correction()]).sheet.rows[1]?.[5]).toBe(
      "tove@lettr.example",
    );
    expect(JSON.stringify(one.sheet)).toBe(before);
  });

  test.each([
    [IDA, "number cw 1"],
    [UNA, "name holm una"],
    [["", "", "", "Wire Walk", "", ""], ""],
  ])("%j has the key %s", (cells, key) => {
    const columns = tables(IDA)[0]?.table.columns ?? [];
    expect(rowKey(cells, { columns })).toBe(key);
  });
});

describe("seasons that a file names", () => {
  const above = (...lines: string[]): TableInSheet[] => {
    const rows = [...lines.map((line) => [line]), HEAD, IDA];
    const found = readTables({
      format: "text",
      sheets: [{ name: "Roster", hidden: false, joined: [], rows }],
    });
    return found.ok ? found.tables : [];
  };
  test.each([
    ["roster.xlsx", ["Copperwheel Circus School: roster 2025-26"], ["2025-26"]],
    ["roster 2026/2027.xlsx", [], ["2026-27"]],
    ["roster_2026-27.csv", ["autumn 2026–27"], ["2026-27"]],
    ["roster.xlsx", ["Printed 2026-11-23"], []],
    ["roster.xlsx", ["Printed 14 September 2026"], []],
    ["2026-11 roster.xlsx", [], []],
    ["numbers 2020-25.xlsx", [], []],
  ])("%s with %j: %j", (file, lines, wanted) =>
    expect(seasonsNamed(file, above(...lines))).toEqual(wanted),
  );
});

test("a cell whose address fails is found in every row, cleaned or not, until a correction reads it otherwise", () => {
  const read = tables(IDA, WREN, UNA);
  const fails = (address: string): boolean =>
    address === "hbrandt@oakmail.example" || address === "tove@lettr.example";
  expect(failingCells(read, readAll(read).records, fails)).toEqual([
    {
      sheet: 0,
      row: 2,
      column: 5,
      written: "hbrandt@oakmail,example",
      address: "hbrandt@oakmail.example",
    },
  ]);
  expect(
    failingCells(read, readAll(read, [correction()]).records, fails).map(({ row }) => row),
  ).toEqual([2, 3]);
  expect(
    failingCells(
      read,
      readAll(read, [
        correction({
          row: "number cw 1",
          written: "hbrandt@oakmail,example",
          read: "halim@lettr.example",
        }),
      ]).records,
      fails,
    ),
  ).toEqual([]);
});
