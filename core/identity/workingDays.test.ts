import { describe, expect, test } from "vitest";
import { say } from "@amigo/language/say";
import type { Facts } from "../facts/fact";
import { indexFacts } from "../facts/indexFacts";
import { nameOf } from "../facts/factIndex";
import { readAll } from "../sheet/readAll";
import type { ReadingContext } from "../sheet/readingContext";
import { readTables } from "../sheet/readTable";
import { readText } from "../sheet/readWorkbook";
import type { Workbook } from "../sheet/sheet";
import { findCauses } from "../step/findCauses";
import { deriveFacts, type DeriveSettings } from "./deriveFacts";
import { families } from "./families";
import type { ReadingPlan } from "../sheet/table";
import type { SourceRecords } from "./sourceRecords";

const CONTEXT: ReadingContext = { timeZone: "Europe/Prague", season: "2026-27", listDomain: "" };

function bookOf(...sheets: [name: string, text: string][]): Workbook {
  return {
    format: "text",
    sheets: sheets.flatMap(([name, text]) => {
      const read = readText(
        text
          .trim()
          .replace(/ *\| */g, "\t")
          .replace(/^ +/gm, ""),
      );
      if (!read.ok) throw new Error(say(read.fault.sentence));
      return read.workbook.sheets.map((sheet) => ({ ...sheet, name }));
    }),
  };
}

function open(...sheets: [name: string, text: string][]) {
  const found = readTables(bookOf(...sheets));
  if (!found.ok) throw new Error(say(found.fault.sentence));
  return { ...readAll(found.tables, [], CONTEXT), tables: found.tables };
}

const source = (
  name: string,
  text: string | [string, string][],
  overrides: Partial<SourceRecords> = {},
): SourceRecords => ({
  source: name,
  reading: `${name} 1`,
  records: open(...(typeof text === "string" ? [["Sheet", text] as [string, string]] : text))
    .records,
  ...overrides,
});

function derive(
  sources: SourceRecords[],
  stand: Facts = new Map(),
  settings: Partial<DeriveSettings> = {},
) {
  const derived = deriveFacts(sources, stand, { studentAddress: "", ...settings });
  const index = indexFacts(derived.facts);
  const students = [...index.people.values()].filter(({ role }) => role === "student");
  return {
    ...derived,
    index,
    names: students.map(nameOf).sort(),
    classesOf: (name: string) =>
      students
        .filter((person) => nameOf(person) === name)
        .map(({ cohorts }) => [...cohorts].map((key) => index.cohorts.get(key)?.name).sort()),
    guardiansOf: (name: string) =>
      students
        .filter((person) => nameOf(person) === name)
        .flatMap(({ ties }) =>
          [...ties.keys()].flatMap((id) => [...(index.people.get(id)?.addresses ?? [])]),
        )
        .sort(),
  };
}

/** A made-up word without digits. */
const word = (at: number): string =>
  `K${"aeiou"[Math.floor(at / 10)] ?? ""}${"bcdghflmnp"[at % 10] ?? ""}`;

/** The words of what a reading would change. */
const changes = (stand: Facts, facts: Facts): string[] =>
  findCauses(stand, facts).map(({ sentence }) => say(sentence));

