import { describe, expect, test } from "vitest";
import type { Facts } from "../facts/fact";
import { derive, row, source, split } from "../testing/rosterRows";
import type { DeriveSettings } from "./deriveFacts";
import { markOf, type PersonLink } from "./personLink";
import type { Question, SettledByHand } from "./question";
import type { RowRecord } from "../sheet/rowRecord";
import type { SourceRecords } from "./sourceRecords";

/** Answers a question as a person would, and derives again. */
function answered(sources: SourceRecords[], choice: string) {
  const { questions } = derive(sources);
  const [question] = questions;
  const chosen = question?.choices.find(({ label }) => label === choice);
  if (question === undefined || chosen === undefined)
    throw new Error(
      `there is no choice "${choice}" among ${JSON.stringify(question?.choices.map(({ label }) => label))}`,
    );
  return derive(sources, settingsOf(question, chosen.answer));
}

function settingsOf(
  question: Question,
  answer: Question["choices"][number]["answer"],
): Partial<DeriveSettings> {
  const settled: SettledByHand[] =
    answer.does === "settle"
      ? [{ ...answer.settled, key: question.key, by: "Juno Abara", at: "2026-11-23" }]
      : [];
  return answer.does === "link" ? { links: answer.links } : { settled };
}

const BRAM_ONE = row(2, "Bram Quist", "CW-1", "Wire Walk", [
  { name: "Ana Quist", address: "ana@lettr.example" },
]);
const BRAM_TWO = row(3, "Bram Quist", "CW-2", "Acro Pairs", [
  { name: "Otto Quist", address: "otto@lettr.example" },
]);

describe("whose row is it", () => {
  test.each<[string, RowRecord, string]>([
    ["by the class", row(9, "Bram Quist", "", "Acro Pairs", []), "CW-2"],
    [
      "by a guardian's address",
      row(9, "Bram Quist", "", "", [{ name: "A Quist", address: "ana@lettr.example" }]),
      "CW-1",
    ],
    ["by a lost letter", row(9, "Zo? Holm", "", "", []), "CW-3"],
    ["by one slip and the class", row(9, "Zoe Hollm", "", "Hoops and Staff", []), "CW-3"],
  ])("is told %s", (_what, asked, number) => {
    const roster = source(
      "roster",
      BRAM_ONE,
      BRAM_TWO,
      row(4, "Zoë Holm", "CW-3", "Hoops and Staff", []),
    );
    const { questions, index } = derive([
      roster,
      source("form", { ...asked, teams: ["Night Parade"] }),
    ]);
    expect(questions).toEqual([]);
    expect(
      [...index.people.values()]
        .filter(({ cohorts }) => cohorts.has("team:night parade"))
        .map((person) => person.number),
    ).toEqual([number]);
  });

  const unclear = [
    source("roster", BRAM_ONE, BRAM_TWO),
    source(
      "team",
      row(5, "Bram Quist", "", "", [{ name: "Ida Quist", address: "ida@lettr.example" }], {
        teams: ["Night Parade"],
      }),
    ),
  ];

  test("is asked when two could be meant, with all sides, and the row waits", () => {
    const { questions, people } = derive(unclear);
    expect(questions).toMatchObject([
      {
        kind: "same student",
        about: "Which student is Bram Quist?",
        meanwhile: "This row waits and changes nothing.",
      },
    ]);
    expect(questions[0]?.sides.map(({ title }) => title)).toEqual([
      "Bram Quist",
      "Bram Quist, CW-1",
      "Bram Quist, CW-2",
    ]);
    expect(people).not.toContain("Ida Quist ida@lettr.example");
  });

  test("once answered is not asked again", () => {
    const { questions, index, people } = answered(unclear, "Bram Quist, CW-2");
    expect(questions).toEqual([]);
    expect(people).toContain("Ida Quist ida@lettr.example");
    expect([...index.people.values()].find(({ number }) => number === "CW-2")?.cohorts).toEqual(
      new Set(["class:acro pairs", "team:night parade"]),
    );
    const { index: other } = answered(unclear, "Somebody else");
    expect([...other.people.values()].filter(({ role }) => role === "student")).toHaveLength(3);
  });

  test("nearly a name with nothing else in common is asked", () => {
    const near = [
      source("roster", row(2, "Sunniva Hale", "CW-7", "Wire Walk", [])),
      source("team", row(3, "Suniva Hale", "", "Acro Pairs", [])),
    ];
    expect(derive(near).questions.map(({ about }) => about)).toEqual([
      "Is Suniva Hale the student Sunniva Hale?",
    ]);
    expect(answered(near, "One student").people).toEqual(["Sunniva Hale"]);
    expect(answered(near, "Somebody else").people).toEqual(["Suniva Hale", "Sunniva Hale"]);
  });
});

