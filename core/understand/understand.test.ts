import { readFileSync } from "node:fs";
import { describe, expect, test } from "vitest";
import { say } from "@amigo/language/say";
import { readText, readWorkbook } from "../sheet/readWorkbook";
import { understand, type NamedWorkbook, type Understood } from "./understand";

interface Truth {
  students: {
    id: string;
    given: string;
    family: string;
    level: number;
    classes: string[];
    teams: string[];
    site: string;
    guardians: { given: string; family: string; email: string }[];
  }[];
  faults: { student: string; guardian: number; written: string; right: string | null }[];
  answered_again: { student: string; guardian: string; older: string; newer: string }[];
}

const SAMPLES = new URL("../../demo/samples/", import.meta.url);
const truth = JSON.parse(readFileSync(new URL("truth.json", SAMPLES), "utf8")) as Truth;

function bookOf(file: string): NamedWorkbook {
  const read = readWorkbook(readFileSync(new URL(file, SAMPLES)));
  if (!read.ok) throw new Error(say(read.fault.sentence));
  return { file, workbook: read.workbook };
}

function understood(...files: string[]): Understood {
  const answer = understand(files.map(bookOf));
  if (!answer.ok) throw new Error(say(answer.fault.sentence));
  return answer.understood;
}

const enrolments = (of: Understood): unknown[] =>
  of.students.map(({ number, given, family, level, classes }) => ({
    id: number,
    given,
    family,
    level,
    classes,
  }));
const trueEnrolments = truth.students
  .map(({ id, given, family, level, classes }) => ({
    id,
    given,
    family,
    level,
    classes: [...classes].sort(),
  }))
  .sort((a, b) => (a.id < b.id ? -1 : 1));

/** A true address that some row of the roster tells. */
const told = new Set(
  truth.students.flatMap(({ id, guardians }) =>
    guardians.flatMap(({ given, family, email }, index) =>
      truth.faults.some(
        (fault) => fault.student === id && fault.guardian === index && fault.right === null,
      )
        ? []
        : [`${given} ${family} ${email}`],
    ),
  ),
);

describe("a plain column of addresses", () => {
  test("is taken apart, its faults are told, and it makes nobody a person", () => {
    const { files, students, faults } = understood("pasted.txt");
    expect(files.map(({ headerRow, columns }) => [headerRow, columns[0]?.meaning])).toEqual([
      [0, "guardian.address 1"],
    ]);
    expect(students).toEqual([]);
    expect(faults.every(({ written }) => written !== "")).toBe(true);
  });
});

