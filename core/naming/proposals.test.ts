import { describe, expect, test } from "vitest";
import { say } from "@amigo/language/say";
import { LONGEST_NAME, faultsOfName, isHard, nameFaultSentence, type NameFault } from "./nameFault";
import { nameLists, type NamingRules } from "./nameLists";
import { fillPattern, readPattern, tidyName } from "./pattern";

const RULES: NamingRules = {
  shortForms: new Map(),
  longest: 30,
  reserved: new Set(["office"]),
  heldBy: () => undefined,
};
const PARTS = { site: "ML", of: "Wire Walk", audience: "Guardians", season: "2026-27", lead: "" };

/** Names lists of classes by one pattern; returns each proposal. */
function proposals(
  pattern: string,
  classes: readonly string[],
  rules: Partial<NamingRules> = {},
): string[] {
  return nameLists(
    classes.map((of, at) => ({ key: String(at), pattern, parts: { ...PARTS, of } })),
    { ...RULES, ...rules },
  ).map(({ proposal }) => proposal);
}

describe("the way out of a name", () => {
  test("of nothing to go by is a plain word", () => {
    expect(proposals("{class}", ["", "…"])).toEqual(["list-2", "list-3"]);
  });

  test("that two lists share is the written-out one, where it is short enough, else a number", () => {
    const twins = ["Wire Walk", "Water Wheel"];
    expect(proposals("{class:initials}", twins)).toEqual(["wirewalk", "waterwheel"]);
    expect(proposals("{class:initials}", twins, { longest: 8 })).toEqual(["wirewalk", "ww-2"]);
    expect(proposals("{class:initials}", twins, { longest: 7 })).toEqual(["ww-2", "ww-3"]);
  });

  test("that is longer than the house likes is a shorter one, the longest that fits", () => {
    const long = "evening-{class}-{season}";
    expect(proposals(long, ["Stilts and Clowning"], { longest: 23 })).toEqual([
      "evening-stiltsan-2627",
    ]);
    expect(proposals(long, ["Stilts and Clowning"], { longest: 20 })).toEqual([
      "evening-stilt-2627",
    ]);
    expect(proposals(long, ["Stilts and Clowning"], { longest: 15 })).toEqual(["evening-sc-2627"]);
  });

  test("stays the long one where nothing shorter is free or short enough", () => {
    expect(proposals("evening-{class}-{season}", ["Wire Walk"], { longest: 5 })).toEqual([
      "evening-wirewalk-2627",
    ]);
    expect(
      proposals("evening-{class}-{season}", ["Wire Walk"], {
        longest: 20,
        heldBy: (name) =>
          name === "evening-wirewalk-2627" ? undefined : { key: "another", now: true },
      }),
    ).toEqual(["evening-wirewalk-2627"]);
  });

  test("that is long and held by another is no longer the long one", () => {
    expect(
      proposals("evening-{class}-{season}", ["Wire Walk"], {
        longest: 10,
        heldBy: (name) =>
          name === "evening-wirewalk-2627" ? { key: "another", now: true } : undefined,
      }),
    ).toEqual(["evening-wirewalk-2627-2"]);
  });

  test("that is too long for any address is cut, and not at a dash", () => {
    const start = "a".repeat(LONGEST_NAME - 7);
    expect(proposals(`${start}-{class}`, ["Wire Walk"], { longest: LONGEST_NAME })).toEqual([
      `${start}-wirew`,
    ]);
    expect(proposals(`${start}-b${"c".repeat(20)}`, ["x"])).toEqual([`${start}-2`]);
  });

  test("of a list without a fault is the name that others may not take", () => {
    expect(proposals("wire-2", ["A"])).toEqual(["wire-2"]);
    expect(
      nameLists(
        [
          { key: "b", pattern: "wire-2", parts: PARTS },
          { key: "a", pattern: "wire", parts: PARTS },
        ],
        { ...RULES, heldBy: (name) => (name === "wire" ? { key: "c", now: true } : undefined) },
      ).map(({ key, proposal }) => [key, proposal]),
    ).toEqual([
      ["b", "wire-2"],
      ["a", "wire-3"],
    ]);
  });
});

