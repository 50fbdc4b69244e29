import { said, say } from "@amigo/language/say";
import { readFileSync } from "node:fs";
import { describe, expect, test } from "vitest";
import { factKey, type Facts } from "../facts/fact";
import { addToIndex, indexFacts } from "../facts/indexFacts";
import { FIRST_RECIPES, recipeFacts } from "../lists/firstRecipes";
import { wantedLists } from "../lists/sharedWanted";
import { readRecords } from "../sheet/readRecords";
import { readTable } from "../sheet/readTable";
import { readWorkbook } from "../sheet/readWorkbook";
import { applyCauses } from "../step/applyCauses";
import type { Cause } from "../step/cause";
import { findCauses } from "../step/findCauses";
import { ListBook, membersOf } from "../step/listMembers";
import { planRound } from "../step/planRound";
import { deriveFacts } from "./deriveFacts";

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
  faults: {
    student: string;
    guardian: number;
    fault: string;
    written: string;
    right: string | null;
  }[];
  week_two: {
    moved: { student: string; from: string[]; to: string[] }[];
    address: { student: string; from: string; to: string }[];
    renamed: { student: string; from: string; to: string }[];
    left: string[];
    joined: { id: string; classes: string[]; guardians: string[] }[];
  };
}

const samples = new URL("../../demo/samples/", import.meta.url);
const truth = JSON.parse(readFileSync(new URL("truth.json", samples), "utf8")) as Truth;
const settings = { studentAddress: "{number}@copperwheel.example" };

function recordsOf(file: string) {
  const read = readWorkbook(readFileSync(new URL(file, samples)));
  if (!read.ok) throw new Error(say(read.fault.sentence));
  const found = readTable(read.workbook);
  if (!found.ok) throw new Error(say(found.fault.sentence));
  return readRecords(found.sheet, found.table);
}

function factsOf(file: string, stand: Facts = new Map(), reading = "r1"): Facts {
  return deriveFacts(
    [{ source: "roster", reading, records: recordsOf(file).records }],
    stand,
    settings,
  ).facts;
}

/** The address of a guardian that a sheet can tell: of a faulty cell the right one, or what a sibling's row tells. */
function tellable(student: string, guardian: number): string | undefined {
  const fault = truth.faults.find(
    (candidate) => candidate.student === student && candidate.guardian === guardian,
  );
  const email = truth.students.find(({ id }) => id === student)?.guardians[guardian]?.email;
  if (fault === undefined || fault.right !== null) return email;
  const elsewhere = truth.students.some((other) =>
    other.guardians.some(
      (person, index) =>
        person.email === email &&
        !truth.faults.some(
          (same) => same.student === other.id && same.guardian === index && same.right === null,
        ),
    ),
  );
  return elsewhere ? email : undefined;
}

describe.each(["autumn-roster.xlsx", "autumn-roster.ods", "autumn-roster.xls"])("%s", (file) => {
  const facts = factsOf(file);
  const index = indexFacts(facts);
  const students = [...index.people.values()].filter(({ role }) => role === "student");

  test("holds exactly the students of the truth, with level, site and classes", () => {
    const read = students.map((person) => ({
      id: person.number,
      given: person.given,
      family: person.family,
      level: Number(person.level),
      site: person.site,
      classes: [...person.cohorts].map((key) => index.cohorts.get(key)?.name).sort(),
    }));
    const wanted = truth.students.map(({ id, given, family, level, site, classes }) => ({
      id,
      given,
      family,
      level,
      site,
      classes: [...classes].sort(),
    }));
    const byId = (a: { id: string }, b: { id: string }): number => (a.id < b.id ? -1 : 1);
    expect(read.sort(byId)).toEqual(wanted.sort(byId));
  });

  test("gives every student exactly the guardians of the truth, with the addresses that can be told", () => {
    for (const student of truth.students) {
      const person = students.find(({ number }) => number === student.id);
      const read = [...(person?.ties.keys() ?? [])]
        .map((id) => index.people.get(id))
        .map((guardian) => ({
          given: guardian?.given,
          family: guardian?.family,
          email: [...(guardian?.addresses ?? [])][0],
        }));
      const wanted = student.guardians.map(({ given, family }, position) => ({
        given,
        family,
        email: tellable(student.id, position),
      }));
      const sorted = (list: typeof read): string[] =>
        list.map((entry) => JSON.stringify(entry)).sort();
      expect(sorted(read), student.id).toEqual(sorted(wanted));
    }
  });

  test("makes one person of one guardian, however many children", () => {
    const guardians = [...index.people.values()].filter(({ role }) => role === "guardian");
    const wanted = new Set(
      truth.students.flatMap(({ guardians }) =>
        guardians.map(({ given, family, email }) => `${given} ${family} ${email}`),
      ),
    );
    expect(guardians.length).toBe(wanted.size);
  });

  test("finds every planted fault and answers it as its kind demands", () => {
    const { faults, records } = recordsOf(file);
    for (const planted of truth.faults) {
      const record = records.find(({ number }) => number === planted.student);
      const found =
        faults.find(
          (fault) =>
            fault.row === record?.row &&
            fault.column === record?.guardians[planted.guardian]?.column,
        ) ??
        faults.find(
          (fault) => fault.row === record?.row && fault.written.trim() === planted.written.trim(),
        );
      expect(found?.proposal ?? null, `${planted.student} ${planted.written}`).toBe(planted.right);
      const kind =
        planted.right === null && planted.fault !== "none-word"
          ? "unusable"
          : ["comma-for-dot", "domain-typo"].includes(planted.fault)
            ? "probably"
            : "clean";
      expect(found?.answer, planted.written).toBe(kind);
    }
    expect(faults.length).toBe(truth.faults.length);
  });
});

