import { describe, expect, test } from "vitest";
import { mention, named, recordOf } from "../testing/mention";
import { clusterGuardians, type Mention } from "./clusterGuardians";
import { CohortVotes } from "./cohortVotes";
import { officeAddresses } from "./officeAddresses";
import type { PersonLink, PersonMark } from "./personLink";

/** Which of some mentions are one person, by their places in the list. */
function together(...mentions: Mention[]): number[][] {
  return clusterGuardians(mentions)
    .map((cluster) => cluster.map((one) => mentions.indexOf(one)).sort())
    .sort(([a = 0], [b = 0]) => a - b);
}
const at = (address: string) => ({ address });
const answered = (time: string) => recordOf({ answered: time });

describe("mentions of guardians", () => {
  test.each<[string, Mention[], number[][]]>([
    [
      "one address and one name are one person, whatever the student and the source",
      [
        mention("Robin Oak", at("oak@oakmail.example")),
        mention("robin oak", { ...at("oak@oakmail.example"), student: "t", source: "form" }),
      ],
      [[0, 1]],
    ],
    [
      "one address and two names are two",
      [
        mention("Robin Oak", at("oak@oakmail.example")),
        mention("Alex Elm", { ...at("oak@oakmail.example"), student: "t" }),
      ],
      [[0], [1]],
    ],
    [
      "one address and nearly one name are one",
      [
        mention("Robin Oak", at("oak@oakmail.example")),
        mention("R Oak", { ...at("oak@oakmail.example"), student: "t" }),
      ],
      [[0, 1]],
    ],
    [
      "the exact name comes before one that is near",
      [
        mention("R Oak", at("oak@oakmail.example")),
        mention("Rita Oak", { ...at("oak@oakmail.example"), student: "t" }),
        mention("Rita Oak", { ...at("oak@oakmail.example"), student: "u" }),
      ],
      [[0, 1, 2]],
    ],
    [
      "without an address, one joins the person of that name at the same student",
      [
        mention("Robin Oak", at("oak@oakmail.example")),
        mention("Robin Oak", { source: "form", reading: "f" }),
      ],
      [[0, 1]],
    ],
    [
      "also where the name is only near",
      [
        mention("Robin Oak", at("oak@oakmail.example")),
        mention("R Oak", { source: "form", reading: "f" }),
      ],
      [[0, 1]],
    ],
    [
      "but not somebody of another name",
      [
        mention("Robin Oak", at("oak@oakmail.example")),
        mention("Alex Elm", { source: "form", reading: "f" }),
      ],
      [[0], [1]],
    ],
    [
      "nor anybody where no name is written",
      [
        mention("Robin Oak", at("oak@oakmail.example")),
        mention("", { source: "form", reading: "f" }),
      ],
      [[0], [1]],
    ],
    [
      "nor somebody without a name",
      [
        mention("", at("oak@oakmail.example")),
        mention("Robin Oak", { source: "form", reading: "f" }),
      ],
      [[0], [1]],
    ],
    [
      "nor at another student",
      [
        mention("Robin Oak", at("oak@oakmail.example")),
        mention("Robin Oak", { student: "t", source: "form", reading: "f" }),
      ],
      [[0], [1]],
    ],
    [
      "but where another guardian has both students",
      [
        mention("Kim Oak", at("kim@oakmail.example")),
        mention("Kim Oak", { ...at("kim@oakmail.example"), student: "t" }),
        mention("Robin Oak", at("oak@oakmail.example")),
        mention("Robin Oak", { student: "t", source: "form", reading: "f" }),
      ],
      [
        [0, 1],
        [2, 3],
      ],
    ],
    [
      "where two could be meant, nobody is",
      [
        mention("R Oak", at("a@oakmail.example")),
        mention("R Oak", { ...at("b@oakmail.example"), slot: 2 }),
        mention("Robin Oak", { source: "form", reading: "f" }),
      ],
      [[0], [1], [2]],
    ],
  ])("%s", (_, mentions, expected) => {
    expect(together(...mentions)).toEqual(expected);
  });

  test("in one row are two people, however alike their names are", () => {
    const record = recordOf();
    expect(
      together(
        mention("Robin Oak", { ...at("oak@oakmail.example"), record }),
        mention("Robin Oak", { record, slot: 2 }),
      ),
    ).toEqual([[0], [1]]);
  });

  test("of one name on one student in two sources are one person with two addresses", () => {
    expect(
      together(
        mention("Robin Oak", at("old@oakmail.example")),
        mention("Robin Oak", { ...at("new@lettr.example"), source: "form", reading: "f" }),
      ),
    ).toEqual([[0, 1]]);
    // In two rows of one sheet they are two; answered again in a form, one.
    expect(
      together(
        mention("Robin Oak", at("old@oakmail.example")),
        mention("Robin Oak", { ...at("new@lettr.example"), row: 3 }),
      ),
    ).toEqual([[0], [1]]);
    expect(
      together(
        mention("Robin Oak", { ...at("old@oakmail.example"), record: answered("2026-09-01") }),
        mention("Robin Oak", { ...at("new@lettr.example"), record: answered("2026-10-01") }),
      ),
    ).toEqual([[0, 1]]);
  });

  test("where several of a name could be meant, join the one whose address looks most like theirs", () => {
    const two = (first: string, second: string, third: string): number[][] =>
      together(
        mention("Robin Oak", at(first)),
        mention("Robin Oak", { ...at(second), row: 3 }),
        mention("Robin Oak", { ...at(third), source: "form", reading: "f" }),
      );
    expect(two("x@fernpost.example", "oak@oakmail.example", "oak.new@lettr.example")).toEqual([
      [0],
      [1, 2],
    ]);
    expect(two("oak@oakmail.example", "x@fernpost.example", "oak.new@lettr.example")).toEqual([
      [0, 2],
      [1],
    ]);
    expect(two("a@fernpost.example", "b@lettr.example", "c@lettr.example")).toEqual([[0], [1, 2]]);
    // A mailbox that holds the other says more than a domain.
    expect(two("zz@lettr.example", "oak@fernpost.example", "oak7@lettr.example")).toEqual([
      [0],
      [1, 2],
    ]);
    // Among equals it is the first.
    expect(two("a@fernpost.example", "b@oakmail.example", "c@lettr.example")).toEqual([
      [0, 2],
      [1],
    ]);
  });
});