describe("running numbers", () => {
  const SHEETS: [string, string][] = [
    [
      "3A",
      "No. | Name | Parent email\n1 | Mia Berg | berg@a.example\n2 | Tom Ash | ash@a.example\n3 | Una Lind | lind@a.example\n4 | Pia Roth | roth@a.example",
    ],
    [
      "3B",
      "No. | Name | Parent email\n1 | Jon Vale | vale@a.example\n2 | Lea Berg | berg@a.example\n3 | Kai Moor | moor@a.example",
    ],
  ];

  test.each(["No.", "Nr.", "#", "Number"])(
    "%s on a sheet a class leaves every child a child",
    (title) => {
      const sheets = SHEETS.map(([name, text]): [string, string] => [
        name,
        text.replace("No.", title),
      ]);
      const read = open(...sheets);
      const { names, classesOf, guardiansOf } = derive([source("roster", sheets)]);
      expect(names).toHaveLength(7);
      expect(classesOf("Jon Vale")).toEqual([["3B"]]);
      expect(guardiansOf("Mia Berg")).toEqual(["berg@a.example"]);
      expect(read.tables[0]?.table.columns.map(({ meaning }) => meaning)).not.toContain(
        "student.number",
      );
      expect(read.tables[0]?.table.notes.map(say).join()).toMatch(
        title === "#" ? /^$|student/ : /isn't used to tell students apart/,
      );
    },
  );

  test("one list that counts its rows isn't taken for numbers either, but real numbers in order are", () => {
    const rows = ["Ada Holm", "Ben Kerr", "Cleo Marsh", "Dov Nash"];
    const meaningsOf = (title: string, first: number) =>
      open([
        "Sheet",
        [
          `${title} | Name | Class | Email`,
          ...rows.map((name, at) => `${first + at} | ${name} | Oak | m${at}@a.example`),
        ].join("\n"),
      ]).tables[0]?.table.columns.map(({ meaning }) => meaning)[0];
    expect(meaningsOf("No.", 1)).toBe("unread");
    expect(meaningsOf("Member no.", 1)).toBe("student.number");
    expect(meaningsOf("No.", 4711)).toBe("student.number");
  });

  test("a second sheet with numbers of its own joins no strangers, and is matched by name", () => {
    const roster = source(
      "roster",
      "Student no. | Name | Class | Email\n11 | Mia Berg | Oak | berg@a.example\n12 | Tom Ash | Oak | ash@a.example\n13 | Una Lind | Elm | lind@a.example",
    );
    const team = source(
      "team",
      "Student no. | Name | Team | Email\n11 | Una Lind | U8 | lind@a.example\n12 | Kim Sato | U8 | sato@a.example\n13 | Tom Ash | U8 | ash@a.example",
    );
    const { names, classesOf, questions } = derive([roster, team]);
    expect(names).toEqual(["Kim Sato", "Mia Berg", "Tom Ash", "Una Lind"]);
    expect(classesOf("Una Lind")).toEqual([["Elm", "U8"]]);
    expect(questions).toEqual([]);
  });

  test("one number with two names is a question, and its answer holds", () => {
    const lines = Array.from(
      { length: 30 },
      (_, at) =>
        `${500 + at} | ${word(at)} Stone${word(at).toLowerCase()} | Oak | k${at}@a.example`,
    );
    const roster = source(
      "roster",
      `Student no. | Name | Class | Email\n${lines.join("\n")}\n505 | Zoe Other | Elm | zoe@a.example`,
    );
    const asked = derive([roster]);
    expect(asked.names).toHaveLength(30);
    expect(asked.questions.map(({ about }) => say(about))).toEqual([
      "Number 505 belongs to two names: Kaf Stonekaf and Zoe Other. Are they one student?",
    ]);
    const other = asked.questions[0]?.choices.find(({ id }) => id === "new")?.answer;
    const links = other?.does === "link" ? other.links : [];
    const answered = derive([roster], new Map(), { links, studentAddress: "{number}@in.example" });
    expect(answered.names).toContain("Zoe Other");
    expect(answered.names).toHaveLength(31);
    expect(answered.questions).toEqual([]);
    const inside = [...answered.index.people.values()].filter(({ addresses }) =>
      addresses.has("505@in.example"),
    );
    expect(inside.map(nameOf)).toEqual(["Kaf Stonekaf"]);
    const same = asked.questions[0]?.choices[0]?.answer;
    expect(
      derive([roster], new Map(), { links: same?.does === "link" ? same.links : [] }).names,
    ).toHaveLength(30);
  });
});

describe("the newest answer", () => {
  const form = (dates: [string, string]) =>
    source(
      "form",
      `Timestamp | Student name | Class | Parent | Email\n${dates[0]} | Mia Berg | Oak | Ana Berg | old@a.example\n14/09/2026 | Tom Ash | Oak | Ola Ash | ash@a.example\n${dates[1]} | Mia Berg | Oak | Ana Berg | new@a.example`,
      { whole: false },
    );
  test.each<[string, string]>([
    ["28/08/2026", "15/09/2026"],
    ["28/08/2026 10:00", "03/10/2026 9:00"],
    ["2026-08-28", "2026-10-03"],
    ["30 August 2026", "2 October 2026"],
  ])("%s comes before %s", (first, last) => {
    expect(derive([form([first, last])]).guardiansOf("Mia Berg")).toEqual(["new@a.example"]);
  });

  test("dates that can be read both ways are asked about", () => {
    const { tables } = open([
      "Sheet",
      "Submitted | Child | Class | Parent | Email\n03/09/2026 | Mia Berg | Oak | Ana Berg | a@a.example\n04/09/2026 | Tom Ash | Oak | Ola Ash | b@a.example",
    ]);
    expect(tables[0]?.table.columns[0]?.order).toBe("unsure");
    const plan = tables[0]?.table;
    const chosen: ReadingPlan = {
      sheet: "Sheet",
      headerRow: 0,
      columns: (plan?.columns ?? []).map(({ title, meaning, slot }) => ({
        title,
        meaning,
        slot,
        ...(meaning === "answered" ? { order: "month first" as const } : {}),
      })),
    };
    const found = readTables(
      bookOf([
        "Sheet",
        "Submitted | Child | Class | Parent | Email\n03/09/2026 | Mia Berg | Oak | Ana Berg | a@a.example",
      ]),
      chosen,
    );
    const read = found.ok ? readAll(found.tables, [], CONTEXT) : undefined;
    expect(read?.records[0]?.answered).toBe("2026-03-08T23:00:00.000Z");
  });
});