describe("of whom only a form tells", () => {
  const roster = source("roster", BRAM_ONE);
  const form = source(
    "form",
    row(
      7,
      "Odile Penhaligon",
      "",
      "Wire Walk",
      [{ name: "Oona Penhaligon", address: "oona@lettr.example" }],
      { answered: "2026-09-01" },
    ),
  );

  test("is asked about beside a roster, and waits; said to be here, is a student", () => {
    const { questions, people } = derive([roster, form]);
    expect(questions).toMatchObject([
      {
        kind: "student here",
        about:
          "Odile Penhaligon is in no roster, but somebody answered a form for them. Is Odile Penhaligon a student here?",
      },
    ]);
    expect(people).not.toContain("Odile Penhaligon");
    expect(answered([roster, form], "A student here")).toMatchObject({
      questions: [],
      people: expect.arrayContaining([
        "Odile Penhaligon",
        "Oona Penhaligon oona@lettr.example",
      ]) as string[],
    });
    expect(answered([roster, form], "Not a student here").questions).toEqual([]);
    expect(answered([roster, form], "Not a student here").people).not.toContain("Odile Penhaligon");
  });

  test("leaves with the roster's row, though the form still has an answer", () => {
    const before = derive([
      source("roster", BRAM_ONE, row(3, "Odile Penhaligon", "CW-5", "Wire Walk", [])),
      form,
    ]);
    expect(before.people).toContain("Odile Penhaligon");
    const { people, questions } = derive([roster, form], {}, before.facts);
    expect(people).not.toContain("Odile Penhaligon");
    expect(questions.map(({ kind }) => kind)).toEqual(["student here"]);
  });

  test("is a student where there is no roster at all", () =>
    expect(derive([form]).people).toContain("Odile Penhaligon"));
});

describe("is it one guardian", () => {
  const lone = [
    source(
      "roster",
      row(2, "Ida Brandt", "CW-1", "Wire Walk", [
        { name: "Halim Brandt", address: "halim@lettr.example" },
      ]),
      row(3, "Bram Brandt", "CW-2", "Acro Pairs", [{ name: "Halim Brandt" }]),
    ),
  ];

  test("one without an address who has a namesake near is asked about, and reached once joined", () => {
    expect(derive(lone).questions.map(({ about }) => about)).toEqual([
      "Is Halim Brandt, guardian of Ida Brandt, the same person as Halim Brandt, guardian of Bram Brandt?",
    ]);
    const { index, questions } = answered(lone, "One person");
    expect(questions).toEqual([]);
    expect(
      [...index.people.values()]
        .filter(({ role }) => role === "guardian")
        .map(({ ties, addresses }) => [ties.size, addresses.size]),
    ).toEqual([[2, 1]]);
  });

  test("said to be two, they stay two in every later reading", () => {
    const { questions, people } = answered(lone, "Two people");
    expect(questions).toEqual([]);
    expect(people.filter((line) => line.startsWith("Halim"))).toEqual([
      "Halim Brandt",
      "Halim Brandt halim@lettr.example",
    ]);
  });

  test("two of nearly one name on one child, from two sources, are asked about", () => {
    const two = [
      source(
        "roster",
        row(2, "Ida Brandt", "CW-1", "Wire Walk", [
          { name: "Sunniva Brandt", address: "sunniva@lettr.example" },
        ]),
      ),
      source(
        "long",
        row(3, "Ida Brandt", "CW-1", "Wire Walk", [
          { name: "Suniva Brandt", address: "s.brandt@oakmail.example" },
        ]),
      ),
    ];
    expect(derive(two).questions).toMatchObject([{ kind: "same guardian" }]);
    expect(answered(two, "One person").questions.map(({ kind }) => kind)).toEqual(["which value"]);
  });

  test("two of one name twice in one sheet are two, and nobody asks", () => {
    expect(
      derive([
        source(
          "roster",
          row(2, "Ida Brandt", "CW-1", "Wire Walk", [
            { name: "Halim Brandt", address: "a@lettr.example" },
            { name: "Halim Brandt", address: "b@lettr.example" },
          ]),
        ),
      ]).questions,
    ).toEqual([]);
  });

  test("joined and parted by hand, people stay so when the rows move", () => {
    const rows = [
      row(2, "Ida Brandt", "CW-1", "Wire Walk", [
        { name: "Halim Brandt", address: "a@lettr.example" },
      ]),
      row(3, "Bram Brandt", "CW-2", "Acro Pairs", [
        { name: "Halim Brandt", address: "b@lettr.example" },
      ]),
    ];
    const { index } = derive([source("roster", ...rows)]);
    const [one, other] = [...index.people.values()].filter(({ role }) => role === "guardian");
    if (one === undefined || other === undefined) throw new Error("two guardians were expected");
    const same: PersonLink = { says: "same", left: markOf(one), right: markOf(other) };
    const moved = source(
      "roster",
      ...[...rows].reverse().map((record, at) => ({ ...record, row: at + 20 })),
    );
    expect(
      derive([moved], { links: [same] }).people.filter((line) => line.startsWith("Halim")),
    ).toHaveLength(1);
    expect(
      derive([moved], { links: [same, { ...same, says: "other" }] }).people.filter((line) =>
        line.startsWith("Halim"),
      ),
    ).toEqual(["Halim Brandt a@lettr.example", "Halim Brandt b@lettr.example"]);
  });
});

