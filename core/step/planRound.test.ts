import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { parseAudience } from "../audience/parseAudience";
import { factKey, type Fact, type Facts } from "../facts/fact";
import { indexFacts } from "../facts/indexFacts";
import type { RecipeValue } from "../lists/recipe";
import { wantedLists } from "../lists/sharedWanted";
import { keepOnGone } from "../testing/keepOnGone";
import { after, fact, HOUSE, RECIPES, some } from "../testing/houseEdits";
import { sharedAddresses } from "../identity/sharedAddresses";
import { applyCauses } from "./applyCauses";
import type { Cause } from "./cause";
import { findCauses } from "./findCauses";
import { ListBook, membersOf } from "./listMembers";
import { planRound } from "./planRound";

/** Every recipe is understood: one that isn't makes lists of nobody, on which nothing can be seen. */
test.each(RECIPES.map(({ value }) => (value as RecipeValue).audience))(
  "%s is understood",
  (text) => {
    expect(parseAudience(text).ok).toBe(true);
  },
);
/** Who is on which list that is open, by looking at everybody; with those who are always on a list of a class that is gone. */
function placesIn(facts: Facts, withGone = false): string[] {
  const index = indexFacts(facts);
  const book = new ListBook(wantedLists(index).values());
  const members = membersOf(index, book);
  if (withGone) keepOnGone(index, book, members);
  return [...members]
    .filter(([list]) => book.byKey.get(list)?.open !== false)
    .flatMap(([list, addresses]) => [...addresses.keys()].map((address) => `${list} ${address}`))
    .sort();
}

function wantedIn(facts: Facts): ReadonlySet<string> {
  return new Set(wantedLists(indexFacts(facts)).keys());
}

describe("what a round does, whatever happens to a house", () => {
  test("makes of every list what it is to hold, and its causes tell each step", () => {
    fc.assert(
      fc.property(some, some, (first, second) => {
        const before = after(HOUSE, first);
        const then = after(before, second);
        const causes = findCauses(before, then);
        const plan = planRound(before, causes);
        // What has happened, for a failure's message.
        const told = causes.map(({ key }) => key);
        // As a sum, whatever the order of the causes: the end of a class empties its lists after all else.
        const now = new Map(placesIn(before, true).map((place) => [place, 1]));
        const add = (place: string, by: number): void => {
          now.set(place, (now.get(place) ?? 0) + by);
        };
        for (const { list, kind, address, instead } of [...plan.changes.values()].flat()) {
          if (kind !== "joins") add(`${list} ${instead ?? address}`, -1);
          if (kind !== "leaves") add(`${list} ${address}`, 1);
        }
        const lists = wantedIn(then);
        const held = [...now].flatMap(([place, count]) =>
          count !== 0 && lists.has(place.split(" ").slice(0, -1).join(" ")) ? [[place, count]] : [],
        );
        expect([told, held.sort()]).toEqual([told, placesIn(then).map((place) => [place, 1])]);
      }),
    );
  });

  test("is nothing where nothing has happened", () => {
    fc.assert(
      fc.property(some, (all) => {
        const facts = after(HOUSE, all);
        const { changes } = planRound(facts, findCauses(facts, new Map(facts)));
        expect([...changes.values()].flat()).toEqual([]);
      }),
    );
  });

  test("tells halfway who shares an address once what is accepted is done", () => {
    fc.assert(
      fc.property(some, some, fc.array(fc.boolean()), (first, second, choice) => {
        const before = after(HOUSE, first);
        const causes = findCauses(before, after(before, second));
        const accepted = causes.filter((_, at) => choice[at] !== false);
        const held = causes.filter((_, at) => choice[at] === false);
        const done = indexFacts(applyCauses(before, accepted));
        let shared: unknown;
        planRound(before, accepted, held, (index) => (shared = sharedAddresses(index)));
        expect(shared).toEqual(sharedAddresses(done));
      }),
    );
  });

  test("leaves the facts that it is given as they are", () => {
    fc.assert(
      fc.property(some, (all) => {
        const before = new Map(HOUSE);
        planRound(before, findCauses(before, after(HOUSE, all)));
        expect([...before]).toEqual([...HOUSE]);
      }),
    );
  });

  test("tells of no list that nothing wants before it or after, and each list and address once, in order", () => {
    fc.assert(
      fc.property(some, some, (first, second) => {
        const before = after(HOUSE, first);
        const causes = findCauses(before, after(before, second));
        const { changes } = planRound(before, causes);
        const facts = new Map(before);
        // Whoever a class that ends leaves behind is told of last, whatever the lists.
        const endsOne = causes.some(({ removes }) => removes.some(({ kind }) => kind === "cohort"));
        for (const cause of causes) {
          const had = wantedIn(facts);
          for (const one of cause.removes) facts.delete(factKey(one));
          for (const one of cause.adds) facts.set(factKey(one), one);
          const wanted = wantedIn(facts);
          const told = changes.get(cause.key) ?? [];
          if (!endsOne)
            expect(told.filter(({ list }) => !wanted.has(list) && !had.has(list))).toEqual([]);
          const places = told.map(({ list, address }) => `${list} ${address}`);
          expect(new Set(places).size).toBe(places.length);
          const inOrder = [...told].sort((one, other) =>
            one.list === other.list
              ? Number(one.address > other.address) - Number(one.address < other.address)
              : Number(one.list > other.list) - Number(one.list < other.list),
          );
          if (!endsOne) expect(told).toEqual(inOrder);
        }
      }),
    );
  });
});

