import { describe, expect, test } from "vitest";
import { said } from "@amigo/language/say";
import { factKey, keyOf, type Fact, type Facts } from "../facts/fact";
import { indexFacts } from "../facts/indexFacts";
import { origin, smallHouse } from "../testing/smallHouse";
import { applyEdit, staffFacts, type Edit, type EditContext } from "./edit";
import { FIRST_RECIPES, recipeFacts } from "./firstRecipes";
import type { RecipeValue } from "./recipe";

const CONTEXT: EditContext = {
  keptAsMade: "added when the list was made",
  origin,
  season: "2026-27",
  codes: new Map([["Mill Loft", "ML"]]),
  naming: { longest: 30, reserved: new Set(), heldBy: () => undefined },
};
const RECIPES = said(FIRST_RECIPES) as RecipeValue[];

function house(...more: Fact[]): Map<string, Fact> {
  const facts = [...smallHouse().values(), ...recipeFacts(said(FIRST_RECIPES), origin), ...more];
  return new Map(facts.map((fact) => [factKey(fact), fact]));
}

/** What an edit adds, changes and removes, by the keys of facts. */
function difference(stand: Facts, edit: Edit): { puts: string[]; removes: string[] } {
  const after = applyEdit(stand, edit, CONTEXT);
  return {
    puts: [...after].filter(([key, fact]) => stand.get(key) !== fact).map(([key]) => key),
    removes: [...stand.keys()].filter((key) => !after.has(key)),
  };
}

const NO_HOUSE_RULES = { bounds: {}, invariants: {}, presets: {} } as const;

describe("an edit of the house's rules", () => {
  const set: Edit = {
    what: "house",
    aliasUntil: "",
    bounds: { "staff outside": { allowed: "none", usual: "none" } },
    invariants: { "closed-needs-lead": "off" },
    presets: { homework: { name: "Homework", what: "for tasks", writers: "members" } },
  };
  const keys = [
    keyOf("house", "bound", "staff outside"),
    keyOf("house", "invariant", "closed-needs-lead"),
    keyOf("preset:homework", "preset"),
  ];

  test("sets what was chosen, and nothing else", () => {
    expect(difference(house(), set)).toEqual({ puts: keys, removes: [] });
    const { bounds, invariantsOff, presets } = indexFacts(applyEdit(house(), set, CONTEXT));
    expect(bounds.get("staff outside")).toEqual({ allowed: "none", usual: "none" });
    expect([...invariantsOff]).toEqual(["closed-needs-lead"]);
    expect(presets.get("homework")).toEqual({
      name: "Homework",
      what: "for tasks",
      rules: { writers: "members" },
    });
  });

  test("takes each back alone", () => {
    const stand = applyEdit(house(), set, CONTEXT);
    const back = (part: Partial<Extract<Edit, { what: "house" }>>): string[] =>
      difference(stand, { what: "house", aliasUntil: "", ...NO_HOUSE_RULES, ...part }).removes;
    expect(back({ bounds: { "staff outside": null } })).toEqual([keys[0]]);
    expect(back({ invariants: { "closed-needs-lead": null } })).toEqual([keys[1]]);
    expect(back({ presets: { homework: null } })).toEqual([keys[2]]);
    expect(back({})).toEqual([]);
  });
});

