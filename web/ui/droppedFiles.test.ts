import { describe, expect, test } from "vitest";
import { folderIn, isWanted } from "./droppedFiles";

describe("files in folders", () => {
  test.each([
    ["hat.pdf", ""],
    ["Costumes/hat.pdf", "Costumes"],
    ["Costumes/Small/hat.pdf", "Costumes – Small"],
    [`${"long".repeat(40)}/hat.pdf`, "long".repeat(25)],
  ])("%s is in its folder by one name", (path, folder) => {
    expect(folderIn(path)).toBe(folder);
  });

  test.each([
    ["Costumes/hat.pdf", true],
    ["Costumes/.DS_Store", false],
    ["Costumes/Thumbs.db", false],
    ["Costumes/desktop.ini", false],
    ["Costumes/.git/config", false],
    ["Costumes/v1.2/hat.pdf", true],
  ])("%s was made by people: %s", (path, wanted) => {
    expect(isWanted(path)).toBe(wanted);
  });
});
