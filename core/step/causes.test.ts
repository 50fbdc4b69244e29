import { describe, expect, test } from "vitest";
import { said, say } from "@amigo/language/say";
import { factKey, type Fact, type Facts } from "../facts/fact";
import { deriveFacts } from "../identity/deriveFacts";
import { applyCauses } from "./applyCauses";
import { carryByHand } from "./carryByHand";
import { findCauses } from "./findCauses";
import { planRound } from "./planRound";
import type { Change } from "./change";
import { FIRST_RECIPES, recipeFacts } from "../lists/firstRecipes";
import type { RowRecord } from "../sheet/rowRecord";

interface Guardian {
  name: string;
  address?: string;
  relationship?: string;
}

/** Ida Brandt, level 4, in Juggling One with her guardian Halim, unless told otherwise. */
function ida(
  overrides: Partial<RowRecord> = {},
  guardians: Guardian[] = [{ name: "Halim Brandt", address: "hbrandt@oakmail.example" }],
): RowRecord {
  return {
    sheet: "Roster",
    row: 41,
    number: "CW-4187",
    name: { given: "Ida", family: "Brandt" },
    level: "4",
    site: "Big Barn",
    classes: ["Juggling One"],
    teams: [],
    coach: "Teo Bramwell",
    address: undefined,
    answered: "",
    ...overrides,
    guardians: guardians.map(({ name, address, relationship = "" }, index) => ({
      slot: index + 1,
      name: { given: name.split(" ")[0] ?? "", family: name.split(" ")[1] ?? "" },
      address,
      written: address ?? "",
      column: 7,
      relationship,
    })),
  };
}

const bram = (overrides: Partial<RowRecord> = {}, guardians?: Guardian[]): RowRecord =>
  ida(
    { number: "CW-4190", name: { given: "Bram", family: "Brandt" }, row: 42, ...overrides },
    guardians,
  );
const facts = (records: RowRecord[], stand: Facts = new Map()): Facts =>
  deriveFacts([{ source: "s", reading: "r", records }], stand, { studentAddress: "" }).facts;

function causesFrom(before: RowRecord[], after: RowRecord[]): string[] {
  const stand = facts(before);
  return findCauses(stand, facts(after, stand)).map(
    ({ kind, sentence, detail }) => `${kind}: ${say(sentence)} (${say(detail)})`,
  );
}

