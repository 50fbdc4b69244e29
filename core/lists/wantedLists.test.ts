import { describe, expect, test } from "vitest";
import { said, say } from "@amigo/language/say";
import { factKey, type Fact } from "../facts/fact";
import { indexFacts } from "../facts/indexFacts";
import { origin, smallHouse } from "../testing/smallHouse";
import { staffFacts } from "./edit";
import { FIRST_RECIPES, recipeFacts } from "./firstRecipes";
import { listDeltas } from "./listDeltas";
import type { ListPoint } from "./listPoint";
import type { RecipeValue } from "./recipe";
import { houseOfLists, rulesBroken } from "./rulesBroken";
import { wantedLists } from "./sharedWanted";
import { wantedList, type WantedList } from "./wantedLists";
import { wishOf } from "./wishOf";

const GUARDIANS = said(FIRST_RECIPES)[1] as RecipeValue;

function point(subject: string, ref: ListPoint, value: string): Fact {
  return { subject, kind: "list", ref, value, origin };
}

function recipe(number: number, value: Partial<RecipeValue>): Fact {
  return {
    subject: `recipe:${number}`,
    kind: "recipe",
    ref: "",
    value: { ...GUARDIANS, ...value },
    origin,
  };
}

function index(...more: Fact[]) {
  const facts = [...smallHouse().values(), ...recipeFacts(said(FIRST_RECIPES), origin), ...more];
  return indexFacts(new Map(facts.map((fact) => [factKey(fact), fact])));
}

function listOf(key: string, ...more: Fact[]): WantedList | undefined {
  return wantedList(index(...more), key);
}

describe("a list of its own", () => {
  test("has what nobody has said otherwise", () => {
    expect(listOf("helpers", point("helpers", "title", "Costume helpers"))).toMatchObject({
      key: "helpers",
      recipe: undefined,
      of: "",
      cohort: undefined,
      site: "",
      title: "Costume helpers",
      description: "",
      short: "",
      text: "",
      name: undefined,
      pattern: "{list}",
      parts: { of: "Costume helpers", audience: "", lead: "" },
      kind: "other",
      preset: "announcement-only",
      leads: "",
      helpers: "",
      adding: "quietly",
      season: "every season",
      open: true,
      apart: [],
    });
  });

  test.each<[ListPoint, string, Partial<WantedList>]>([
    ["description", "Needles and thread", { description: "Needles and thread" }],
    ["short", "Costumes", { short: "Costumes" }],
    ["name", "costumes", { name: "costumes" }],
    ["audience", "guardians", { text: "guardians", kind: "guardians" }],
    ["audience", "staff", { text: "staff", kind: "staff" }],
    ["preset", "questions-welcome", { preset: "questions-welcome" }],
    ["leads", "account:kit", { leads: "account:kit" }],
    ["helpers", "account:kit", { helpers: "account:kit" }],
    ["adding", "ask", { adding: "ask" }],
    ["season", "this season only", { season: "this season only" }],
    ["state", "closed", { open: false }],
    ["state", "open", { open: true }],
  ])("is otherwise in %s: %s", (ref, value, part) => {
    const title = point("helpers", "title", "Costume helpers");
    expect(listOf("helpers", title, point("helpers", ref, value))).toMatchObject(part);
  });

  test("has the rules of its preset, or those it names", () => {
    const title = point("helpers", "title", "Costume helpers");
    const rules = (...more: Fact[]) => listOf("helpers", title, ...more)?.rules;
    expect(rules()?.writers).toBe("leads and helpers");
    expect(rules(point("helpers", "preset", "questions-welcome"))?.writers).toBe("members");
    expect(rules(point("helpers", "writers", "members"))?.writers).toBe("members");
  });

  test("is none without a title, or without anything", () => {
    expect(listOf("helpers", point("helpers", "leads", "account:kit"))).toBeUndefined();
    expect(listOf("nobody")).toBeUndefined();
    expect([...wantedLists(index(point("helpers", "leads", "x"))).keys()]).not.toContain("helpers");
  });
});