describe("a fault of a name", () => {
  const house = { longest: 10, reserved: new Set(["office"]) };
  test.each<[string, NameFault[]]>([
    ["a", []],
    ["wire.walk-2", ["long"]],
    ["wirewalk22", []],
    ["wire-", ["form"]],
    ["-wire", ["form"]],
    ["wi..re", ["form"]],
    ["wi re", ["form"]],
    ["Wire", ["form"]],
    ["a".repeat(LONGEST_NAME), ["long"]],
    ["a".repeat(LONGEST_NAME + 1), ["too-long"]],
    ["postmaster", ["reserved"]],
    ["office", ["reserved"]],
    ["x-request", ["reserved"]],
    ["", ["empty"]],
  ])("%j: %j", (name, faults) => {
    expect(faultsOfName(name, house)).toEqual(faults);
  });

  test.each<[NameFault, string]>([
    ["empty", ""],
    ["form", "wire"],
    ["too-long", "4"],
    ["long", "10"],
    ["reserved", "wire"],
    ["taken", "wire"],
    ["recent", "wire"],
    ["ambiguous", "wire"],
  ])("%s is said with what it is about", (fault, said) => {
    const sentence = say(nameFaultSentence(fault, "wire", house));
    expect(sentence).toContain(said);
    expect(sentence).toMatch(/\.$/);
    expect(isHard(fault)).toBe(fault !== "long");
  });

  test("no two faults are said alike", () => {
    const faults = [
      "empty",
      "form",
      "too-long",
      "long",
      "reserved",
      "taken",
      "recent",
      "ambiguous",
    ];
    const sentences = faults.map((fault) =>
      say(nameFaultSentence(fault as NameFault, "wire", house)),
    );
    expect(new Set(sentences).size).toBe(faults.length);
  });
});

describe("a pattern", () => {
  const fill = (pattern: string, parts: Partial<typeof PARTS> = {}): string => {
    const read = readPattern(pattern);
    return read.ok ? fillPattern(read.pieces, { ...PARTS, ...parts }, new Map()) : "a fault";
  };

  test.each([
    ["{season}", { season: "2026-27" }, "2627"],
    ["{season}", { season: "26-27" }, "2627"],
    ["{season}", { season: "2026-2027" }, "2627"],
    ["{season}", { season: "Autumn 2026-27" }, "autumn-2026-27"],
    ["{season}", { season: "2026-27 b" }, "2026-27-b"],
    ["{season:squashed}", { season: "2026-27" }, "202627"],
    ["{site}", { site: "Harbour Loft" }, "harbourloft"],
    ["{site:initials}", { site: "Harbour Loft" }, "hl"],
    ["{site:short}", { site: "Ten Pins" }, "10pins"],
    ["{ class : first 12 }", { of: "Trapeze and Wire Walk" }, "trapezeandwi"],
    ["{class:first 3}", { of: "Trapeze" }, "tra"],
    ["{lead}", { lead: " Sunniva  Hale " }, "hale"],
    ["{lead}", { lead: "Hale, Sunniva" }, "hale"],
    ["{lead}", { lead: "" }, ""],
    ["x.{class}..y", { of: "Wire" }, "x.wire.y"],
    ["--{class}--", { of: "Wire" }, "wire"],
    ["a/b, c & d_e", {}, "a-b-c-d-e"],
  ])("%s with %j makes %j", (pattern, parts, name) => {
    expect(fill(pattern, parts)).toBe(name);
  });

  test.each(["{class:first 0}", "{class:first 123}", "{class:second 1}", "{class", "class}"])(
    "%s can't be read",
    (pattern) => {
      expect(readPattern(pattern).ok).toBe(false);
    },
  );

  test("a part that there isn't is told with those that there are, and the nearest", () => {
    const read = readPattern("ml-{clas}");
    if (read.ok) throw new Error("it was read");
    expect(read.fault).toMatchObject({ at: 3, proposal: "{class}" });
    expect(say(read.fault.sentence)).toContain("{site}, {class}");
    const wrong = readPattern("{class:loud}");
    expect(wrong.ok ? "" : say(wrong.fault.sentence)).toContain("short, squashed");
  });

  test("a name is small letters with single dashes between", () => {
    expect(tidyName("..A -- B.. C..")).toBe("a-b-c");
    expect(tidyName("A...B")).toBe("a.b");
  });
});