describe("what a person would call it", () => {
  const cases: [string, RowRecord[], RowRecord[], string[]][] = [
    ["nothing", [ida()], [ida({ row: 99 })], []],
    [
      "joined",
      [bram()],
      [bram(), ida()],
      ["joined: Ida Brandt joined Juggling One (Juggling One, with 1 guardian)"],
    ],
    [
      "joined without a guardian",
      [bram()],
      [bram(), ida({}, [])],
      ["joined: Ida Brandt joined Juggling One (Juggling One, no guardian)"],
    ],
    ["left", [bram(), ida()], [bram()], ["left: Ida Brandt left (was in Juggling One)"]],
    [
      "moved",
      [bram({ classes: ["Juggling One", "Trapeze Two"] }), ida()],
      [bram({ classes: ["Juggling One", "Trapeze Two"] }), ida({ classes: ["Trapeze Two"] })],
      ["moved: Ida Brandt moved from Juggling One to Trapeze Two (Juggling One → Trapeze Two)"],
    ],
    [
      "in one more",
      [bram({ classes: ["Juggling One", "Trapeze Two"] }), ida()],
      [
        bram({ classes: ["Juggling One", "Trapeze Two"] }),
        ida({ classes: ["Juggling One", "Trapeze Two"] }),
      ],
      ["moved: Ida Brandt is in Trapeze Two as well (also in Trapeze Two now)"],
    ],
    [
      "in one less",
      [
        bram({ classes: ["Juggling One", "Trapeze Two"] }),
        ida({ classes: ["Juggling One", "Trapeze Two"] }),
      ],
      [bram({ classes: ["Juggling One", "Trapeze Two"] }), ida()],
      ["moved: Ida Brandt is no longer in Trapeze Two (no longer in Trapeze Two)"],
    ],
    [
      "renamed",
      [ida()],
      [ida({ name: { given: "Ida", family: "Brandt-Holm" } })],
      ["name: Ida Brandt is now called Ida Brandt-Holm (Ida Brandt → Ida Brandt-Holm)"],
    ],
    [
      "a new address",
      [ida()],
      [ida({}, [{ name: "Halim Brandt", address: "halim@lettr.example" }])],
      [
        "address: Halim Brandt, guardian of Ida Brandt has a new address (hbrandt@oakmail.example → halim@lettr.example)",
      ],
    ],
    [
      "an address lost",
      [ida()],
      [ida({}, [{ name: "Halim Brandt" }])],
      [
        "unreachable: Halim Brandt, guardian of Ida Brandt can no longer be reached (can no longer be reached at hbrandt@oakmail.example)",
      ],
    ],
    [
      "an address found",
      [ida({}, [{ name: "Halim Brandt" }])],
      [ida()],
      [
        "reachable: Halim Brandt, guardian of Ida Brandt can be reached now (can be reached at hbrandt@oakmail.example)",
      ],
    ],
    [
      "a guardian's name",
      [ida()],
      [ida({}, [{ name: "Halima Holm", address: "hbrandt@oakmail.example" }])],
      ["name: Halim Brandt is now called Halima Holm (Halim Brandt → Halima Holm)"],
    ],
    [
      "a guardian more",
      [ida()],
      [
        ida({}, [
          { name: "Halim Brandt", address: "hbrandt@oakmail.example" },
          { name: "Petra Ibsen", address: "p.ibsen@lettr.example" },
        ]),
      ],
      [
        "guardian-added: Petra Ibsen is now a guardian of Ida Brandt (is now a guardian of Ida Brandt)",
      ],
    ],
    [
      "a guardian less",
      [
        ida({}, [
          { name: "Halim Brandt", address: "hbrandt@oakmail.example" },
          { name: "Petra Ibsen", address: "p.ibsen@lettr.example" },
        ]),
      ],
      [ida()],
      [
        "guardian-gone: Petra Ibsen is no longer a guardian of Ida Brandt (is no longer a guardian of Ida Brandt)",
      ],
    ],
    [
      "another level",
      [ida()],
      [ida({ level: "5" })],
      ["detail: Ida Brandt: level 4 → 5 (level 4 → 5)"],
    ],
    [
      "a relationship",
      [ida()],
      [
        ida({}, [
          { name: "Halim Brandt", address: "hbrandt@oakmail.example", relationship: "Father" },
        ]),
      ],
      ["detail: Halim Brandt is father to Ida Brandt (is father to Ida Brandt)"],
    ],
    [
      "a new class",
      [bram()],
      [bram(), ida({ classes: ["Trapeze Two"], site: "Mill Loft" })],
      [
        "cohort: Trapeze Two is a new class (new class at Mill Loft)",
        "joined: Ida Brandt joined Trapeze Two (Trapeze Two, with 1 guardian)",
      ],
    ],
    [
      "another coach",
      [ida()],
      [ida({ coach: "Sunniva Hale" })],
      [
        "cohort: Juggling One: coach Teo Bramwell → Sunniva Hale (coach Teo Bramwell → Sunniva Hale)",
      ],
    ],
  ];
  test.each(cases)("%s", (_what, before, after, wanted) =>
    expect(causesFrom(before, after)).toEqual(wanted),
  );

  test("the last to leave a class takes the class along", () => {
    expect(causesFrom([ida()], [])).toEqual([
      "cohort: Juggling One is in no sheet any more (nobody is in it any more)",
      "left: Ida Brandt left (was in Juggling One)",
    ]);
  });

  test("a cause has the same key in every round, so that a held one is known again", () => {
    const stand = facts([bram(), ida()]);
    const keys = (): string[] =>
      findCauses(
        stand,
        facts(
          [bram(), ida({ level: "5" }, [{ name: "Halim Brandt", address: "new@lettr.example" }])],
          stand,
        ),
      ).map(({ key }) => key);
    expect(keys()).toEqual(keys());
    expect(new Set(keys()).size).toBe(keys().length);
  });
});