describe("files understood together", () => {
  test.each([
    "autumn-roster.xlsx",
    "autumn-roster.ods",
    "autumn-roster.xls",
    "one-sheet-a-class.xlsx",
  ])("%s gives the students and enrolments of the truth", (file) => {
    expect(enrolments(understood(file))).toEqual(trueEnrolments);
  });

  test("every guardian is there with the address that can be told, for each child", () => {
    for (const student of understood("autumn-roster.xlsx").students) {
      const wanted =
        truth.students
          .find(({ id }) => id === student.number)
          ?.guardians.map(
            ({ given, family, email }) =>
              `${given} ${family} ${told.has(`${given} ${family} ${email}`) ? email : "null"}`,
          ) ?? [];
      expect(
        student.guardians
          .map(({ given, family, address }) => `${given} ${family} ${String(address)}`)
          .sort(),
        student.number ?? "",
      ).toEqual([...wanted].sort());
    }
  });

  test("an answer given again stands, for the child that it was given for", () => {
    const { students } = understood("autumn-roster.xlsx", "contact-form.csv");
    for (const { student, guardian, newer } of truth.answered_again) {
      const guardians = students
        .find(({ number }) => number === student)
        ?.guardians.filter(({ given, family }) => `${given} ${family}` === guardian)
        .map(({ address }) => address);
      expect(guardians, `${student} ${guardian}`).toContain(newer);
    }
  });

  test("all of the school's paperwork together adds nobody", () => {
    const all = understood(
      "autumn-roster.xlsx",
      "contact-form.csv",
      "contacts-long.csv",
      "contacts-utf16.tsv",
      "troupes.ods",
    );
    expect(enrolments(all)).toEqual(trueEnrolments);
    for (const student of all.students) {
      const foundStudent = truth.students.find(({ id }) => id === student.number);
      expect(student.teams, student.number ?? "").toEqual([...(foundStudent?.teams ?? [])].sort());
      expect(student.guardians.length, student.number ?? "").toBe(foundStudent?.guardians.length);
    }
  });

  test("a guardian who gave different addresses for different children is a question with both", () => {
    const { questions } = understood("autumn-roster.xlsx", "contact-form.csv");
    const quist = questions.find(({ about }) => say(about).startsWith("Éloïse Quist"));
    expect(quist?.choices.map(say).sort()).toEqual([
      "Both",
      "equist@lettr.example",
      "new.equist@lettr.example",
    ]);
    expect(understood("autumn-roster.xlsx").questions).toEqual([]);
  });

  test("faults are told by file, sheet, row and column letters", () => {
    const { faults } = understood("autumn-roster.xlsx");
    expect(faults).toHaveLength(truth.faults.length);
    expect(faults.find(({ written }) => written === "noor.kowalczyk@oakmail,example")).toEqual({
      file: "autumn-roster.xlsx",
      sheet: "Roster",
      row: 109,
      column: "J",
      written: "noor.kowalczyk@oakmail,example",
      fault: "comma-for-dot",
      answer: "probably",
      proposal: "noor.kowalczyk@oakmail.example",
    });
  });
});

describe("a sheet for each class", () => {
  const book = (...sheets: [string, string[][]][]): NamedWorkbook => ({
    file: "classes.xlsx",
    workbook: {
      format: "xlsx",
      sheets: sheets.map(([name, rows]) => ({ name, hidden: false, rows, joined: [] })),
    },
  });
  const HEAD = ["Surname", "First name", "Email"];

  test("is the class by its name, where no column says it", () => {
    const answer = understand([
      book(
        ["Wire Walk", [HEAD, ["Quist", "Bram", "a@lettr.example"]]],
        [
          "Acro Pairs",
          [HEAD, ["Quist", "Bram", "a@lettr.example"], ["Holm", "Una", "b@lettr.example"]],
        ],
        ["Notes", [["Remember the mats"]]],
      ),
    ]);
    expect(
      answer.ok && answer.understood.students.map(({ given, classes }) => [given, classes]),
    ).toEqual([
      ["Una", ["Acro Pairs"]],
      ["Bram", ["Acro Pairs", "Wire Walk"]],
    ]);
    expect(answer.ok && answer.understood.files.map(({ sheet }) => sheet)).toEqual([
      "Wire Walk",
      "Acro Pairs",
    ]);
  });

  test("sheets with other titles are left alone, and a single sheet is no class", () => {
    const answer = understand([
      book(
        [
          "Roster",
          [
            [...HEAD, "Class"],
            ["Quist", "Bram", "a@lettr.example", "Wire Walk"],
          ],
        ],
        [
          "Staff",
          [
            ["Name", "Phone"],
            ["Juno Abara", "1"],
          ],
        ],
      ),
    ]);
    expect(answer.ok && answer.understood.files.map(({ sheet }) => sheet)).toEqual(["Roster"]);
    const read = readText("Surname,First name,Email\nQuist,Bram,a@lettr.example");
    const single = read.ok ? understand([{ file: "a.csv", workbook: read.workbook }]) : undefined;
    expect(single?.ok === true && single.understood.students[0]?.classes).toEqual([]);
  });

  test("a file without titles is named with what is wrong", () => {
    expect(understand([book(["Notes", [["Remember the mats"]]])])).toMatchObject({
      ok: false,
      file: "classes.xlsx",
      fault: { code: "no-header" },
    });
  });
});
