import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { harmlessCell } from "./harmlessCell";

describe("a cell for somebody else's spreadsheet", () => {
  test.each([
    ["=1+1", "'=1+1"],
    ["+44 20", "'+44 20"],
    ["-2", "'-2"],
    ["@SUM(A1)", "'@SUM(A1)"],
    ["\t=x", "'\t=x"],
    ["|cmd", "'|cmd"],
    ["%0A", "'%0A"],
    ["Ida Brandt", "Ida Brandt"],
    ["a=b", "a=b"],
    ["", ""],
    ["halim@oakmail.example", "halim@oakmail.example"],
  ])("%j becomes %j", (text, wanted) => expect(harmlessCell(text)).toBe(wanted));

  test("never begins with what begins a formula, and loses no sign", () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        const cell = harmlessCell(text);
        expect(cell.slice(0, 1)).not.toMatch(/^[=+\-@\t\r|%]/);
        expect(cell.endsWith(text)).toBe(true);
      }),
    );
  });
});