describe("what it does to the lists", () => {
  const RECIPES = recipeFacts(said(FIRST_RECIPES).slice(1, 2), {
    from: "hand",
    by: "a test",
    at: "",
  }).map((fact) => [factKey(fact), fact] as const);
  const kept = (side: "on" | "off", address: string, lastDay = ""): Fact => ({
    subject: "1:class:juggling one",
    kind: "kept",
    ref: address,
    value: { side, reason: "by wish", by: "Juno Abara", lastDay },
    origin: { from: "hand", by: "Juno Abara", at: "2026-09-01" },
  });
  const changes = (before: RowRecord[], after: RowRecord[], held: Fact[] = []): string[] => {
    const stand = new Map([
      ...RECIPES,
      ...facts(before),
      ...held.map((fact) => [factKey(fact), fact] as const),
    ]);
    const causes = findCauses(stand, carryByHand(stand, facts(after, stand), "2026-11-23"));
    const line = ({ kind, list: on, address, instead }: Change): string =>
      `${kind} ${on.slice("1:class:".length)} ${instead === undefined ? "" : `${instead} > `}${address}`;
    return causes.flatMap(({ key }) => (planRound(stand, causes).changes.get(key) ?? []).map(line));
  };

  test("a move takes the guardian along, who stays where a sibling is", () => {
    expect(changes([ida()], [ida({ classes: ["Trapeze Two"] })])).toEqual([
      "leaves juggling one hbrandt@oakmail.example",
      "joins trapeze two hbrandt@oakmail.example",
    ]);
    expect(changes([ida(), bram()], [ida({ classes: ["Trapeze Two"] }), bram()])).toEqual([
      "joins trapeze two hbrandt@oakmail.example",
    ]);
  });

  test("a new address takes the place of the old one; another person's at the same address stays", () => {
    const shared: Guardian[] = [
      { name: "Halim Brandt", address: "both@oakmail.example" },
      { name: "Petra Ibsen", address: "both@oakmail.example" },
    ];
    expect(
      changes([ida()], [ida({}, [{ name: "Halim Brandt", address: "new@lettr.example" }])]),
    ).toEqual(["replaced juggling one hbrandt@oakmail.example > new@lettr.example"]);
    expect(
      changes(
        [ida({}, shared)],
        [
          ida({}, [
            { name: "Halim Brandt", address: "new@lettr.example" },
            { name: "Petra Ibsen", address: "both@oakmail.example" },
          ]),
        ],
      ),
    ).toEqual(["joins juggling one new@lettr.example"]);
  });

  test("whoever is kept off stays off, whatever the sheet says", () => {
    expect(
      changes([bram({}, [])], [bram({}, []), ida()], [kept("off", "hbrandt@oakmail.example")]),
    ).toEqual([]);
  });

  test("whoever is kept on stays on when the last child leaves, and nobody is on twice", () => {
    expect(changes([ida()], [], [kept("on", "hbrandt@oakmail.example")])).toEqual([]);
    expect(
      changes([bram({}, [])], [bram({}, []), ida()], [kept("on", "hbrandt@oakmail.example")]),
    ).toEqual([]);
  });

  test("whoever is kept on joins nothing when the class comes back: they were on its list all the time", () => {
    const held = [kept("on", "office@lettr.example")];
    expect(changes([bram({}, [])], [bram({}, []), ida()], held)).toEqual([
      "joins juggling one hbrandt@oakmail.example",
    ]);
  });

  test("a class that is gone takes off its lists a child of whom a held cause says that they stay", () => {
    const stand = new Map([...RECIPES, ...facts([ida(), bram()])]);
    const causes = findCauses(stand, new Map([...RECIPES, ...facts([], stand)]));
    const holds = (cause: (typeof causes)[number]): boolean => cause.title === "Ida Brandt";
    const accepted = causes.filter((cause) => !holds(cause));
    const { changes: planned } = planRound(stand, accepted, causes.filter(holds));
    const left = accepted.flatMap(({ key }) => planned.get(key) ?? []);
    expect(left.map(({ kind, address }) => `${kind} ${address}`)).toContain(
      "leaves hbrandt@oakmail.example",
    );
    expect(causes.filter(holds).flatMap(({ key }) => planned.get(key) ?? [])).toEqual([]);
  });

  test.each([
    [
      "kept on, nobody else behind it",
      "on",
      "office@lettr.example",
      "2026-11-22",
      ["leaves juggling one office@lettr.example"],
    ],
    ["kept on, but a child is in the class", "on", "hbrandt@oakmail.example", "2026-11-22", []],
    [
      "kept off, and a child is in the class",
      "off",
      "hbrandt@oakmail.example",
      "2026-11-22",
      ["joins juggling one hbrandt@oakmail.example"],
    ],
    ["its last day is today", "on", "office@lettr.example", "2026-11-23", []],
  ] as const)("a last day that is over: %s", (_what, side, address, lastDay, wanted) => {
    expect(changes([ida()], [ida()], [kept(side, address, lastDay)])).toEqual(wanted);
  });

  test("accepting only some causes leaves a guardian whom a held sibling still needs", () => {
    const stand = facts([ida(), bram()]);
    const causes = findCauses(stand, facts([], stand));
    const left = causes.filter(({ title }) => title === "Ida Brandt");
    expect(
      [...applyCauses(stand, left).values()].filter(({ kind }) => kind === "guardian"),
    ).toHaveLength(1);
    expect(applyCauses(stand, causes).size).toBe(0);
  });
});
