import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { spawnSync } from "node:child_process";
import { afterAll, describe, expect, test } from "vitest";
import { Understanding } from "@amigo/contract/understanding";
import { SAMPLES_FOLDER } from "@amigo/demo/samples";
import { bundleOf } from "../../scripts/run.mjs";
import { readCommand } from "./read";

const folder = mkdtempSync(join(tmpdir(), "amigo-read-"));
afterAll(() => {
  rmSync(folder, { recursive: true, force: true });
});

const sample = (file: string): string => join(SAMPLES_FOLDER, file);
const amigo = (...args: string[]) =>
  spawnSync(process.execPath, [bundleOf("server/commands/main.ts"), ...args], {
    encoding: "utf8",
  });

describe("amigo read", () => {
  test("prints JSON in the documented shape", () => {
    const { status, stdout } = amigo(
      "read",
      sample("autumn-roster.xlsx"),
      sample("troupes.ods"),
      "--json",
    );
    expect(status).toBe(0);
    const answer = Understanding.strict().parse(JSON.parse(stdout));
    expect(answer.students).toHaveLength(220);
    expect(
      answer.files.map(({ file, sheet, headerRow, rows }) => [file, sheet, headerRow, rows]),
    ).toEqual([
      ["autumn-roster.xlsx", "Roster", 5, 220],
      ["troupes.ods", "Teams", 1, 81],
    ]);
  });

  test("prints a summary for people without it", () => {
    const answer = readCommand([sample("autumn-roster.xlsx")]);
    expect(answer.ok && answer.text).toContain(
      'autumn-roster.xlsx, sheet "Roster": 220 rows, titles in row 5',
    );
    expect(answer.ok && answer.text).toContain(
      "220 students, 281 guardians, 38 faults (13 to look at), 0 questions",
    );
    expect(answer.ok && answer.text).toContain(
      'J109: "noor.kowalczyk@oakmail,example" comma-for-dot, read as noor.kowalczyk@oakmail.example',
    );
  });

  test("says what it set aside, and which numbers only count the rows", () => {
    const path = join(folder, "two-seasons.csv");
    writeFileSync(
      path,
      [
        "No.,Season,Surname,First name",
        "1,2025/26,Okoro,Ife",
        "2,2025/26,Lindqvist,Maja",
        "3,2026/27,Ramos,Teo",
        "4,2026/27,Novak,Jana",
        "5,2026/27,Haddad,Omar",
      ].join("\n"),
    );
    const answer = readCommand([path]);
    expect(answer.ok && answer.text).toContain(
      'two-seasons.csv: "No." isn\'t used to tell students apart: it only counts the rows.',
    );
    expect(answer.ok && answer.text).toContain(
      "two-seasons.csv: 2 rows of season 2025-26 were set aside.",
    );
  });

  test.each([
    ["nowhere.csv", /no such file/],
    ["empty.csv", /This file is empty/],
    ["letter.pdf", /isn't a spreadsheet/],
  ])("says in a sentence what is wrong with %s, and ends with 1", (file, sentence) => {
    if (file === "empty.csv") writeFileSync(join(folder, file), "");
    if (file === "letter.pdf") writeFileSync(join(folder, file), "%PDF-1.7");
    const { status, stdout, stderr } = amigo("read", join(folder, file));
    expect([status, stdout]).toEqual([1, ""]);
    expect(stderr).toMatch(sentence);
    expect(stderr).toContain(file);
  });
});
