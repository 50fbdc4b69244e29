import { describe, expect, test } from "vitest";
import { takesFile } from "./takesFile";

const KINDS = ["pictures and documents", "no programs", "any"];
const takenBy = (name: string): string[] => KINDS.filter((kinds) => takesFile(kinds, name));

describe("which shelves take a file", () => {
  test.each([
    ["Handout.PDF", KINDS],
    ["Sizes 2026.27.xlsx", KINDS],
    ["photo.of.us.jpeg", KINDS],
    ["song.mp3", ["no programs", "any"]],
    ["all.zip", ["no programs", "any"]],
    ["Read me", ["no programs", "any"]],
    ["2026.27", ["no programs", "any"]],
    ["setup.exe", ["any"]],
    ["SETUP.Exe", ["any"]],
    ["setup.exe.", ["any"]],
    ["setup.exe . ", ["any"]],
    ["photo.jpg.scr", ["any"]],
    ["budget.xlsm", ["any"]],
    [".exe", ["any"]],
    ["exe", ["no programs", "any"]],
  ])("%s", (name, wanted) => {
    expect(takenBy(name)).toEqual(wanted);
  });

  test("a rule that isn't known is as strict as the usual one", () => {
    expect(takesFile("", "setup.exe")).toBe(false);
    expect(takesFile("", "song.mp3")).toBe(true);
  });
});
