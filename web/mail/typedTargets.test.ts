import { describe, expect, test } from "vitest";
import { faultOf, targetsIn } from "./typedTargets";

describe("what is typed as a recipient", () => {
  test.each<[string, string[], string]>([
    ["halim@oakmail.example", ["halim@oakmail.example"], ""],
    [
      "halim@oakmail.example; tove@lettr.example",
      ["halim@oakmail.example", "tove@lettr.example"],
      "",
    ],
    ["Halim Brandt <halim@oakmail.example>, trap", ["Halim Brandt"], "trap"],
    ["HALIM@oakmail.example\nhalim@oakmail.example", ["halim@oakmail.example"], ""],
    ["trapeze", [], "trapeze"],
    ["halim@oakmail", [], "halim@oakmail"],
    ["una@lettr,example", [], "una@lettr,example"],
    ["", [], ""],
  ])("%j", (text, names, rest) => {
    const read = targetsIn(text, []);
    expect(read.targets.map(({ name }) => name)).toEqual(names);
    expect(read.rest).toBe(rest);
  });

  test("who is there already isn't added twice, and doesn't stay in the field", () => {
    const [there] = targetsIn("halim@oakmail.example", []).targets;
    if (there === undefined) throw new Error("no target");
    expect(targetsIn("halim@oakmail.example", [there])).toEqual({ targets: [], rest: "" });
  });

  test.each([
    ["trapeze", /isn't a recipient yet/],
    ["una@lettr,example", /Did you mean una@lettr.example/],
    ["una@", /isn't an address: /],
  ])("%j is told", (text, words) => expect(faultOf(text)).toMatch(words));
});
