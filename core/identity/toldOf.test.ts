import { describe, expect, test } from "vitest";
import type { Fact, Facts } from "../facts/fact";
import { indexFacts } from "../facts/indexFacts";
import { nameOf } from "../facts/factIndex";
import { wholeName } from "../sheet/splitName";
import type { RowRecord } from "../sheet/rowRecord";
import { derive, row, source } from "../testing/rosterRows";
import { countStudents } from "./countStudents";
import type { DeriveSettings } from "./deriveFacts";
import { markOf, type PersonLink } from "./personLink";
import { sharedAddresses } from "./sharedAddresses";
import { staffInSheets } from "./staffInSheets";

/** Facts line by line: of whom, what, and where it stands. */
function lines(facts: Iterable<Fact>): string[] {
  return [...facts]
    .map(({ kind, ref, value, origin }) =>
      [
        `${kind}${ref === "" ? "" : ` ${ref}`}`,
        ...(typeof value === "string" ? [value] : "given" in value ? [wholeName(value)] : ["…"]),
        origin.from === "row"
          ? `${origin.source} ${origin.row} ${origin.meaning} ${origin.slot}`
          : origin.from === "rule"
            ? `rule ${origin.rule}`
            : "by hand",
      ]
        .filter((part) => part !== "")
        .join(" | "),
    )
    .sort();
}

const TOVE = row(2, "Tove Skov", "CW-1", "Silks", []);

describe("what a row says of a student", () => {
  const told = (overrides: Partial<RowRecord>, settings: Partial<DeriveSettings> = {}): string[] =>
    lines(
      [...derive([source("office", { ...TOVE, ...overrides })], settings).facts.values()].filter(
        ({ kind }) => kind !== "cohort",
      ),
    );
  const PLAIN = [
    "enrolment class:silks | office 2 classes 0",
    "name | Tove Skov | office 2 student.surname 0",
    "number | CW-1 | office 2 student.number 0",
    "student | office 2 student.number 0",
  ];

  test("is a fact each, with the cell in which it stands", () => {
    expect(told({})).toEqual(PLAIN);
    expect(told({ number: "", level: "", site: "" })).toEqual(
      PLAIN.filter((line) => !line.startsWith("number")),
    );
    expect(
      told({
        level: "3",
        site: "Quay",
        address: "tove@copperwheel.example",
        details: [
          { column: "Instrument", slot: 1, value: "Oboe" },
          { column: "Locker", slot: 2, value: "17" },
        ],
      }),
    ).toEqual(
      [
        ...PLAIN,
        "address tove@copperwheel.example | office 2 student.address 0",
        "detail Instrument | Oboe | office 2 detail 1",
        "detail Locker | 17 | office 2 detail 2",
        "level | 3 | office 2 student.level 0",
        "site | Quay | office 2 site 0",
      ].sort(),
    );
  });

  test("makes an address by the school's rule where there is a number", () => {
    const rule = { studentAddress: "{number}@copperwheel.example" };
    expect(told({}, rule)).toContain("address cw-1@copperwheel.example | rule student-address");
    expect(told({ number: "" }, rule).filter((line) => line.includes("@"))).toEqual([]);
    expect(told({}).filter((line) => line.includes("@"))).toEqual([]);
  });

  test("leads to the row in which a guardian stands, where that is another", () => {
    const guardian = {
      ...row(2, "", "", "", [{ name: "Ane Skov", address: "ane@lettr.example" }]).guardians[0],
      row: 3,
    } as RowRecord["guardians"][number];
    const own = (guardians: RowRecord["guardians"]): string[] =>
      told({ guardians }).filter((line) => /^(address|guardian|name \| Ane|tie)/.test(line));
    expect(own([guardian]).map((line) => line.split(" | ").pop())).toEqual([
      "office 3 guardian.address 1",
      "office 3 guardian.name 1",
      "office 3 guardian.name 1",
      "office 3 guardian.name 1",
    ]);
    const { row: _, ...beside } = guardian;
    expect(own([beside]).every((line) => line.includes("office 2"))).toBe(true);
  });

  test("counts as one student for each that is told apart", () => {
    const twin = row(4, "Tove Skov", "CW-2", "Hoops", []);
    expect(countStudents([])).toBe(0);
    expect(countStudents([TOVE, { ...TOVE, row: 3, classes: ["Hoops"] }, twin])).toBe(2);
    // Which of the two a third row is about is asked, so it may be somebody else.
    expect(countStudents([TOVE, twin, row(5, "Tove Skov", "", "", [])])).toBe(3);
  });
});