describe("who isn't mentioned", () => {
  const ROSTER = source(
    "roster",
    "Name | Class | Parent | Email\nMia Berg | 3 Ash | Ana Berg | ana@a.example\nTom Ash | 3 Ash | Ola Ash | ola@a.example\nUna Lind | 4 Oak | Eva Lind | eva@a.example",
  );
  const lastYear = derive([ROSTER]).facts;

  test("one answer to a form takes nothing from anybody", () => {
    const form = source(
      "form",
      "Timestamp | Student name | Class | Parent | Email\n2026-09-03 | Mia Berg | 3 Ash | Per Berg | per@a.example",
      { whole: false },
    );
    const next = derive([form], lastYear);
    expect(next.names).toEqual(["Mia Berg", "Tom Ash", "Una Lind"]);
    expect(next.guardiansOf("Mia Berg")).toEqual(["ana@a.example", "per@a.example"]);
    expect(changes(lastYear, next.facts)).toEqual(["Per Berg is now a guardian of Mia Berg"]);
  });

  test("absence from a roster means having left", () => {
    const roster = source(
      "new roster",
      "Name | Class | Parent | Email\nMia Berg | 3 Ash | Ana Berg | ana@a.example\nUna Lind | 4 Oak | Eva Lind | eva@a.example",
    );
    expect(changes(lastYear, derive([roster], lastYear).facts)).toEqual(["Tom Ash left"]);
  });

  test("one class's sheet speaks for that class alone", () => {
    const many = derive([
      source(
        "roster",
        "Name | Class | Email\nMia Berg | 3 Ash | ana@a.example\nTom Ash | 3 Ash | ola@a.example\nUna Lind | 4 Oak | eva@a.example\nKai Moor | 5 Elm | moor@a.example\nJon Vale | 6 Fir | vale@a.example",
      ),
    ]).facts;
    const one = source("3 Ash", "Name | Class | Email\nMia Berg | 3 Ash | ana@a.example");
    expect(changes(many, derive([one], many).facts)).toEqual(["Tom Ash left"]);
  });

  test("a sheet that adds is no roster, though it was read before and says less now", () => {
    const before = source(
      "extra",
      "Name | Class | Email\nKai Moor | 3 Ash | moor@a.example\nJon Vale | 3 Ash | vale@a.example",
      { whole: false },
    );
    const stand = derive([before]).facts;
    const after = source("extra", "Name | Class | Email\nKai Moor | 3 Ash | moor@a.example", {
      whole: false,
    });
    expect(changes(stand, derive([after], stand).facts)).toEqual([]);
  });
});

