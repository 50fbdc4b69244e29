import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { said, say } from "@amigo/language/say";
import { factKey, type Facts } from "../facts/fact";
import { indexFacts } from "../facts/indexFacts";
import { clusterGuardians } from "../identity/clusterGuardians";
import { deriveFacts } from "../identity/deriveFacts";
import { families } from "../identity/families";
import { sameName } from "../identity/sameName";
import { applyCauses } from "./applyCauses";
import { findCauses } from "./findCauses";
import { standingGuards } from "./guards/allGuards";
import type { ListBeforeAfter, RoundToGuard, SourceToGuard } from "./guards/guard";
import { LIMITS } from "./guards/limits";
import { FIRST_RECIPES, recipeFacts } from "../lists/firstRecipes";
import { wantedLists } from "../lists/sharedWanted";
import { ListBook, membersOf } from "./listMembers";
import { planRound } from "./planRound";
import type { RowRecord } from "../sheet/rowRecord";

const CLASSES = ["Wire Walk", "Acro Pairs", "Trapeze Two"];
const SETTINGS = { studentAddress: "" };

interface Child {
  number: number;
  name: string;
  classes: string[];
  guardians: { name: string; address: string | undefined }[];
}

function recordOf({ number, name, classes, guardians }: Child, row: number): RowRecord {
  return {
    sheet: "S",
    row,
    number: `CW-${number}`,
    name: { given: name, family: "Quist" },
    level: "",
    site: "Mill Loft",
    classes,
    teams: [],
    coach: "",
    address: undefined,
    answered: "",
    guardians: guardians.map(({ name: eachName, address }, index) => ({
      slot: index + 1,
      name: { given: eachName, family: "Quist" },
      address,
      written: address ?? "",
      column: 3,
      relationship: "",
    })),
  };
}

function factsOf(children: readonly Child[], stand: Facts = new Map()): Facts {
  return deriveFacts(
    [
      {
        source: "s",
        reading: "r",
        records: children.map((child, index) => recordOf(child, index + 2)),
      },
    ],
    stand,
    SETTINGS,
  ).facts;
}

const RECIPES = recipeFacts(said(FIRST_RECIPES), { from: "hand", by: "a test", at: "" });

/** The same facts in a house with recipes. */
function withRecipes(facts: Facts): Facts {
  return new Map([...facts, ...RECIPES.map((fact) => [factKey(fact), fact] as const)]);
}

/** Who is on which list, by looking at everybody again. */
function membersIn(facts: Facts): ReturnType<typeof membersOf> {
  const index = indexFacts(withRecipes(facts));
  return membersOf(index, new ListBook(wantedLists(index).values()));
}

const flat = (members: ReturnType<typeof membersOf>): string[] =>
  [...members]
    .flatMap(([list, addresses]) => [...addresses.keys()].map((address) => `${list} ${address}`))
    .sort();

const guardian = fc.record({
  name: fc.constantFrom("Ana", "Otto", "Una", "Ravi", "Tove"),
  address: fc.option(
    fc.constantFrom(
      "a@lettr.example",
      "b@lettr.example",
      "c@oakmail.example",
      "d@oakmail.example",
      "e@fernpost.example",
    ),
    { nil: undefined },
  ),
});
const child = fc.record({
  number: fc.integer({ min: 1, max: 12 }),
  name: fc.constantFrom("Bram", "Ida", "Wren", "Freya"),
  classes: fc.subarray(CLASSES, { minLength: 1 }),
  guardians: fc.uniqueArray(guardian, { maxLength: 2, selector: ({ name }) => name }),
});
const sheet = fc.uniqueArray(child, { maxLength: 12, selector: ({ number }) => number });

