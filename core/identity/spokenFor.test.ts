import { describe, expect, test } from "vitest";
import { factKey, type Fact } from "../facts/fact";
import { indexFacts } from "../facts/indexFacts";
import type { Origin } from "../facts/origin";
import type { RowRecord } from "../sheet/rowRecord";
import { keepStanding } from "./keepStanding";

/*
 * Who has left? A student who is in no source any more has left where a source speaks for them that claims to be whole: it told of
 * them before, it has their class, or it has at least half of the classes of their site.
 */
type Loose = Omit<Fact, "origin">;
const from = (source: string): Origin => ({
  from: "row",
  source,
  reading: `${source} 1`,
  sheet: "Sheet",
  row: 2,
  meaning: "student.name",
  slot: 0,
});
const BY_HAND = { from: "hand", by: "Juno Abara", reason: "" } as unknown as Origin;
const stored = (origin: Origin, ...facts: Loose[]): [string, Fact][] =>
  facts.map((fact) => [factKey(fact as Fact), { ...fact, origin } as Fact]);

/** A student of a class, as a source or somebody told of them. */
function student(id: string, group: string, origin: Origin, site = ""): [string, Fact][] {
  return stored(
    origin,
    { subject: id, kind: "student", ref: "", value: "" },
    { subject: id, kind: "enrolment", ref: `class:${group}`, value: "" },
    ...(site === "" ? [] : [{ subject: id, kind: "site" as const, ref: "" as const, value: site }]),
  );
}
const group = (name: string, site = "", coach = "", origin = from("old")): [string, Fact][] =>
  stored(origin, {
    subject: `class:${name}`,
    kind: "cohort",
    ref: "",
    value: { name, kind: "class", site, coach },
  });
const row = (group_: string, site = ""): RowRecord => ({
  sheet: "Sheet",
  row: 2,
  number: "",
  name: { given: "Any", family: "Body" },
  level: "",
  site,
  classes: group_ === "" ? [] : [group_],
  teams: [],
  coach: "",
  address: undefined,
  answered: "",
  guardians: [],
});

/** Whether a known student stays although no source mentions them any more. */
function stays(
  id: string,
  standing: [string, Fact][],
  sources: { source: string; whole?: boolean; records: RowRecord[] }[],
  waiting: readonly string[] = [],
): boolean {
  const stood = new Map(standing);
  const now = new Map<string, Fact>();
  keepStanding(
    now,
    sources.map((one) => ({ reading: `${one.source} 2`, ...one })),
    indexFacts(stood),
    stood,
    new Set(waiting),
  );
  return now.has(`${id}|student|`);
}