describe("an edit of the staff", () => {
  const KIT = { id: "account:kit", name: "Kit Ames", email: "kit@copperwheel.example", site: "" };

  test("makes somebody known with their name, address and site", () => {
    expect(staffFacts({ ...KIT, site: "Big Barn" }, origin)).toEqual([
      { subject: KIT.id, kind: "staff", ref: "", value: "", origin },
      { subject: KIT.id, kind: "name", ref: "", value: { given: "Kit", family: "Ames" }, origin },
      { subject: KIT.id, kind: "address", ref: KIT.email, value: "", origin },
      { subject: KIT.id, kind: "site", ref: "", value: "Big Barn", origin },
    ]);
    expect(staffFacts(KIT, origin).map(({ kind }) => kind)).toEqual(["staff", "name", "address"]);
  });

  test("replaces everything that was known of somebody, and removes who is gone", () => {
    const stand = house(...staffFacts({ ...KIT, site: "Big Barn" }, origin));
    const staff = (people: (typeof KIT)[], gone: string[]): Edit => ({
      what: "staff",
      people,
      gone,
      aliasUntil: "",
    });
    const moved = applyEdit(
      stand,
      staff([{ ...KIT, email: "k@copperwheel.example" }], []),
      CONTEXT,
    );
    expect(indexFacts(moved).people.get(KIT.id)).toMatchObject({
      role: "staff",
      site: "",
      addresses: new Set(["k@copperwheel.example"]),
    });
    expect(difference(stand, staff([], [KIT.id])).removes).toHaveLength(4);
    expect(difference(stand, staff([], ["account:nobody"]))).toEqual({ puts: [], removes: [] });
  });
});

describe("an edit of names", () => {
  const names = (part: Partial<Extract<Edit, { what: "names" }>>): Edit => ({
    what: "names",
    patterns: {},
    shorts: {},
    names: {},
    aliasUntil: "",
    ...part,
  });

  test("changes the pattern of a recipe alone, and of none that isn't there", () => {
    const after = applyEdit(house(), names({ patterns: { 1: "{class}-all", 99: "x" } }), CONTEXT);
    expect(indexFacts(after).recipes.get(1)).toEqual({ ...RECIPES[0], pattern: "{class}-all" });
    expect(indexFacts(after).recipes.has(99)).toBe(false);
  });

  test("sets short forms by the folded name, and removes them", () => {
    const short = names({ shorts: { "Wire WALK": "wire" } });
    const stand = applyEdit(house(), short, CONTEXT);
    expect(indexFacts(stand).shorts.get("wire walk")).toBe("wire");
    expect(difference(stand, names({ shorts: { "Wire Walk": null } }))).toEqual({
      puts: [],
      removes: [keyOf("short:wire walk", "short")],
    });
  });

  const KEY = "2:class:wire walk";
  const name = (value: string): Fact => ({
    subject: KEY,
    kind: "list",
    ref: "name",
    value,
    origin,
  });

  test("keeps the old name until a day, and for no day at all without one", () => {
    const stand = house(name("old"));
    const until = (aliasUntil: string, to: string) =>
      indexFacts(applyEdit(stand, names({ names: { [KEY]: to }, aliasUntil }), CONTEXT));
    expect(until("2027-07-31", "new").aliases.get(KEY)).toEqual(new Map([["old", "2027-07-31"]]));
    expect(until("", "new").aliases.get(KEY)).toBeUndefined();
    expect(until("2027-07-31", "old").aliases.get(KEY)).toBeUndefined();
  });

  test("makes no alias of a name that is the list's again, nor of another point", () => {
    const alias: Fact = { subject: KEY, kind: "alias", ref: "old", value: "2027-07-31", origin };
    const title: Fact = { subject: KEY, kind: "list", ref: "title", value: "old", origin };
    const stand = house(name("new"), alias, title);
    const after = applyEdit(
      stand,
      {
        what: "names",
        patterns: {},
        shorts: {},
        names: { [KEY]: "old" },
        aliasUntil: "2027-07-31",
      },
      CONTEXT,
    );
    expect([...(indexFacts(after).aliases.get(KEY) ?? [])]).toEqual([["new", "2027-07-31"]]);
    const renamed = applyEdit(
      stand,
      {
        what: "lists",
        aliasUntil: "2027-07-31",
        lists: [{ key: KEY, points: { title: "Something else" } }],
      },
      CONTEXT,
    );
    expect([...(indexFacts(renamed).aliases.get(KEY) ?? [])]).toEqual([["old", "2027-07-31"]]);
  });
});