describe("a list of a recipe", () => {
  const KEY = "2:class:wire walk";

  test("is as its recipe has it", () => {
    expect(listOf(KEY)).toMatchObject({
      recipe: 2,
      of: "class:wire walk",
      cohort: "class:wire walk",
      site: "Mill Loft",
      title: `Wire Walk, ${GUARDIANS.label.toLowerCase()}`,
      description: "",
      short: "",
      text: GUARDIANS.audience,
      pattern: GUARDIANS.pattern,
      parts: { of: "Wire Walk", audience: GUARDIANS.label, lead: "Petra Dunmore" },
      preset: GUARDIANS.preset,
      leads: GUARDIANS.leads,
      helpers: "",
      adding: GUARDIANS.adding,
      season: GUARDIANS.season,
      open: true,
      apart: [],
    });
  });

  test.each<[ListPoint, string, Partial<WantedList>]>([
    ["title", "Wires", { title: "Wires", apart: ["title"] }],
    ["description", "On the wire", { description: "On the wire", apart: [] }],
    ["short", "Wires", { short: "Wires", apart: [] }],
    ["audience", "staff", { text: "staff", kind: "staff", apart: ["audience"] }],
    ["preset", "questions-welcome", { preset: "questions-welcome", apart: ["preset"] }],
    ["leads", "account:kit", { leads: "account:kit", apart: ["leads"] }],
    ["helpers", "account:kit", { helpers: "account:kit", apart: ["helpers"] }],
    ["adding", "ask", { adding: "ask", apart: ["adding"] }],
    ["season", "this season only", { season: "this season only", apart: ["season"] }],
    ["writers", "members", { apart: ["writers"] }],
    ["name", "wires", { name: "wires", apart: [] }],
    ["state", "closed", { open: false, apart: [] }],
  ])("is otherwise in %s: %s", (ref, value, part) => {
    expect(listOf(KEY, point(KEY, ref, value))).toMatchObject(part);
  });

  test("has the helpers of its recipe", () => {
    expect(listOf(KEY, recipe(2, { helpers: "account:kit" }))?.helpers).toBe("account:kit");
  });

  test.each([
    ["", ["juggling one", "trapeze two", "wire walk"]],
    ["site = 'Big Barn'", []],
    ['site = "Big Barn"', ["juggling one"]],
    ['name = "Wire Walk"', ["wire walk"]],
    ['coach = "Petra Dunmore"', ["wire walk"]],
    ["this can't be read", []],
  ])("is there where its condition holds: %s", (condition, classes) => {
    const lists = [...wantedLists(index(recipe(2, { condition }))).keys()];
    expect(
      lists
        .filter((key) => key.startsWith("2:class:"))
        .map((key) => key.slice("2:class:".length))
        .sort(),
    ).toEqual(classes);
  });

  test("is there though its condition doesn't hold, once somebody has made it", () => {
    const never = recipe(2, { condition: 'name = "Nothing"' });
    expect(listOf(KEY, never)).toBeUndefined();
    expect(listOf(KEY, never, point(KEY, "state", "open"))?.open).toBe(true);
  });

  test("can be of a site, a level, or the whole house", () => {
    const sites = recipe(7, { each: "site", label: "Site" });
    const levels = recipe(8, { each: "level", label: "Level list" });
    const all = recipe(9, { each: "house", label: "Everybody" });
    expect(listOf("7:site:mill loft", sites)).toMatchObject({
      title: "Mill Loft, site",
      site: "Mill Loft",
      cohort: undefined,
      parts: { of: "Mill Loft", audience: "Site", lead: "" },
    });
    expect(listOf("8:level:4", levels)).toMatchObject({
      title: "Level 4, level list",
      site: "",
      parts: { of: "level 4", audience: "Level list", lead: "" },
    });
    expect(listOf("9:house", all)).toMatchObject({
      title: "Everybody",
      site: "",
      parts: { of: "Everybody", audience: "Everybody", lead: "" },
    });
  });

  test("of a site or level of which nobody is at hand is known by its key", () => {
    const sites = recipe(7, { each: "site", label: "Site" });
    expect(listOf("7:site:harbour", sites)).toMatchObject({
      title: "harbour, site",
      site: "harbour",
    });
    expect(listOf("7:level:12", sites)?.title).toBe("Level 12, site");
    expect(listOf("7:moon:x", sites)).toBeUndefined();
    expect(listOf("77:site:harbour", sites)).toBeUndefined();
  });

  test("wishes for a name with its site's code, chosen or made", () => {
    const list = listOf(KEY) as WantedList;
    const site = (codes: [string, string][]) => wishOf(list, "2026-27", new Map(codes)).parts.site;
    expect(site([["Mill Loft", "MX"]])).toBe("MX");
    expect(site([])).toBe("ML");
    expect(wishOf({ ...list, site: "" }, "2026-27", new Map()).parts.site).toBe("");
    expect(wishOf(list, "2026-27", new Map()).parts.season).toBe("2026-27");
  });
});