describe("where sources differ", () => {
  const at = (name: string, overrides: Partial<RowRecord>) =>
    source(name, { ...TOVE, ...overrides });
  const level = (...sources: ReturnType<typeof source>[]): string[] => {
    const { facts, questions } = derive(sources);
    const found = [...facts.values()].find(({ kind }) => kind === "level");
    return [
      typeof found?.value === "string" ? found.value : "none",
      ...questions.map(({ about }) => about),
    ];
  };
  const ASKED = "Two sources give a different level for Tove Skov. Which one is right?";

  test.each<[string, ReturnType<typeof source>[], string[]]>([
    [
      "the older holds and it is asked",
      [at("a", { level: "3" }), at("b", { level: "4" })],
      ["3", ASKED],
    ],
    [
      "the same in other letters is the same",
      [at("a", { level: "Year 3" }), at("b", { level: "YEAR  3" })],
      ["Year 3"],
    ],
    ["one that says nothing is no other", [at("a", { level: "" }), at("b", { level: "4" })], ["4"]],
    [
      "an answer comes before, and nobody asks",
      [at("a", { level: "3" }), at("b", { level: "4", answered: "2026-09-01" })],
      ["4"],
    ],
    [
      "of two answers the newer",
      [
        at("a", { level: "3" }),
        source(
          "b",
          { ...TOVE, level: "4", answered: "2026-09-02" },
          { ...TOVE, level: "5", answered: "2026-09-01" },
        ),
      ],
      ["4"],
    ],
    [
      "a corrected cell comes first, and nobody asks",
      [
        at("a", { level: "3" }),
        at("b", { level: "4", corrected: new Map([["student.level 0", "c1"]]) }),
      ],
      ["4"],
    ],
    [
      "two rows of one source are no two sources",
      [source("a", { ...TOVE, level: "3" }, { ...TOVE, row: 3, level: "4" })],
      ["3"],
    ],
  ])("%s", (_, sources, wanted) => expect(level(...sources)).toEqual(wanted));

  test("a name by which somebody was only known again counts where no roster gives one", () => {
    const name = (...sources: ReturnType<typeof source>[]): string[] =>
      derive(sources).people.filter((line) => line.startsWith("T"));
    const loose = row(7, "Tova Skov", "", "Silks", []);
    expect(name(source("team", loose), source("office", TOVE))).toEqual(["Tove Skov"]);
    expect(name(source("office", TOVE), source("team", loose))).toEqual(["Tove Skov"]);
    expect(
      name(source("office", TOVE), source("form", { ...loose, answered: "2026-09-01" })),
    ).toEqual(["Tove Skov"]);
    expect(name(source("team", loose))).toEqual(["Tova Skov"]);
  });
});

describe("teachers and coaches in sheets", () => {
  const coached = (coach: string, coachAddress?: string) => ({
    record: { ...TOVE, coach, coachAddress },
    at: (meaning: string, slot = 0) =>
      ({
        from: "row",
        source: "office",
        reading: "r",
        sheet: "S",
        row: 2,
        meaning,
        slot,
      }) as Fact["origin"],
  });
  const none = indexFacts(new Map());

  test("are staff by their address, each once, by name or else by the address alone", () => {
    const rows = [
      coached("Ilse Tamm", "ilse@copperwheel.example"),
      coached("Ilse Tamm", "ilse@copperwheel.example"),
      coached("Ilse Tamm"),
      coached("", "tomas@copperwheel.example"),
    ];
    expect(lines(staffInSheets(rows, none))).toEqual([
      "address ilse@copperwheel.example | office 2 coach.address 0",
      "address tomas@copperwheel.example | office 2 coach.address 0",
      "name | Ilse Tamm | office 2 coach 0",
      "name | tomas@copperwheel.example | office 2 coach 0",
      "staff | office 2 coach.address 0",
      "staff | office 2 coach.address 0",
    ]);
    const subjects = new Set(staffInSheets(rows, none).map(({ subject }) => subject));
    expect(subjects.size).toBe(2);
    expect(
      staffInSheets([coached("ILSE TAMM", "ilse@copperwheel.example")], none)[0]?.subject,
    ).toBe(staffInSheets(rows, none)[0]?.subject);
  });

  test.each([
    ["an account", "account:7", []],
    ["only a sheet", "t-1", ["Ilse Tamm", "ilse@copperwheel.example", "tamm@copperwheel.example"]],
  ])("who has %s", (_, subject, wanted) => {
    const origin = { from: "hand", by: "Juno Abara", at: "2026-09-01" } as const;
    const stand = indexFacts(
      new Map(
        (
          [
            { subject, kind: "staff", ref: "", value: "", origin },
            { subject, kind: "name", ref: "", value: { given: "Ilse", family: "Tamm" }, origin },
            { subject, kind: "address", ref: "ilse@copperwheel.example", value: "", origin },
          ] as Fact[]
        ).map((fact) => [`${fact.subject}|${fact.kind}|${fact.ref}`, fact]),
      ),
    );
    const found = staffInSheets(
      [
        coached("I. Tamm", "ilse@copperwheel.example"),
        coached("Ilse Tamm", "tamm@copperwheel.example"),
      ],
      stand,
    );
    expect(found.length > 0).toBe(wanted.length > 0);
  });
});

