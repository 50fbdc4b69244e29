import { describe, expect, test } from "vitest";
import { said, say } from "@amigo/language/say";
import { factKey, type Fact } from "../facts/fact";
import { FIRST_RECIPES, recipeFacts } from "../lists/firstRecipes";
import type { RecipeValue } from "../lists/recipe";
import { origin, smallHouse } from "../testing/smallHouse";
import { findCauses } from "./findCauses";

const fact = (subject: string, kind: Fact["kind"], ref: string, value: unknown): Fact =>
  ({ subject, kind, ref, value, origin }) as Fact;
const RECIPES = recipeFacts(said(FIRST_RECIPES), origin);
const HOUSE = [...smallHouse().values(), ...RECIPES];
const factsOf = (more: readonly Fact[]): Map<string, Fact> =>
  new Map([...HOUSE, ...more].map((one) => [factKey(one), one]));
const causesOf = (before: readonly Fact[], after: readonly Fact[]) =>
  findCauses(factsOf(before), factsOf(after));

/** A list of a recipe, and one of its own. */
const TRAPEZE = "1:class:trapeze two";
const CREW = "0b0e7a52-1111-4000-8000-000000000001";

const friends = (more: object = {}): Fact =>
  fact("recipe:99", "recipe", "", {
    ...(RECIPES[0]?.value as RecipeValue),
    name: "Friends",
    ...more,
  });
const short = (value: string): Fact => fact("short:wire walk", "short", "", value);
const bound = (ref: string): Fact => fact("house", "bound", ref, { allowed: "any", usual: "any" });
const off = fact("house", "invariant", "replies go somewhere", "off");
const preset = (name: string): Fact => fact("preset:x", "preset", "", { name, what: "For tasks" });
const point = (ref: string, value: string, list = TRAPEZE): Fact => fact(list, "list", ref, value);
const alias = (ref: string): Fact => fact(TRAPEZE, "alias", ref, "2027-03-01");
const allowed = (ref: string, value: string, until = "", by = "Juno"): Fact =>
  fact(TRAPEZE, "exemption", ref, { allowed: value, until, by });
const kept = (side: "on" | "off", lastDay = ""): Fact =>
  fact(TRAPEZE, "kept", "a@lettr.example", { side, lastDay, reason: "asked", by: "Juno" });
const ravi = [
  fact("staff:1", "staff", "", ""),
  fact("staff:1", "name", "", { given: "Ravi", family: "Lind" }),
];