/** A cause of these facts alone, by whatever name. */
const causeOf = (key: string, adds: Fact[], removes: Fact[] = []): Cause => ({
  ...{ key, kind: "list", subject: "", title: "", detail: "", sentence: "", group: "" },
  ...{ adds, removes },
});
const changesIn = (causes: readonly Cause[], key: string, facts: Facts = HOUSE): string[] =>
  (planRound(facts, causes).changes.get(key) ?? []).map(({ list, kind, address, instead }) =>
    [list, kind, ...(instead === undefined ? [] : [instead]), address].join(" "),
  );
const gone = (subject: string, kind: Fact["kind"], ref: string): Fact => {
  const found = HOUSE.get(factKey(fact(subject, kind, ref, "")));
  if (found === undefined) throw new Error(`no ${subject} ${kind} ${ref}`);
  return found;
};

describe("what single causes do", () => {
  test("a recipe that ends takes its lists with it, and nobody leaves them any more", () => {
    const ends = causeOf("ends", [], [gone("recipe:1", "recipe", "")]);
    const leaves = causeOf("leaves", [], [gone("ida", "enrolment", "class:trapeze two")]);
    expect(changesIn([ends, leaves], "ends")).toEqual([]);
    expect(changesIn([leaves], "leaves")).toEqual([
      "1:class:trapeze two leaves ida@lettr.example",
      "2:class:trapeze two leaves halim@lettr.example",
      "6:site:mill loft leaves halim@lettr.example",
    ]);
    expect(changesIn([ends, leaves], "leaves")).toEqual([
      "2:class:trapeze two leaves halim@lettr.example",
      "6:site:mill loft leaves halim@lettr.example",
    ]);
  });

  test("a recipe that comes back fills its lists anew, in order", () => {
    const recipe = gone("recipe:1", "recipe", "");
    const without = new Map(HOUSE);
    without.delete(factKey(recipe));
    expect(changesIn([causeOf("comes", [recipe])], "comes", without)).toEqual([
      "1:class:juggling one joins bram2@lettr.example",
      "1:class:juggling one joins hana@lettr.example",
      "1:class:trapeze two joins ida@lettr.example",
      "1:class:trapeze two joins wren@lettr.example",
      "1:class:wire walk joins bram@lettr.example",
    ]);
  });

  test("another audience of a single list changes who is on it, and what is only said of it nobody", () => {
    const list = "1:class:trapeze two";
    const audience = fact(list, "list", "audience", 'students in "Wire Walk"');
    expect(changesIn([causeOf("audience", [audience])], "audience")).toEqual([
      `${list} joins bram@lettr.example`,
      `${list} leaves ida@lettr.example`,
      `${list} leaves wren@lettr.example`,
    ]);
    const title = fact(list, "list", "title", "Trapeze");
    expect(changesIn([causeOf("title", [title])], "title")).toEqual([]);
    // A list of the same audience in other words has the same people.
    const same = fact(list, "list", "audience", 'students  in "Trapeze Two"');
    expect(changesIn([causeOf("same", [same])], "same")).toEqual([]);
  });

  test("another lead changes the lists of leads, and no other list", () => {
    const leads = fact("2:class:wire walk", "list", "leads", "teo");
    expect(changesIn([causeOf("leads", [leads])], "leads")).toEqual([
      "3:class:wire walk joins teo@lettr.example",
    ]);
    const nobody = fact("2:class:wire walk", "list", "leads", "");
    expect(changesIn([causeOf("nobody", [nobody])], "nobody")).toEqual([]);
  });

  test("an address put in place of another is one change, and one that two people share is told of once", () => {
    const old = gone("ida", "address", "ida@lettr.example");
    const fresh = fact("ida", "address", "new@lettr.example", "");
    expect(changesIn([causeOf("address", [fresh], [old])], "address")).toEqual([
      "1:class:trapeze two replaced ida@lettr.example new@lettr.example",
      "5:level:4 replaced ida@lettr.example new@lettr.example",
      "7:house replaced ida@lettr.example new@lettr.example",
    ]);
    const shared = fact("wren", "address", "ida@lettr.example", "");
    const told = changesIn([causeOf("shared", [shared])], "shared");
    expect(told).not.toContain("1:class:trapeze two joins ida@lettr.example");
  });

  test("a student's first level makes a list of it, and fills it", () => {
    const level = fact("wren", "level", "", "9");
    expect(changesIn([causeOf("level", [level])], "level")).toEqual([
      "5:level:5 leaves wren@lettr.example",
      "5:level:9 joins wren@lettr.example",
    ]);
  });

  test("somebody always on a list joins it, and leaves it with that, unless they belong on it", () => {
    const list = "1:class:wire walk";
    const kept = (address: string) =>
      fact(list, "kept", address, { side: "on", lastDay: "", reason: "", by: "Juno" });
    const guest = kept("guest@lettr.example");
    expect(changesIn([causeOf("on", [guest])], "on")).toEqual([
      `${list} joins guest@lettr.example`,
    ]);
    const facts = new Map([...HOUSE, [factKey(guest), guest] as const]);
    expect(changesIn([causeOf("off", [], [guest])], "off", facts)).toEqual([
      `${list} leaves guest@lettr.example`,
    ]);
    expect(changesIn([causeOf("there", [kept("bram@lettr.example")])], "there")).toEqual([]);
    const never = fact(list, "kept", "bram@lettr.example", {
      ...{ side: "off", lastDay: "", reason: "", by: "Juno" },
    });
    expect(changesIn([causeOf("never", [never])], "never")).toEqual([
      `${list} leaves bram@lettr.example`,
    ]);
  });
});