describe("an edit of a recipe", () => {
  const change = (stand: Facts, value: RecipeValue | null) =>
    indexFacts(applyEdit(stand, { what: "recipe", recipe: 2, value, aliasUntil: "" }, CONTEXT));
  const old = RECIPES[1] as RecipeValue;
  const named = (key: string, value: string): Fact => ({
    subject: key,
    kind: "list",
    ref: "name",
    value,
    origin,
  });

  test("renames the lists that were named by its old pattern, and leaves those with a name of their own", () => {
    const first = change(house(), { ...old, pattern: "{class}-p" });
    expect(first.lists.get("2:class:wire walk")).toBeUndefined();
    const stand = applyEdit(
      house(named("2:class:wire walk", "wirewalk-p"), named("2:class:trapeze two", "our-trapeze")),
      { what: "recipe", recipe: 2, value: { ...old, pattern: "{class}-p" }, aliasUntil: "" },
      CONTEXT,
    );
    const after = change(stand, { ...old, pattern: "{class}-q" });
    expect(after.lists.get("2:class:wire walk")?.get("name")).toBe("wirewalk-q");
    expect(after.lists.get("2:class:trapeze two")?.get("name")).toBe("our-trapeze");
  });

  test("leaves names where the new pattern makes none, and touches no other recipe's lists", () => {
    const stand = applyEdit(
      house(named("2:class:wire walk", "wirewalk-p"), named("1:class:wire walk", "wirewalk-p")),
      { what: "recipe", recipe: 2, value: { ...old, pattern: "{class}-p" }, aliasUntil: "" },
      CONTEXT,
    );
    expect(
      change(stand, { ...old, pattern: "{lead:" })
        .lists.get("2:class:wire walk")
        ?.get("name"),
    ).toBe("wirewalk-p");
    expect(
      change(stand, { ...old, pattern: "{class}-q" })
        .lists.get("1:class:wire walk")
        ?.get("name"),
    ).toBe("wirewalk-p");
  });

  test("removes it", () => {
    expect(change(house(), null).recipes.has(2)).toBe(false);
  });
});

describe("an edit of a list", () => {
  const KEY = "2:class:wire walk";
  const exemption = { allowed: "any", until: "2027-01-31", by: "Juno Abara" };
  const lists = (part: Partial<Extract<Edit, { what: "lists" }>["lists"][number]>): Edit => ({
    what: "lists",
    aliasUntil: "",
    lists: [{ key: KEY, points: {}, ...part }],
  });

  test("allows it what the house doesn't, until that is taken back", () => {
    const stand = applyEdit(house(), lists({ allow: { outside: exemption } }), CONTEXT);
    expect(indexFacts(stand).exemptions.get(KEY)?.get("outside")).toEqual(exemption);
    expect(difference(stand, lists({ allow: { outside: null } }))).toEqual({
      puts: [],
      removes: [keyOf(KEY, "exemption", "outside")],
    });
  });

  test("keeps addresses on it, until a day or for good", () => {
    const kept = (keepUntil?: string) =>
      indexFacts(
        applyEdit(
          house(),
          lists({ keep: ["a@oakmail.example"], ...(keepUntil === undefined ? {} : { keepUntil }) }),
          CONTEXT,
        ),
      )
        .kept.get(KEY)
        ?.get("a@oakmail.example");
    expect(kept()).toEqual({
      side: "on",
      reason: "added when the list was made",
      by: "a test",
      lastDay: "",
    });
    expect(kept("2027-01-31")?.lastDay).toBe("2027-01-31");
  });

  test("takes a point back to what its recipe says", () => {
    const stand = applyEdit(
      house(),
      lists({ points: { title: "Wires", preset: "open" } }),
      CONTEXT,
    );
    expect(difference(stand, lists({ points: { title: null } }))).toEqual({
      puts: [],
      removes: [keyOf(KEY, "list", "title")],
    });
  });
});