describe("any sequence of readings", () => {
  test("applied and read again gives no changes", () => {
    fc.assert(
      fc.property(sheet, sheet, (first, second) => {
        const stand = applyCauses(new Map(), findCauses(new Map(), factsOf(first)));
        const after = applyCauses(stand, findCauses(stand, factsOf(second, stand)));
        expect(findCauses(after, factsOf(second, after)).map(({ key }) => key)).toEqual([]);
      }),
    );
  });

  test("puts no address twice on a list, and the changes of the causes add up to the difference", () => {
    fc.assert(
      fc.property(sheet, sheet, (first, second) => {
        const stand = applyCauses(new Map(), findCauses(new Map(), factsOf(first)));
        const proposed = factsOf(second, stand);
        const causes = findCauses(stand, proposed);
        const before = new Set(flat(membersIn(stand)));
        for (const { list, kind, address, instead } of causes.flatMap(
          (cause) => planRound(withRecipes(stand), causes).changes.get(cause.key) ?? [],
        )) {
          if (kind !== "joins") expect(before.delete(`${list} ${instead ?? address}`)).toBe(true);
          if (kind !== "leaves") {
            expect(before.has(`${list} ${address}`)).toBe(false);
            before.add(`${list} ${address}`);
          }
        }
        expect([...before].sort()).toEqual(flat(membersIn(applyCauses(stand, causes))));
      }),
      { numRuns: 60 },
    );
  });

  test("does not depend on the order of the rows", () => {
    fc.assert(
      fc.property(sheet, fc.infiniteStream(fc.nat()), (children, order) => {
        const shuffled = children
          .map((child) => ({ own: child, at: order.next().value ?? 0 }))
          .sort((a, b) => a.at - b.at)
          .map(({ own: item }) => item);
        const names = (facts: Facts): string[] =>
          findCauses(new Map(), facts)
            .map(({ kind, title, detail }) => `${kind} ${say(title)} ${say(detail)}`)
            .sort();
        expect(names(factsOf(shuffled))).toEqual(names(factsOf(children)));
      }),
    );
  });

  test("held causes leave everything of theirs as it was", () => {
    fc.assert(
      fc.property(sheet, sheet, (first, second) => {
        const stand = applyCauses(new Map(), findCauses(new Map(), factsOf(first)));
        expect([...applyCauses(stand, []).keys()].sort()).toEqual([...stand.keys()].sort());
        const causes = findCauses(stand, factsOf(second, stand));
        const half = causes.filter((_, index) => index % 2 === 0);
        const again = findCauses(
          applyCauses(stand, half),
          factsOf(second, applyCauses(stand, half)),
        );
        const left = causes
          .filter((_, index) => index % 2 === 1)
          .filter(({ kind }) => kind === "left")
          .map(({ key }) => key);
        for (const key of left) expect(again.map((cause) => cause.key)).toContain(key);
      }),
      { numRuns: 60 },
    );
  });
});

describe("people", () => {
  const one = (
    number: number,
    name: string,
    guardians: Child["guardians"],
    classes = ["Wire Walk"],
  ): Child => ({ number, name, classes, guardians });
  const guardiansOf = (children: Child[]): number =>
    [...indexFacts(factsOf(children)).people.values()].filter(({ role }) => role === "guardian")
      .length;

  test("one guardian of three children is one; two who share an address stay two", () => {
    const ana = { name: "Ana", address: "a@lettr.example" };
    expect(guardiansOf([one(1, "Bram", [ana]), one(2, "Ida", [ana]), one(3, "Wren", [ana])])).toBe(
      1,
    );
    expect(guardiansOf([one(1, "Bram", [ana, { name: "Otto", address: "a@lettr.example" }])])).toBe(
      2,
    );
  });

  test("a guardian without an address is the one of that name beside the same other guardian, never a stranger of that name", () => {
    const otto = { name: "Otto", address: "o@lettr.example" };
    expect(
      guardiansOf([
        one(1, "Bram", [{ name: "Ana", address: "a@lettr.example" }, otto]),
        one(2, "Ida", [{ name: "Ana", address: undefined }, otto]),
      ]),
    ).toBe(2);
    expect(
      guardiansOf([
        one(1, "Bram", [{ name: "Ana", address: "a@lettr.example" }]),
        one(2, "Ida", [{ name: "Ana", address: undefined }]),
      ]),
    ).toBe(2);
    expect(clusterGuardians([])).toEqual([]);
  });

  test("siblings are one family through their guardian", () => {
    const ana = { name: "Ana", address: "a@lettr.example" };
    const index = indexFacts(
      factsOf([
        one(1, "Bram", [ana]),
        one(2, "Ida", [ana]),
        one(3, "Wren", [{ name: "Una", address: "u@lettr.example" }]),
      ]),
    );
    const family = families(index);
    expect(new Set([...index.people.keys()].map((id) => family.get(id))).size).toBe(2);
  });

  test("the last of two siblings to leave takes the shared guardian along, the first does not", () => {
    const ana = { name: "Ana", address: "a@lettr.example" };
    const stand = factsOf([one(1, "Bram", [ana]), one(2, "Ida", [ana])]);
    const causes = findCauses(stand, factsOf([], stand)).filter(({ kind }) => kind === "left");
    const plan = planRound(withRecipes(stand), causes);
    expect(causes.map(({ key }) => plan.changes.get(key)?.length)).toEqual([0, 1]);
    expect(indexFacts(applyCauses(stand, causes.slice(0, 1))).people.size).toBe(2);
    expect(indexFacts(applyCauses(stand, causes)).people.size).toBe(0);
  });

  test.each([
    ["Bram Quist", "Quist Bram", true],
    ["Zoë Łoziński", "Zoe Lozinski", true],
    ["B Quist", "Bram Quist", true],
    ["Zo? Łozi?ski", "Zoë Łoziński", true],
    ["Sunniva Hale", "Suniva Hale", true],
    ["Ana Quist", "Una Quist", false],
    ["Bram Quist", "Bram Holm", false],
  ])("%s and %s: %s", (left, right, wanted) => {
    const name = (text: string) => ({
      given: text.split(" ")[0] ?? "",
      family: text.split(" ")[1] ?? "",
    });
    expect(sameName(name(left), name(right))).toBe(wanted);
  });
});