describe("a student in no source any more", () => {
  const form = { source: "form", whole: false, records: [] };

  test.each<[string, [string, Fact][], Parameters<typeof stays>[2], boolean]>([
    [
      "has left where the roster that told of them is whole",
      student("s", "wire", from("office")),
      [{ source: "office", records: [row("wire")] }, form],
      false,
    ],
    ["stays where only a form told of them", student("s", "wire", from("form")), [form], true],
    [
      "stays where the source that told of them only adds now",
      student("s", "wire", from("office")),
      [{ source: "office", whole: false, records: [row("silks")] }],
      true,
    ],
    [
      "has left where a whole source has their class, whoever told of them",
      student("s", "wire", from("form")),
      [{ source: "coach", records: [row("wire")] }, form],
      false,
    ],
    [
      "stays where a whole source has other classes, less than half of them",
      [
        ...student("s", "wire", from("form")),
        ...group("wire"),
        ...group("silks"),
        ...group("seeds"),
      ],
      [{ source: "coach", records: [row("silks")] }, form],
      true,
    ],
    [
      "has left where a whole source has half of all classes",
      [...student("s", "wire", from("form")), ...group("wire"), ...group("silks")],
      [{ source: "coach", records: [row("silks")] }, form],
      false,
    ],
    [
      "stays where the whole source names no class at all",
      student("s", "wire", from("form")),
      [{ source: "members", records: [row("")] }, form],
      true,
    ],
    [
      "was taken on by hand, and stays where the sources tell of no such class",
      [...student("s", "wire", BY_HAND), ...group("wire"), ...group("silks"), ...group("seeds")],
      [{ source: "coach", records: [row("silks")] }],
      true,
    ],
    [
      "was taken on by hand, and stays though all sources are whole, when they tell of few classes",
      [
        ...student("s", "wire", from("gone source")),
        ...group("wire"),
        ...group("silks"),
        ...group("seeds"),
      ],
      [{ source: "coach", records: [row("silks")] }],
      true,
    ],
  ])("%s", (_, standing, sources, expected) => {
    expect(stays("s", standing, sources)).toBe(expected);
  });

  test("has left without a question where all sources are whole and told of them", () => {
    expect(
      stays(
        "s",
        [
          ...student("s", "wire", from("coach")),
          ...group("wire"),
          ...group("silks"),
          ...group("seeds"),
        ],
        [{ source: "coach", records: [row("silks")] }],
      ),
    ).toBe(false);
  });

  test.each<[string, Loose[], boolean]>([
    [
      "by the name alone",
      [{ subject: "s", kind: "name", ref: "", value: { given: "A", family: "B" } }],
      false,
    ],
    [
      "by the class alone",
      [{ subject: "s", kind: "enrolment", ref: "class:silks", value: "" }],
      false,
    ],
    ["by the number alone", [{ subject: "s", kind: "number", ref: "", value: "7" }], true],
    [
      "by an address alone",
      [{ subject: "s", kind: "address", ref: "a@lettr.example", value: "" }],
      true,
    ],
  ])("of whom a whole roster told %s beside a form", (_, told, expected) => {
    const standing = [
      ...student("s", "wire", from("form")),
      ...stored(from("office"), ...told),
      ...group("wire"),
      ...group("silks"),
      ...group("seeds"),
    ];
    expect(stays("s", standing, [{ source: "office", records: [row("seeds")] }, form])).toBe(
      expected,
    );
  });

  test("stays while a row is asked about them, though the roster is whole", () => {
    const roster = [{ source: "office", records: [row("wire")] }];
    const standing = student("s", "wire", from("office"));
    expect(stays("s", standing, roster, ["s"])).toBe(true);
    expect(stays("s", standing, roster, ["another"])).toBe(false);
  });
});

describe("a whole roster of one site", () => {
  const form = { source: "form", whole: false, records: [] };
  const houses = [
    ...group("wire", "Mill Loft"),
    ...group("hoops", "Mill Loft"),
    ...group("juggling", "Big Barn"),
    ...group("seeds", "Big Barn"),
  ];
  const loft = { source: "loft", records: [row("hoops", "Mill Loft")] };

  test("speaks for those at its site, by their class or their own site, and for nobody at another", () => {
    expect(stays("s", [...houses, ...student("s", "wire", from("form"))], [loft, form])).toBe(
      false,
    );
    expect(stays("s", [...houses, ...student("s", "juggling", from("form"))], [loft, form])).toBe(
      true,
    );
    const untold = [...group("other"), ...houses];
    expect(
      stays(
        "s",
        [...untold, ...student("s", "nowhere", from("form"), "mill loft")],
        [{ ...loft, records: [row("hoops", "Mill Loft"), row("wire", "Mill Loft")] }, form],
      ),
    ).toBe(false);
    expect(
      stays(
        "s",
        [...untold, ...student("s", "nowhere", from("form"), "Big Barn")],
        [{ ...loft, records: [row("hoops", "Mill Loft"), row("wire", "Mill Loft")] }, form],
      ),
    ).toBe(true);
  });

  test("counts the classes of its site alone, and those of no site with them", () => {
    const many = ["a", "b", "c", "d"].flatMap((name) => group(name, "Big Barn"));
    const standing = [...houses, ...many, ...student("s", "wire", from("form"))];
    expect(stays("s", standing, [loft, form])).toBe(false);
    const siteless = ["e", "f"].flatMap((name) => group(name));
    expect(stays("s", [...standing, ...siteless], [loft, form])).toBe(true);
  });

  test("without sites speaks for the whole house by its classes", () => {
    const roster = { source: "office", records: [row("hoops"), row("wire"), row("juggling")] };
    expect(stays("s", [...houses, ...student("s", "seeds", from("form"))], [roster, form])).toBe(
      false,
    );
    const small = { source: "office", records: [row("hoops")] };
    expect(stays("s", [...houses, ...student("s", "seeds", from("form"))], [small, form])).toBe(
      true,
    );
  });

  test("counts classes alone: teams and committees say nothing of how much of the house it has", () => {
    const teams = ["parade", "crew", "junior"].flatMap((name) =>
      stored(from("old"), {
        subject: `team:${name}`,
        kind: "cohort",
        ref: "",
        value: { name, kind: "team", site: "Mill Loft", coach: "" },
      }),
    );
    expect(
      stays("s", [...houses, ...teams, ...student("s", "wire", from("form"))], [loft, form]),
    ).toBe(false);
  });
});

