import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { say } from "@amigo/language/say";
import { COMPARISONS } from "./audience";
import { CHOOSABLE, choicesOf, NEW_GROUP, textOfChoices, type ChosenGroup } from "./choices";
import { parseAudience } from "./parseAudience";

const readAgain = (text: string) => {
  const parsed = parseAudience(text);
  if (!parsed.ok) throw new Error(`${text}: ${say(parsed.fault.sentence)}`);
  return choicesOf(parsed.audience);
};

const name = fc.stringMatching(/^[A-Za-z][A-Za-z &'-]{0,12}[a-z]$/);
const group: fc.Arbitrary<ChosenGroup> = fc.oneof(
  fc.record({
    who: fc.constantFrom(...CHOOSABLE.filter((who) => who !== "person")),
    place: fc.oneof(
      fc.constant(undefined),
      fc.record({
        kind: fc.constantFrom("class" as const, "team" as const, "site" as const, undefined),
        name,
      }),
      fc.record({
        kind: fc.constantFrom("class" as const, "team" as const),
        name: fc.constant(undefined),
      }),
    ),
    condition: fc.option(
      fc.record({ column: name, comparison: fc.constantFrom(...COMPARISONS), value: name }),
      { nil: undefined },
    ),
    person: fc.constant(NEW_GROUP.person),
  }),
  name.map((eachName): ChosenGroup => ({
    ...NEW_GROUP,
    who: "person",
    person: { name: eachName, hint: "" },
  })),
);

describe("lines of choices", () => {
  test("write a text that is read as the same choices again", () => {
    fc.assert(
      fc.property(
        fc.array(group, { minLength: 1, maxLength: 4 }),
        fc.array(group, { maxLength: 3 }),
        (groups, except) => {
          expect(readAgain(textOfChoices({ groups, except }))).toEqual({ groups, except });
        },
      ),
    );
  });

  test("nothing chosen is no text, and a line that is not finished says nothing yet", () => {
    expect(textOfChoices({ groups: [], except: [NEW_GROUP] })).toBe("");
    expect(
      textOfChoices({ groups: [NEW_GROUP, { ...NEW_GROUP, who: "person" }], except: [] }),
    ).toBe("guardians of students");
    const open = { column: "level", comparison: "is", value: " " } as const;
    expect(textOfChoices({ groups: [{ ...NEW_GROUP, condition: open }], except: [] })).toBe(
      "guardians of students",
    );
  });

  test.each([
    ["parents in Trapeze Two + coaches of Trapeze Two except Ida Brandt", [2, 1]],
    ["everyone in Wire Walk", [3, 0]],
    ["students where level >= 4", [1, 0]],
  ])("%s is %j lines", (text, lines) => {
    const choices = readAgain(text);
    expect([choices?.groups.length, choices?.except.length]).toEqual(lines);
  });

  test.each([
    'students in "Trapeze Two" in team "Night Parade"',
    'students in "A" & students in "B"',
    "students where level is 4 and site is Barn",
    "students where level is one of 4, 5",
    'guardians of ("Ida Brandt" + students of level 4)',
    "(students except staff) + coaches",
    "students except staff except coaches",
  ])("%s says more than choices can", (text) => {
    expect(readAgain(text)).toBeUndefined();
  });
});