describe("a coach's address", () => {
  const HEAD = "Child | Class | Coach | Coach e-mail | Parent | Parent e-mail";
  const KIDS = Array.from(
    { length: 12 },
    (_, at) =>
      `Kid${at} Name${at} | Oak | Sol Reyes | sol@club.example | Mum${at} Name${at} | m${at}@a.example`,
  );

  test("makes a person on the staff, and no guardian", () => {
    const { index, guardiansOf, questions } = derive([source("sheet", [HEAD, ...KIDS].join("\n"))]);
    expect(guardiansOf("Kid3 Name3")).toEqual(["m3@a.example"]);
    const staff = [...index.people.values()].filter(({ role }) => role === "staff");
    expect(staff.map((person) => [nameOf(person), [...person.addresses]])).toEqual([
      ["Sol Reyes", ["sol@club.example"]],
    ]);
    expect(index.cohorts.get("class:oak")?.coach).toBe("Sol Reyes");
    expect(questions).toEqual([]);
  });

  test("whose column says nothing is known by standing with every child", () => {
    const text = [HEAD.replace("Coach e-mail", "Contact address"), ...KIDS].join("\n");
    expect(open(["Sheet", text]).tables[0]?.table.columns.map(({ meaning }) => meaning)[3]).toBe(
      "coach.address",
    );
  });

  test("written into a guardian's column joins no families, and is asked about", () => {
    const lines = KIDS.map((line, at) =>
      at < 9 ? line.replace(`m${at}@a.example`, "office@club.example") : line,
    );
    const roster = source("sheet", [HEAD, ...lines].join("\n"));
    const asked = derive([roster]);
    const family = families(asked.index);
    expect(new Set([...asked.index.people.keys()].map((id) => family.get(id))).size).toBe(13);
    expect(asked.guardiansOf("Kid1 Name1")).toEqual([]);
    expect(asked.questions.map(({ about }) => say(about))).toEqual([
      "office@club.example is given for 9 children of 9 different surnames. Whose is it?",
    ]);
    for (const { answer, id } of asked.questions[0]?.choices ?? []) {
      const answered = derive([roster], new Map(), {
        links: answer.does === "link" ? answer.links : [],
      });
      expect(answered.questions).toEqual([]);
      expect(answered.guardiansOf("Kid1 Name1")).toEqual(
        id === "here" ? ["office@club.example"] : [],
      );
    }
  });
});

describe("two seasons in one sheet", () => {
  const TEXT =
    "Season | Name | Class | Email\n2025/26 | Tom Ash | 2 Ash | ola@a.example\n2026/27 | Mia Berg | 3 Ash | ana@a.example\n2025/2026 | Mia Berg | 2 Ash | ana@a.example\n2026-27 | Una Lind | 3 Ash | eva@a.example";
  test("rows of the other season are set aside and said", () => {
    const read = open(["Sheet", TEXT]);
    expect(read.records.map(({ name }) => name.given)).toEqual(["Mia", "Una"]);
    expect(read.otherSeasons).toEqual([{ season: "2025-26", rows: 2 }]);
  });
  test("a column that only sounds like seasons sets nobody aside", () => {
    const read = open([
      "Sheet",
      "Session | Name | Class | Email\nMorning | Tom Ash | 2 Ash | ola@a.example\nAfternoon | Mia Berg | 3 Ash | ana@a.example",
    ]);
    expect(read.records).toHaveLength(2);
    expect(read.otherSeasons).toEqual([]);
  });
  test("where none of them is the current one, the latest is read", () => {
    const read = open([
      "Sheet",
      TEXT.replaceAll("2026", "2024").replaceAll("/27", "/25").replaceAll("-27", "-25"),
    ]);
    expect(read.season).toBe("2025-26");
  });
});

describe("a child of another surname", () => {
  const before = derive([
    source(
      "roster",
      "Name | Class | Email\nIvy Aldous | Oak | al@a.example\nTom Ash | Oak | ola@a.example",
    ),
  ]).facts;
  test.each<[string, string, string]>([
    ["a double name in the same class", "Ivy Aldous-Reed | Oak | new@a.example", "Ivy Aldous"],
    [
      "another name with the same guardian's address",
      "Ivy Reed | Elm | al@a.example",
      "Ivy Aldous",
    ],
  ])("%s is suggested as the same", (_what, row) => {
    const roster = source("roster", `Name | Class | Email\n${row}\nTom Ash | Oak | ola@a.example`);
    const now = derive([roster], before);
    expect(now.questions.map(({ about }) => say(about))).toEqual([
      `Is ${row.split(" |")[0]} the student Ivy Aldous?`,
    ]);
    expect(changes(before, now.facts)).toEqual([]);
    const same = now.questions[0]?.choices[0]?.answer;
    const joined = derive([roster], before, { links: same?.does === "link" ? same.links : [] });
    expect(joined.names).toEqual([row.split(" |")[0], "Tom Ash"]);
    expect(
      changes(before, joined.facts).some((sentence) => sentence.includes("is now called")),
    ).toBe(true);
  });
  test("another child of that name in another class is new", () => {
    const roster = source(
      "roster",
      "Name | Class | Email\nIvy Aldous | Oak | al@a.example\nIvy Stone | Elm | st@a.example\nTom Ash | Oak | ola@a.example",
    );
    expect(derive([roster], before).questions).toEqual([]);
  });
});