describe("an address with many children", () => {
  const SURNAMES = ["Oak", "Elm", "Ash", "Yew", "Pine", "Fir", "Bay"];
  const class_ = (children: number, surnames: number, link: PersonLink[] = []) => {
    const mentions = Array.from({ length: children }, (_, index) =>
      mention("Ravi Lindqvist", {
        ...at("office@copperwheel.example"),
        student: `s${index}`,
        row: index + 2,
      }),
    );
    const names = new Map(
      mentions.map(({ student }, index) => [
        student,
        recordOf({
          name: named(`Ida ${SURNAMES[index % surnames] ?? ""}`),
          classes: ["Wire Walk"],
        }),
      ]),
    );
    return officeAddresses(mentions, names, link);
  };
  const mark = (more: Partial<PersonMark> = {}): PersonMark => ({
    role: "guardian",
    names: [],
    numbers: [],
    students: [],
    addresses: ["office@copperwheel.example"],
    places: [],
    ...more,
  });
  const says = (word: "here" | "gone" | "same", left = mark()): PersonLink => ({
    says: word,
    left,
    right: left,
  });

  test.each([
    [6, 4, 1],
    [5, 5, 0],
    [6, 3, 0],
    [7, 7, 1],
  ])("%i of %i surnames: is asked about %i times", (children, surnames, expected) => {
    const found = class_(children, surnames);
    expect([found.set.size, found.questions.length]).toEqual([expected, expected]);
  });

  test("is asked about with some of the children, where it stands, and both answers", () => {
    const [question] = class_(7, 7).questions;
    expect(question).toMatchObject({
      key: "whose address office@copperwheel.example",
      kind: "whose address",
      sides: [
        {
          title: "Ravi Lindqvist, office@copperwheel.example",
          lines: [
            "Ida Oak, Wire Walk",
            "Ida Elm, Wire Walk",
            "Ida Ash, Wire Walk",
            "Ida Yew, Wire Walk",
          ],
          where: {
            from: "row",
            source: "roster",
            reading: "2",
            sheet: "Sheet",
            row: 2,
            meaning: "guardian.address",
            slot: 1,
          },
        },
      ],
      choices: [
        { id: "gone", answer: { does: "link", links: [{ says: "gone", left: mark() }] } },
        { id: "here", answer: { does: "link", links: [{ says: "here", left: mark() }] } },
      ],
    });
  });

  test.each<[string, PersonLink[], number, number]>([
    ["a guardian's, it is", [says("here")], 0, 0],
    ["the office's, it is nobody's and not asked about again", [says("gone")], 1, 0],
    ["first one and then the other, the last counts", [says("here"), says("gone")], 1, 0],
    ["something else, it is still asked", [says("same")], 1, 1],
    [
      "something of a person at the address, it is still asked",
      [says("here", mark({ names: ["Ravi Lindqvist"] }))],
      1,
      1,
    ],
    [
      "something of a student at the address, it is still asked",
      [says("here", mark({ role: "student" }))],
      1,
      1,
    ],
    [
      "something of another address, it is still asked",
      [says("here", mark({ addresses: ["a@oakmail.example"] }))],
      1,
      1,
    ],
  ])("where somebody has said that it is %s", (_, links, set, questions) => {
    const found = class_(7, 7, links);
    expect([found.set.size, found.questions.length]).toEqual([set, questions]);
  });

  test("counts a child once, and mentions without an address not at all", () => {
    const same = Array.from({ length: 9 }, () => mention("A B", at("a@oakmail.example")));
    const none = Array.from({ length: 9 }, (_, index) => mention("A B", { student: `s${index}` }));
    expect(officeAddresses([...same, ...none], new Map(), []).set.size).toBe(0);
  });
});

describe("what a class is called, where it is and who coaches it", () => {
  const origin = { from: "row" } as never;
  const settle = (...votes: [name: string, site: string, coach: string, weight: number][]) => {
    const cohorts = new CohortVotes();
    for (const [name, site, coach, weight] of votes)
      cohorts.cast("class:wire", "class", name, recordOf({ site, coach }), weight, origin);
    return cohorts.count()[0]?.value;
  };

  test("is what most rows say, those that name this class alone before others", () => {
    expect(
      settle(
        ["Wire Walk", "Mill Loft", "Ravi Lindqvist", 1],
        ["WIRE WALK", "Big Barn", "Marta Okonjo", 3],
        ["Wire Walk", "Mill Loft", "Ravi Lindqvist", 1],
      ),
    ).toEqual({ name: "Wire Walk", kind: "class", site: "Big Barn", coach: "Marta Okonjo" });
  });

  test("isn't what rows leave empty, and is the first by the alphabet among equals", () => {
    expect(
      settle(
        ["B", "", "", 5],
        ["A", "Mill Loft", "", 1],
        ["A", "Big Barn", "Zoe", 1],
        ["B", "", "", 1],
      ),
    ).toEqual({ name: "A", kind: "class", site: "Big Barn", coach: "Zoe" });
    expect(settle(["A", "", "", 1])).toEqual({ name: "A", kind: "class", site: "", coach: "" });
  });
});
