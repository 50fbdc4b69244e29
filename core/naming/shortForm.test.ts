import { describe, expect, test } from "vitest";
import { fold } from "../text/fold";
import {
  initials,
  proposeShortForm,
  proposeShortForms,
  proposeSiteCode,
  squash,
} from "./shortForm";

describe("a short form", () => {
  test.each([
    ["Trapeze Two", "trapeze2"],
    ["The Wire and the Walk", "wirewalk"],
    ["Of the", "ofthe"],
    ["Ten Pins", "10pins"],
    ["  Wire   Walk ", "wirewalk"],
    ["Juggling Three", "juggling3"],
    ["Bicycle Ballet", "bicycleballet"],
    // At most 14 signs: the first word, the initials of the others, and the numbers.
    ["Acrobatics Beginners Evening", "acrobaticsbe"],
    ["Unicycling for Beginners 12", "unicyclingb12"],
    ["Contortionists Evening Group Two", "contortioneg2"],
    ["Contortionists Early Evening Group of Hill 1234", "contortioneegh"],
    ["12 1234567890123", "12123456789012"],
    ["", ""],
    ["1b 2nd Evening Acrobatics", "1b2ea"],
  ])("of %j is %j", (name, short) => {
    expect(proposeShortForm(name)).toBe(short);
  });

  test("has no sign between its letters", () => {
    expect(squash("Café – Néon, 2")).toBe("cafeneon2");
  });
});

describe("initials", () => {
  test.each([
    ["Juggling Two", "j2"],
    ["Wire Walk 12", "ww12"],
    ["The Wire Walk", "ww"],
    ["1b Evening 2nd", "1e2"],
    ["the", "t"],
  ])("of %j are %j", (name, short) => {
    expect(initials(name)).toBe(short);
  });
});

describe("a site code", () => {
  test.each([
    ["Millyard", "MI"],
    ["Harbour Loft", "HL"],
    ["The Old Mill by the Water", "TOMB"],
    ["É", "E"],
    ["  Hill  Top  ", "HT"],
    ["", ""],
  ])("of %j is %j", (name, code) => {
    expect(proposeSiteCode(name)).toBe(code);
  });
});

describe("short forms of many names", () => {
  const forms = (names: string[], kept: [string, string][] = []) =>
    Object.fromEntries(proposeShortForms(names, new Map(kept)));

  test("are the names' own where these differ", () => {
    expect(forms(["Wire Walk", "Trapeze Two"])).toEqual({
      "trapeze two": "trapeze2",
      "wire walk": "wirewalk",
    });
  });

  test("are written out where two would be one", () => {
    expect(forms(["Juggling One", "Juggling 1"])).toEqual({
      "juggling 1": "juggling1",
      "juggling one": "jugglingone",
    });
    const long = forms(["Acrobatics Beginners Evening", "Acrobatics Big Evening"]);
    expect(long).toEqual({
      "acrobatics beginners evening": "acrobaticsbeginnersevening",
      "acrobatics big evening": "acrobaticsbigevening",
    });
  });

  test("count on where even that is taken", () => {
    const same = "Acrobatics for Absolute Beginners on Monday Evening";
    expect(forms([`${same} A`, `${same} B`])).toEqual({
      [fold(`${same} A`)]: "acrobaticsforabsolutebeginne",
      [fold(`${same} B`)]: proposeShortForm(`${same} B`),
    });
    expect(forms([`${same} A`, `${same} B`, `${same} C`])[fold(`${same} C`)]).toBe(
      `${proposeShortForm(`${same} C`)}2`,
    );
  });

  test("leave alone what the house has chosen, and don't use it again", () => {
    expect(forms(["Wire Walk", "Trapeze Two"], [["wire walk", "trapeze2"]])).toEqual({
      "trapeze two": "trapeze22",
    });
  });

  test("are given once for spellings of one name, and not for an empty one", () => {
    expect(forms(["Wire Walk", "WIRE  WALK", " "])).toEqual({ "wire walk": "wirewalk" });
  });
});
