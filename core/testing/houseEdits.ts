import fc from "fast-check";
import { said } from "@amigo/language/say";
import { factKey, type Fact, type Facts } from "../facts/fact";
import { FIRST_RECIPES, recipeFacts } from "../lists/firstRecipes";
import type { RecipeValue } from "../lists/recipe";
import { origin, smallHouse } from "./smallHouse";

/** A fact of any kind, as tests make them. */
export const fact = (subject: string, kind: Fact["kind"], ref: string, value: unknown): Fact =>
  ({ subject, kind, ref, value, origin }) as Fact;

/** Recipes of every sort: by class, team, level and site, for the house, of students, guardians, coaches, leads and staff. */
const [FIRST] = recipeFacts(said(FIRST_RECIPES), origin);
export const RECIPES: Fact[] = (
  [
    ["class", "students in this class"],
    ["class", "guardians of students in this class + coaches of this class"],
    ["class", "leads of this class"],
    ["team", "guardians of students in this team"],
    ["level", "students of this level"],
    ["site", "guardians of students at this site + staff at this site"],
    ["house", 'staff + "Ida Brandt"'],
  ] as const
).map(([each, audience], index) =>
  fact(`recipe:${index + 1}`, "recipe", "", {
    ...(FIRST?.value as RecipeValue),
    name: audience,
    label: audience,
    position: index,
    each,
    audience,
  }),
);
/** The small house with these recipes. */
export const HOUSE: Facts = new Map([
  ...smallHouse(),
  ...RECIPES.map((recipe) => [factKey(recipe), recipe] as const),
]);

const STUDENTS = ["ida", "wren", "hana", "bram", "bram2"];
const STAFF = ["sunniva", "teo", "petra", "odile"];
const COHORTS = ["class:trapeze two", "class:wire walk", "class:juggling one", "team:night parade"];
const LISTS = ["1:class:trapeze two", "2:class:wire walk", "3:class:juggling one", "7:house"];
const SINGLE = "0b0e7a52-1111-4000-8000-000000000001";

/** What happens to the facts of a house. */
export type HouseEdit = (facts: Map<string, Fact>) => void;
const put =
  (...all: Fact[]): HouseEdit =>
  (facts) => {
    for (const one of all) facts.set(factKey(one), one);
  };
/** Puts a fact, or takes it away where it is there. */
const turn =
  (one: Fact): HouseEdit =>
  (facts) => {
    if (!facts.delete(factKey(one))) facts.set(factKey(one), one);
  };
/** Does something to somebody who is there. */
const ofSomebody =
  (person: string, edit: HouseEdit): HouseEdit =>
  (facts) => {
    if ([...facts.values()].some(({ subject, kind }) => subject === person && kind === "name"))
      edit(facts);
  };
const from = fc.constantFrom;

/** What can happen to a house, one thing at a time. */
const edits: fc.Arbitrary<HouseEdit> = fc.oneof(
  fc.tuple(from(...STUDENTS), from(...COHORTS)).map(([student, cohort]): HouseEdit => (facts) => {
    if (facts.has(factKey(fact(cohort, "cohort", "", ""))))
      turn(fact(student, "enrolment", cohort, ""))(facts);
  }),
  fc
    .tuple(from(...STUDENTS), from("1", "2", "3", "4", "5", "10"))
    .map(([student, level]) => put(fact(student, "level", "", level))),
  fc
    .tuple(from(...STUDENTS, ...STAFF), from("Mill Loft", "Big Barn", "Tent"))
    .map(([person, site]) => ofSomebody(person, put(fact(person, "site", "", site)))),
  fc
    .tuple(from("halim", "tove", "fenna"), from(...STUDENTS))
    .map(([guardian, student]) => turn(fact(guardian, "tie", student, ""))),
  fc
    .tuple(from(...STUDENTS, ...STAFF, "halim", "fenna"), from("a", "b", "ida"))
    .map(([person, box]) =>
      ofSomebody(person, turn(fact(person, "address", `${box}@lettr.example`, ""))),
    ),
  fc
    .tuple(from(...COHORTS), from("Teo Bramwell", "Hale, Sunniva", "Petra Dunmore", ""))
    .map(([cohort, coach]): HouseEdit => (facts) => {
      const old = facts.get(factKey(fact(cohort, "cohort", "", "")));
      if (old?.kind === "cohort") put({ ...old, value: { ...old.value, coach } })(facts);
    }),
  // A class, team, person of the staff or recipe is gone, or there again.
  from(...COHORTS).map((cohort): HouseEdit => (facts) => {
    const was = HOUSE.get(factKey(fact(cohort, "cohort", "", "")));
    if (was === undefined) return;
    turn(was)(facts);
    for (const [key, one] of facts)
      if (one.kind === "enrolment" && one.ref === cohort) facts.delete(key);
  }),
  from(...STAFF).map((person): HouseEdit => (facts) => {
    const is = facts.has(factKey(fact(person, "staff", "", "")));
    for (const [key, one] of is ? facts : HOUSE)
      if (one.subject === person)
        if (is) facts.delete(key);
        else facts.set(key, one);
  }),
  from(...RECIPES).map(turn),
  fc
    .tuple(from(...RECIPES), from("students in this class", "staff", "guardians"))
    .map(([recipe, audience]) =>
      put({ ...recipe, value: { ...(recipe.value as RecipeValue), audience } } as Fact),
    ),
  fc
    .tuple(from(...LISTS), from("a@lettr.example", "ida@lettr.example"), from("on", "off"))
    .map(([list, address, side]) =>
      turn(fact(list, "kept", address, { side, lastDay: "", reason: "", by: "Juno" })),
    ),
  fc
    .tuple(from(...LISTS), from("students", "coaches of this class", "leads of this class"))
    .map(([list, audience]) => turn(fact(list, "list", "audience", audience))),
  fc
    .tuple(from(...LISTS), from("teo", "petra odile", ""))
    .map(([list, leads]) => turn(fact(list, "list", "leads", leads))),
  from(...LISTS).map((list) => turn(fact(list, "list", "title", "Another title"))),
  from("students", 'guardians of students in "Wire Walk"').map((audience) =>
    put(fact(SINGLE, "list", "title", "Crew"), fact(SINGLE, "list", "audience", audience)),
  ),
);
/** The facts once all of this has happened to them. */
export const after = (facts: Facts, all: readonly HouseEdit[]): Map<string, Fact> => {
  const next = new Map(facts);
  for (const edit of all) edit(next);
  return next;
};
/** Some things that happen, one after the other. */
export const some = fc.array(edits, { maxLength: 6 });