describe("an address in several families", () => {
  const shared = (...records: RowRecord[]): [string, number][] => [
    ...sharedAddresses(derive([source("office", ...records)]).index),
  ];
  const child = (at: number, name: string, ...guardians: [string, string?][]) =>
    row(
      at,
      name,
      `CW-${at}`,
      "Silks",
      guardians.map(([guardian, address]) => ({
        name: guardian,
        ...(address === undefined ? {} : { address }),
      })),
    );

  test("is counted by families, not by people or children", () => {
    expect(shared(child(2, "Tove Skov", ["Ane Skov", "a@lettr.example"]))).toEqual([]);
    expect(
      shared(
        child(2, "Tove Skov", ["Ane Skov", "a@lettr.example"], ["Per Skov", "a@lettr.example"]),
        child(3, "Esben Skov", ["Ane Skov", "a@lettr.example"]),
      ),
    ).toEqual([]);
    expect(
      shared(
        child(2, "Tove Skov", ["Ane Skov", "a@lettr.example"]),
        child(3, "Lea Feld", ["Ida Feld", "a@lettr.example"]),
        child(4, "Liv Dahl", ["Rut Dahl", "a@lettr.example"], ["Ove Dahl", "b@lettr.example"]),
      ),
    ).toEqual([["a@lettr.example", 3]]);
  });
});

describe("what somebody has said of students", () => {
  const roster = [
    row(2, "Bram Quist", "CW-1", "Silks", []),
    row(3, "Bram Quist", "CW-2", "Hoops", []),
    row(4, "Una Vale", "CW-3", "Silks", []),
  ];
  const asked = row(9, "Bram Quist", "", "", [], { teams: ["Night Parade"] });
  const known = derive([source("office", ...roster)]).index;
  const mark = (number: string): PersonLink["left"] => {
    const person = [...known.people.values()].find((one) => one.number === number);
    if (person === undefined) throw new Error(`nobody has the number ${number}`);
    return markOf(person);
  };
  const ofRow: PersonLink["left"] = {
    role: "student",
    names: ["bram quist"],
    numbers: [],
    students: [],
    addresses: [],
    places: ["night parade"],
  };
  const team = (links: PersonLink[]): string => {
    const { questions, index } = derive([source("office", ...roster), source("team", asked)], {
      links,
    });
    if (questions.length > 0) return `asked ${questions[0]?.sides.length}`;
    return [...index.people.values()]
      .filter(({ cohorts }) => cohorts.has("team:night parade"))
      .map((person) => (person.number === "" ? `${nameOf(person)}, new` : person.number))
      .join(" ");
  };
  const say = (says: PersonLink["says"], left: PersonLink["left"], right = ofRow): PersonLink => ({
    says,
    left,
    right,
  });

  test.each<[string, PersonLink[], string]>([
    ["nothing", [], "asked 3"],
    ["it is the one", [say("same", mark("CW-1"))], "CW-1"],
    ["it is the other", [say("same", mark("CW-2"))], "CW-2"],
    ["the same the other way round", [say("same", ofRow, mark("CW-2"))], "CW-2"],
    ["first one, then the other", [say("same", mark("CW-1")), say("same", mark("CW-2"))], "CW-2"],
    ["not the one", [say("other", mark("CW-1"))], "CW-2"],
    ["not the other, either way round", [say("other", ofRow, mark("CW-2"))], "CW-1"],
    ["neither", [say("other", mark("CW-1")), say("other", mark("CW-2"))], "Bram Quist, new"],
    [
      "something of somebody else",
      [say("same", mark("CW-3"), { ...ofRow, names: ["una vale"] })],
      "asked 3",
    ],
    [
      "something of a row of another class",
      [say("same", mark("CW-1"), { ...ofRow, places: ["hoops"] })],
      "asked 3",
    ],
    [
      "something of a guardian",
      [say("same", { ...mark("CW-1"), role: "guardian" }, { ...ofRow, role: "guardian" })],
      "asked 3",
    ],
  ])("%s", (_, links, wanted) => expect(team(links)).toBe(wanted));

  test("two numbers that are one student go by the first", () => {
    const students = (links: PersonLink[]): string[] =>
      [...derive([source("office", ...roster)], { links }).index.people.values()]
        .map(({ number }) => number)
        .sort();
    expect(students([])).toEqual(["CW-1", "CW-2", "CW-3"]);
    expect(students([say("same", mark("CW-1"), mark("CW-2"))])).toEqual(["CW-1", "CW-3"]);
    expect(students([say("other", mark("CW-1"), mark("CW-2"))])).toEqual(["CW-1", "CW-2", "CW-3"]);
    expect(students([say("same", { ...mark("CW-1"), numbers: ["cw 99"] }, mark("CW-2"))])).toEqual([
      "CW-1",
      "CW-2",
      "CW-3",
    ]);
  });

  test("a student without a number is known again by name and class", () => {
    const sheet = [row(2, "Tove Skov", "", "Silks", []), row(3, "Tova Skov", "", "Hoops", [])];
    const people = (links: PersonLink[], stand?: Facts) =>
      derive([source("sheet", ...sheet)], { links }, stand);
    const both = people([]);
    expect(both.questions.map(({ about }) => about)).toEqual([]);
    const [tove, tova] = [...both.index.people.values()];
    if (tove === undefined || tova === undefined) throw new Error("two students were expected");
    expect(people([say("same", markOf(tove), markOf(tova))]).people).toHaveLength(1);
    expect(people([say("other", markOf(tove), markOf(tova))]).people).toHaveLength(2);
  });
});