describe("a class that only a source which adds tells of", () => {
  const told = (whole: boolean, now: { site: string; coach: string }, source = "form") => {
    const stood = new Map(group("wire", "Mill Loft", "Ravi Lindqvist"));
    const facts = new Map(
      stored(from(source), {
        subject: "class:wire",
        kind: "cohort",
        ref: "",
        value: { name: "WIRE", kind: "class", ...now },
      }),
    );
    keepStanding(
      facts,
      [
        { source, reading: "2", whole, records: [row("Wire")] },
        { source: "more", reading: "2", whole: false, records: [] },
      ],
      indexFacts(stood),
      stood,
      new Set(),
    );
    return facts.get("class:wire|cohort|")?.value;
  };

  test("keeps its name, and the site and coach that it leaves out", () => {
    expect(told(false, { site: "", coach: "" })).toEqual({
      name: "wire",
      kind: "class",
      site: "Mill Loft",
      coach: "Ravi Lindqvist",
    });
  });

  test("takes a new site or coach that it is told", () => {
    expect(told(false, { site: "Big Barn", coach: "" })).toMatchObject({
      site: "Big Barn",
      coach: "Ravi Lindqvist",
    });
    expect(told(false, { site: "", coach: "Marta Okonjo" })).toMatchObject({
      site: "Mill Loft",
      coach: "Marta Okonjo",
    });
  });

  test("is as the whole source has it, where one tells of it", () => {
    expect(told(true, { site: "", coach: "" })).toEqual({
      name: "WIRE",
      kind: "class",
      site: "",
      coach: "",
    });
  });
});

describe("what is taken along with a student", () => {
  test("is their class with what it is, and nobody else's", () => {
    const stood = new Map([
      ...group("wire", "Mill Loft"),
      ...group("silks", "Mill Loft"),
      ...student("s", "wire", from("form")),
      ...stored(
        from("form"),
        { subject: "g", kind: "guardian", ref: "", value: "" },
        { subject: "g", kind: "tie", ref: "s", value: "mother" },
        { subject: "other", kind: "guardian", ref: "", value: "" },
        { subject: "other", kind: "tie", ref: "somebody", value: "father" },
      ),
    ]);
    const facts = new Map<string, Fact>();
    keepStanding(
      facts,
      [{ source: "form", reading: "2", whole: false, records: [] }],
      indexFacts(stood),
      stood,
      new Set(),
    );
    expect([...facts.keys()].sort()).toEqual(
      [
        "class:wire|cohort|",
        "g|guardian|",
        "g|tie|s",
        "s|enrolment|class:wire",
        "s|student|",
      ].sort(),
    );
  });

  test("is never in place of what is told now", () => {
    const stood = new Map(student("s", "wire", from("form")));
    const now = stored(from("form"), { subject: "g", kind: "guardian", ref: "", value: "" });
    const facts = new Map<string, Fact>([
      ...now,
      ...stored(from("new"), { subject: "s", kind: "enrolment", ref: "class:wire", value: "" }),
    ]);
    keepStanding(
      facts,
      [{ source: "form", reading: "2", whole: false, records: [] }],
      indexFacts(stood),
      stood,
      new Set(),
    );
    expect(facts.get("s|enrolment|class:wire")?.origin).toMatchObject({ source: "new" });
    expect(facts.has("s|student|")).toBe(true);
  });
});