describe("guards", () => {
  const list = (
    before: number,
    leaves: number,
    joins = 0,
    overrides: Partial<ListBeforeAfter> = {},
  ): ListBeforeAfter => ({
    key: "l",
    name: "Wire Walk, guardians",
    before,
    leaves,
    joins,
    outsideJoins: 0,
    ...overrides,
  });
  const source = (overrides: Partial<SourceToGuard> = {}): SourceToGuard => ({
    name: "Roster",
    rowsBefore: 220,
    rowsNow: 220,
    gone: [],
    writtenBefore: "",
    writtenNow: "",
    seasons: [],
    limits: {},
    ...overrides,
  });
  const standing = (round: Partial<RoundToGuard>) =>
    standingGuards({
      lists: [],
      sources: [],
      shared: [],
      season: "2026-27",
      limits: LIMITS,
      ...round,
    });
  test.each([
    [list(40, 4), []],
    [list(41, 5), ["list-loses-many"]],
    [list(20, 3), []],
    [list(4, 4), ["list-becomes-empty"]],
    [list(4, 4, 1), ["list-loses-many"]],
    [list(0, 0, 9), []],
  ])("%j", (one, wanted) =>
    expect(standing({ lists: [one] }).map(({ id }) => id.split(" ")[0])).toEqual(wanted),
  );

  test.each<[string, Partial<RoundToGuard>, string[]]>([
    ["a tenth of the rows gone is let go", { sources: [source({ rowsNow: 198 })] }, []],
    ["more than a tenth is not", { sources: [source({ rowsNow: 197 })] }, ["source-lost-rows 23"]],
    [
      "a source's own limit comes before the house's",
      { sources: [source({ rowsNow: 150, limits: { sourceShare: 0.5 } })] },
      [],
    ],
    [
      "the house's limits come before Amigo's",
      { lists: [list(40, 4)], limits: { ...LIMITS, listFew: 1, listShare: 0.05 } },
      ["list-loses-many 4"],
    ],
    [
      "a needed column is gone",
      { sources: [source({ gone: ['Classes ("Class(es)")', 'Guardian 2 address ("Email 2")'] })] },
      ["column-gone 2"],
    ],
    [
      "the file is older than the last",
      {
        sources: [
          source({ writtenBefore: "2026-11-20T10:00:00Z", writtenNow: "2026-11-18T09:30:00Z" }),
        ],
      },
      ["older-file 48"],
    ],
    [
      "a file older by minutes only is not",
      {
        sources: [
          source({ writtenBefore: "2026-11-20T10:00:00Z", writtenNow: "2026-11-20T09:20:00Z" }),
        ],
      },
      [],
    ],
    [
      "the same or a newer file is not",
      {
        sources: [
          source({ writtenBefore: "2026-11-20T10:00:00Z", writtenNow: "2026-11-20T10:00:00Z" }),
        ],
      },
      [],
    ],
    [
      "an unknown time is not",
      { sources: [source({ writtenBefore: "2026-11-20T10:00:00Z" })] },
      [],
    ],
    [
      "the sheet is of last season",
      { sources: [source({ seasons: ["2025-26"] })] },
      ["other-season 2025"],
    ],
    [
      "a sheet that names this season among others is not",
      { sources: [source({ seasons: ["2025-26", "2026-27"] })] },
      [],
    ],
    [
      "an inside list gains outside addresses",
      { lists: [list(40, 0, 3, { outsideJoins: 2 })] },
      ["outside-on-inside 2"],
    ],
    [
      "one address for many families",
      { shared: [{ address: "office@copperwheel.example", families: 4, before: 0 }] },
      ["address-of-many 4"],
    ],
    [
      "one that had them before is not new",
      { shared: [{ address: "office@copperwheel.example", families: 4, before: 4 }] },
      [],
    ],
    [
      "one for three families is a large family's",
      { shared: [{ address: "a@lettr.example", families: 3, before: 0 }] },
      [],
    ],
  ])("%s", (_what, round, wanted) => {
    const guards = standing(round);
    expect(guards.map(({ id, count }) => `${id.split(" ")[0]} ${count}`)).toEqual(wanted);
    expect(
      guards.every(({ sentence, count }) =>
        /[.?]$/.test(say(sentence)) ? String(count) !== "0" : false,
      ),
    ).toBe(true);
  });
});