describe("what a person would call a change of the house", () => {
  const cases: [string, Fact[], Fact[], string[]][] = [
    ["a new recipe", [], [friends()], ["recipe, Friends: new recipe: students in this class"]],
    ["a recipe that is gone", [friends()], [], ["recipe, Friends: no longer a recipe"]],
    [
      "a recipe with another name, pattern and rule",
      [friends()],
      [friends({ name: "Pals", pattern: "{class}", writers: "inside" })],
      ["recipe, Pals: name, naming pattern and who may write changed"],
    ],
    [
      "every other point of a recipe",
      [friends()],
      [
        friends({
          label: "Pals",
          each: "team",
          condition: 'name is "Wire"',
          audience: "staff",
          preset: "discussion",
          leads: "",
          helpers: "staff:1",
          adding: "ask",
          season: "this season only",
        }),
      ],
      [
        "recipe, Friends: column title, what it makes a list for, condition, audience, posting rules, leads, helpers, how members are added and season changed",
      ],
    ],
    [
      "a recipe in another column",
      [friends()],
      [friends({ position: 9 })],
      ["recipe, Friends: order changed"],
    ],
    ["a short form", [], [short("wire")], ["naming, wire walk: short form none → wire"]],
    [
      "another short form",
      [short("wire")],
      [short("walk")],
      ["naming, wire walk: short form wire → walk"],
    ],
    ["no short form", [short("wire")], [], ["naming, wire walk: short form wire → none"]],
    [
      "limits of two kinds of lists",
      [],
      [bound("guardians outside"), bound("students outside")],
      [
        "rules, House rules: outside addresses (lists of guardians) and outside addresses (lists of students) changed",
      ],
    ],
    [
      "a limit that is gone",
      [bound("guardians outside")],
      [],
      ["rules, House rules: outside addresses (lists of guardians) changed"],
    ],
    [
      "a rule about lists that the house does without",
      [],
      [off],
      ['rules, House rules: "replies go somewhere" no longer holds'],
    ],
    [
      "a rule about lists that holds again, and a limit",
      [off],
      [bound("students writers")],
      [
        'rules, House rules: who may write (lists of students) changed, "replies go somewhere" holds again',
      ],
    ],
    ["a preset", [], [preset("Homework")], ['rules, Posting rules "Homework": new preset']],
    [
      "a preset that is gone",
      [preset("Homework")],
      [],
      ['rules, Posting rules "Homework": no longer a preset'],
    ],
    [
      "a preset of another name",
      [preset("Homework")],
      [preset("Tasks")],
      ['rules, Posting rules "Tasks": changed'],
    ],
    [
      "a list that is closed",
      [],
      [point("state", "closed")],
      ["list, Trapeze Two, students: closed"],
    ],
    [
      "a list that is open again",
      [point("state", "closed")],
      [],
      ["list, Trapeze Two, students: opened again"],
    ],
    [
      "a list made before its time",
      [],
      [point("state", "open")],
      ["list, Trapeze Two, students: made"],
    ],
    [
      "a list with another name, and its old one",
      [point("name", "trapeze")],
      [point("name", "trap"), alias("trapeze")],
      [
        "list, Trapeze Two, students: name trapeze → trap, trapeze still leads there until 1 Mar 2027",
      ],
    ],
    [
      "a list that goes by its recipe again",
      [point("title", "Flyers")],
      [],
      ["list, Trapeze Two, students: display name follows the recipe again"],
    ],
    [
      "a list that is its own in two points",
      [],
      [point("title", "Flyers"), point("leads", "staff:1")],
      ["list, Flyers: display name changed, leads changed"],
    ],
    [
      "a list of its own",
      [],
      [point("title", "Stage crew", CREW), point("audience", "students", CREW)],
      ["list, Stage crew: new list: students"],
    ],
    [
      "a list of its own that is gone",
      [point("title", "Stage crew", CREW), point("audience", "students", CREW)],
      [],
      ["list, Stage crew: no longer a list"],
    ],
    [
      "an old name that has run out",
      [alias("old")],
      [],
      ["list, Trapeze Two, students: an old name no longer leads there"],
    ],
    [
      "what was allowed until a day",
      [],
      [allowed("writers", "inside", "2027-01-31")],
      [
        'list, Trapeze Two, students: Juno allowed who may write: "Anyone inside" until 31 Jan 2027',
      ],
    ],
    [
      "a name that was allowed for good",
      [],
      [allowed("convention", "flyers")],
      ['list, Trapeze Two, students: Juno allowed the name "flyers"'],
    ],
    [
      "what was allowed and has ended",
      [allowed("writers", "inside", "2027-01-31")],
      [],
      ["expired, Trapeze Two, students: what Juno allowed beyond the house rules has ended"],
    ],
    [
      "what was allowed otherwise by somebody else",
      [allowed("writers", "inside", "2027-01-31")],
      [allowed("writers", "leads", "", "Odile")],
      ['list, Trapeze Two, students: Odile allowed who may write: "Leads"'],
    ],
    [
      "what was allowed and has ended, while something else changes",
      [allowed("writers", "inside")],
      [point("title", "Flyers")],
      ["list, Flyers: what Juno allowed beyond the house rules has ended, display name changed"],
    ],
    [
      "somebody who is always on a list until a day",
      [],
      [kept("on", "2027-01-31")],
      ["corrected, a@lettr.example: always on this list until 31 Jan 2027"],
    ],
    [
      "somebody who is never on a list",
      [],
      [kept("off")],
      ["corrected, a@lettr.example: never on this list"],
    ],
    [
      "a last day that is over",
      [kept("on", "2027-01-31")],
      [],
      ["expired, a@lettr.example: always on this list until 31 Jan 2027; that day is over"],
    ],
    [
      "what was said by hand and was taken back",
      [kept("off")],
      [],
      ["expired, a@lettr.example: never on this list; no longer"],
    ],
    [
      "always that has become never",
      [kept("on", "2027-01-31")],
      [kept("off")],
      ["corrected, a@lettr.example: never on this list"],
    ],
    ["somebody new on the staff", [], ravi, ["staff, Ravi Lind: is on the staff now"]],
    ["somebody who has left the staff", ravi, [], ["staff, Ravi Lind: is no longer on the staff"]],
    [
      "somebody on the staff at another site",
      ravi,
      [...ravi, fact("staff:1", "site", "", "Big Barn")],
      ["staff, Ravi Lind: has new details on the staff"],
    ],
  ];
  test.each(cases)("%s", (_what, before, after, wanted) => {
    expect(
      causesOf(before, after).map(
        ({ kind, title, detail }) => `${kind}, ${say(title)}: ${say(detail)}`,
      ),
    ).toEqual(wanted);
  });

  test.each(cases)("%s is told whole, in a sentence that names it", (_what, before, after) => {
    for (const { title, sentence, group, subject, adds, removes } of causesOf(before, after)) {
      expect(say(sentence)).toContain(say(title));
      expect(group).toBe("");
      for (const one of [...adds, ...removes]) expect(one.subject).toBe(subject);
      // Together they are just what is different.
      const differ = (from: Fact[], than: Fact[]): string[] =>
        from
          .filter((one) => !than.some((other) => JSON.stringify(other) === JSON.stringify(one)))
          .map(factKey)
          .sort();
      expect(adds.map(factKey).sort()).toEqual(differ(after, before));
    }
  });

  test("nothing is no cause", () => {
    for (const [, before, after] of cases)
      for (const same of [before, after]) expect(causesOf(same, [...same].reverse())).toEqual([]);
  });

  test("each is known again by its key, which another change hasn't", () => {
    const keys = cases
      // It comes to the same as never being on it from the start.
      .filter(([what]) => what !== "always that has become never")
      .map(([, before, after]) =>
        causesOf(before, after)
          .map(({ key }) => key)
          .join("\n"),
      );
    expect(keys.filter((key, index) => keys.indexOf(key) !== index)).toEqual([]);
    expect(causesOf([], [kept("on")])[0]?.key, "always and never are two things").not.toBe(
      causesOf([], [kept("off")])[0]?.key,
    );
    expect(cases.map(([, before, after]) => causesOf(before, after)[0]?.key)).toEqual(
      cases.map(([, before, after]) => causesOf([...before].reverse(), after)[0]?.key),
    );
  });

  test("several stand in one order, whatever order the facts come in", () => {
    const after = [
      friends(),
      short("wire"),
      preset("Homework"),
      off,
      point("title", "Flyers"),
      ...ravi,
    ];
    const titles = (facts: Fact[]): string[] =>
      causesOf([], facts).map(({ kind, title }) => `${kind} ${say(title)}`);
    expect(titles([...after].reverse())).toEqual(titles(after));
    expect(new Set(titles(after)).size).toBe(6);
  });
});