describe("what an edit does to lists", () => {
  const KEY = "2:class:wire walk";
  const lists = (...more: Fact[]) => wantedLists(index(...more));
  const told = (before: Fact[], after: Fact[], named: [string, string][] = []) =>
    listDeltas(lists(...before), lists(...after), new Map(named)).map(
      ({ key, what, before: was, after: is, points }) => [
        key,
        what,
        was,
        is,
        points.map((one) => say(one)).join(", "),
      ],
    );

  test.each<[string, Fact[], Fact[], string, string]>([
    ["nothing", [], [], "", ""],
    ["a closed list", [], [point(KEY, "state", "closed")], "closed", ""],
    [
      "an opened list",
      [point(KEY, "state", "closed")],
      [point(KEY, "state", "open")],
      "opened",
      "",
    ],
    ["another title", [], [point(KEY, "title", "Wires")], "changed", "display name"],
    ["another audience", [], [point(KEY, "audience", "guardians")], "changed", "audience"],
    ["an own list", [], [point("own", "title", "Own")], "made", ""],
    ["an own list gone", [point("own", "title", "Own")], [], "closed", ""],
    [
      "an own list made closed",
      [],
      [point("own", "title", "Own"), point("own", "state", "closed")],
      "",
      "",
    ],
  ])("%s", (_, before, after, what, points) => {
    const [delta] = told(before, after);
    expect(delta?.[1] ?? "").toBe(what);
    expect(delta?.[4] ?? "").toBe(points);
  });

  test("a name is told as it was and as it is to be, also one that isn't given yet", () => {
    const name = (value: string) => point(KEY, "name", value);
    expect(told([name("old")], [name("new")])).toEqual([[KEY, "renamed", "old", "new", ""]]);
    expect(told([], [point("own", "title", "Own")], [["own", "own-2627"]])).toEqual([
      ["own", "made", "", "own-2627", ""],
    ]);
    expect(told([], [name("first")])).toEqual([]);
  });

  test("a rule is told before and after, a text by its beginning", () => {
    const rule = (ref: ListPoint, value: string) => told([], [point(KEY, ref, value)])[0]?.[4];
    expect(rule("perDay", "3")).toContain("3");
    const long = "Dear families, this list is for everything about the wire.";
    expect(rule("footer", long)).toContain(`${long.slice(0, 40)} …`);
    expect(rule("footer", long)).not.toContain("about the wire");
    expect(rule("footer", "Short.")).toContain("Short.");
    expect(rule("footer", "Short.")).not.toContain("…");
  });

  test("made lists come first, then opened, closed, renamed and changed, each by title", () => {
    const before = [point("2:class:juggling one", "state", "closed"), point(KEY, "name", "old")];
    const after = [
      point("own", "title", "Own"),
      point("another", "title", "Another"),
      point("2:class:juggling one", "state", "open"),
      point("2:class:trapeze two", "state", "closed"),
      point(KEY, "name", "new"),
      point("1:class:wire walk", "title", "X"),
    ];
    expect(told(before, after).map(([key, what]) => `${what} ${key}`)).toEqual([
      "made another",
      "made own",
      "opened 2:class:juggling one",
      "closed 2:class:trapeze two",
      `renamed ${KEY}`,
      "changed 1:class:wire walk",
    ]);
  });

  test("what a list breaks is told, but of an open one only", () => {
    const wrong = { say: "lists.none" } as const;
    const deltas = (state: string) =>
      listDeltas(lists(), lists(point(KEY, "state", state)), new Map(), () => [wrong]).filter(
        ({ key }) => key === KEY,
      );
    expect(deltas("closed")[0]?.breaks).toEqual([]);
    expect(deltas("open")[0]).toMatchObject({ what: "changed", breaks: [wrong] });
  });
});

test("a list that nobody with an account leads breaks a rule of the school", () => {
  const kit = staffFacts(
    { id: "account:kit", name: "Kit Ames", email: "kit@copperwheel.example", site: "" },
    origin,
  );
  const broken = (leads: string) => {
    const house = houseOfLists(
      index(...kit, point("own", "title", "Own"), point("own", "leads", leads)),
    );
    const list = house.lists.get("own") as WantedList;
    return rulesBroken(list, house, ["copperwheel.example"]).map(({ invariant }) => invariant.id);
  };
  expect(broken("")).toEqual(["lead-signs-in"]);
  expect(broken("petra")).toEqual(["lead-signs-in"]);
  expect(broken("account:kit")).toEqual([]);
});