describe("whom to believe", () => {
  const ida = (overrides: Partial<RowRecord>, address = "old@lettr.example") =>
    row(2, "Ida Brandt", "CW-1", "Wire Walk", [{ name: "Halim Brandt", address }], overrides);
  const halim = (sources: SourceRecords[], settings: Partial<DeriveSettings> = {}, stand?: Facts) =>
    derive(sources, settings, stand).people.find((line) => line.startsWith("Halim"));

  test("by hand over correction over the newer answer over the roster", () => {
    const roster = source("roster", ida({}));
    const form = source(
      "form",
      ida({ answered: "2026-09-01" }, "first@lettr.example"),
      ida({ row: 3, answered: "2026-10-01" }, "second@lettr.example"),
    );
    const corrected = source(
      "roster",
      ida({ corrected: new Map([["guardian.address 1", "c1"]]) }, "corrected@lettr.example"),
    );
    expect(halim([roster])).toBe("Halim Brandt old@lettr.example");
    expect(halim([roster, form])).toBe("Halim Brandt second@lettr.example");
    expect(halim([corrected, form])).toBe("Halim Brandt corrected@lettr.example");
    const { facts: stand, index } = derive([roster]);
    const person = [...index.people.values()].find(({ role }) => role === "guardian");
    const settled: SettledByHand = {
      subject: person?.id ?? "",
      kind: "address",
      facts: [{ ref: "hand@lettr.example", value: "" }],
      key: "",
      by: "Juno Abara",
      at: "2026-11-23",
    };
    expect(halim([corrected, form], { settled: [settled] }, stand)).toBe(
      "Halim Brandt hand@lettr.example",
    );
  });

  test("two rosters that differ are asked about, and the older holds meanwhile", () => {
    const two = [
      source("office", ida({ level: "3" })),
      source("coach", ida({ level: "4" }, "other@lettr.example")),
    ];
    const { questions, people, facts } = derive(two);
    expect(questions.map(({ about }) => about)).toEqual([
      "Two sources give different addresses for Halim Brandt. Which one is right?",
      "Two sources give a different level for Ida Brandt. Which one is right?",
    ]);
    expect(people).toContain("Halim Brandt old@lettr.example");
    expect(
      [...facts.values()].filter(({ kind }) => kind === "level").map(({ value }) => value),
    ).toEqual(["3"]);
    expect(answered(two, "other@lettr.example").people).toContain(
      "Halim Brandt other@lettr.example",
    );
    expect(answered(two, "Both").people).toContain(
      "Halim Brandt old@lettr.example other@lettr.example",
    );
  });

  test("an answered question about an address is asked again only when another address turns up", () => {
    const two = [source("office", ida({})), source("coach", ida({}, "other@lettr.example"))];
    expect(answered(two, "old@lettr.example").questions).toEqual([]);
    const [question] = derive(two).questions;
    const chosen = question?.choices[0];
    if (question === undefined || chosen === undefined) throw new Error("a question was expected");
    const third = [...two, source("club", ida({}, "third@lettr.example"))];
    expect(derive(third, settingsOf(question, chosen.answer)).questions).toHaveLength(1);
  });

  test("another source that names another class is asked about, and its class is there once it is chosen", () => {
    const two = [
      source("office", ida({})),
      source("form", ida({ answered: "2026-10-01", classes: ["Acro Pairs"] })),
    ];
    expect(derive(two).questions.map(({ about, meanwhile }) => [about, meanwhile])).toEqual([
      [
        "Two sources give different classes for Ida Brandt. Which is right?",
        "Wire Walk counts, as the older source says.",
      ],
    ]);
    const { index } = answered(two, "Acro Pairs");
    expect([...index.cohorts.values()].map(({ name }) => name)).toContain("Acro Pairs");
    expect(index.enrolled.get("class:acro pairs")?.size).toBe(1);
    expect(index.enrolled.get("class:wire walk")?.size ?? 0).toBe(0);
  });

  test.each([
    ["the same but for case and marks", "IDA BRANDT"],
    ["with a lost letter", "I?a Brandt"],
  ])("a name %s is no disagreement", (_what, name) => {
    expect(
      derive([source("office", ida({})), source("coach", { ...ida({}), name: split(name) })])
        .questions,
    ).toEqual([]);
  });
});