describe("the second week", () => {
  const stand = factsOf("autumn-roster.xlsx");
  const now = factsOf("autumn-roster-week-2.xlsx", stand, "r2");
  const causes = findCauses(stand, now);
  const numbers = (kind: Cause["kind"]): (string | undefined)[] =>
    causes
      .filter((cause) => cause.kind === kind)
      .map(
        (cause) =>
          indexFacts(cause.kind === "left" ? stand : now).people.get(cause.subject)?.number,
      )
      .sort();
  const two = truth.week_two;

  test("has exactly its causes", () => {
    expect(numbers("left")).toEqual([...two.left].sort());
    expect(numbers("joined")).toEqual(two.joined.map(({ id }) => id).sort());
    expect(numbers("moved")).toEqual(two.moved.map(({ student }) => student).sort());
    expect(numbers("name")).toEqual(two.renamed.map(({ student }) => student).sort());
    const addresses = causes
      .filter(({ kind }) => kind === "address")
      .map((cause) => [cause.removes[0]?.ref, cause.adds[0]?.ref].join(" "));
    expect(addresses.sort()).toEqual(two.address.map(({ from, to }) => `${from} ${to}`).sort());
    expect(causes.length).toBe(
      two.left.length +
        two.joined.length +
        two.moved.length +
        two.renamed.length +
        two.address.length,
    );
  });

  test("applied and read again leads to no change", () => {
    const after = applyCauses(stand, causes);
    expect(findCauses(after, factsOf("autumn-roster-week-2.xlsx", after, "r3"))).toEqual([]);
  });

  test("gives the sum of its causes as the difference of the lists", () => {
    const index = indexFacts(applyCauses(stand, causes));
    const recipes = new Map(
      recipeFacts(said(FIRST_RECIPES), { from: "hand", by: "a test", at: "" }).map((fact) => [
        factKey(fact),
        fact,
      ]),
    );
    const before = new Map([...stand, ...recipes]);
    const { changes } = planRound(before, causes);
    for (const fact of recipes.values()) addToIndex(index, fact);
    const places = (of: typeof index): string[] =>
      [...membersOf(of, new ListBook(wantedLists(of).values()))].flatMap(([list, addresses]) =>
        [...addresses.keys()].map((address) => `${list} ${address}`),
      );
    const now = new Set(places(indexFacts(before)));
    for (const { list, kind, address, instead } of causes.flatMap(
      ({ key }) => changes.get(key) ?? [],
    )) {
      if (kind !== "joins") now.delete(`${list} ${instead ?? address}`);
      if (kind !== "leaves") now.add(`${list} ${address}`);
    }
    expect([...now].sort()).toEqual(places(index).sort());
  });
});

describe("other sheets beside the roster", () => {
  const roster = {
    source: "roster",
    reading: "r1",
    records: recordsOf("autumn-roster.xlsx").records,
  };
  const people = (facts: Facts, role: "student" | "guardian"): string[] =>
    [...indexFacts(facts).people.values()]
      .filter((person) => person.role === role)
      .map(({ id }) => id)
      .sort();
  const alone = deriveFacts([roster], new Map(), settings).facts;
  const beside = (...files: string[]): Facts =>
    deriveFacts(
      [
        roster,
        ...files.map((file) => ({ source: file, reading: file, records: recordsOf(file).records })),
      ],
      new Map(),
      settings,
    ).facts;

  test.each([["contacts-long.csv"], ["contacts-utf16.tsv"], ["troupes.ods"], ["contact-form.csv"]])(
    "%s adds no person that the roster has already",
    (file) => {
      const facts = beside(file);
      expect(people(facts, "student")).toEqual(people(alone, "student"));
      expect(people(facts, "guardian")).toEqual(people(alone, "guardian"));
    },
  );

  test("all of them together add nobody either, and do not move anybody to another class", () => {
    const index = indexFacts(
      beside("contact-form.csv", "contacts-long.csv", "contacts-utf16.tsv", "troupes.ods"),
    );
    for (const student of truth.students) {
      const person = [...index.people.values()].find(({ number }) => number === student.id);
      expect(
        [...(person?.cohorts ?? [])]
          .filter((key) => key.startsWith("class:"))
          .map((key) => index.cohorts.get(key)?.name)
          .sort(),
        student.id,
      ).toEqual([...student.classes].sort());
    }
  });

  test("the coach's sheet, by name only, puts every student into the teams of the truth", () => {
    const index = indexFacts(beside("troupes.ods"));
    const teams = (id: string): (string | undefined)[] =>
      [...([...index.people.values()].find(({ number }) => number === id)?.cohorts ?? [])]
        .filter((key) => key.startsWith("team:"))
        .map((key) => index.cohorts.get(key)?.name)
        .sort();
    for (const student of truth.students)
      expect(teams(student.id), student.id).toEqual([...student.teams].sort());
  });

  test("a contact sheet alone gives the same students and guardians", () => {
    const long = deriveFacts(
      [{ source: "long", reading: "l", records: recordsOf("contacts-utf16.tsv").records }],
      new Map(),
      settings,
    ).facts;
    expect(people(long, "student")).toEqual(people(alone, "student"));
    expect(people(long, "guardian").length).toBe(people(alone, "guardian").length);
  });

  test("a letter that an old encoding lost does not make a second person", () => {
    const index = indexFacts(beside("contacts-long.csv"));
    const damaged = [...index.people.values()].filter(({ given, family }) =>
      `${given}${family}`.includes("?"),
    );
    expect(damaged).toEqual([]);
  });
});
