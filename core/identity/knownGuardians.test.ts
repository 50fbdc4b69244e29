import { describe, expect, test } from "vitest";
import { factKey, type Fact } from "../facts/fact";
import type { FactIndex } from "../facts/factIndex";
import { indexFacts } from "../facts/indexFacts";
import type { Origin } from "../facts/origin";
import { mention, named } from "../testing/mention";
import type { Cluster, Mention } from "./clusterGuardians";
import { guardianFacts } from "./guardianFacts";
import { nameGuardians } from "./knownGuardians";

const origin = {
  from: "row",
  source: "old",
  reading: "1",
  sheet: "S",
  row: 2,
  meaning: "guardian.name",
  slot: 0,
} as Origin;

/** A guardian whom the house knows already. */
function known(
  id: string,
  name: string,
  addresses: string[],
  students: string[],
): Omit<Fact, "origin">[] {
  return [
    { subject: id, kind: "guardian", ref: "", value: "" },
    { subject: id, kind: "name", ref: "", value: named(name) },
    ...addresses.map((ref): Omit<Fact, "origin"> => ({
      subject: id,
      kind: "address",
      ref,
      value: "",
    })),
    ...students.map((ref): Omit<Fact, "origin"> => ({ subject: id, kind: "tie", ref, value: "" })),
  ] as Omit<Fact, "origin">[];
}
const standing = (...facts: Omit<Fact, "origin">[]): FactIndex =>
  indexFacts(
    new Map(
      [
        ...["s", "t"].map((id): Omit<Fact, "origin"> => ({
          subject: id,
          kind: "student",
          ref: "",
          value: "",
        })),
        ...facts,
      ].map((fact) => [factKey(fact as Fact), { ...fact, origin } as Fact]),
    ),
  );
const ids = (clusters: Cluster[], stand: FactIndex): (string | undefined)[] => {
  const found = nameGuardians(clusters, stand);
  return clusters.map((cluster) => found.get(cluster));
};

describe("a guardian whom the house knows", () => {
  const stand = standing(
    ...known("g-1", "Robin Oak", ["oak@oakmail.example"], ["s"]),
    ...known("g-2", "Sam Elm", ["shared@oakmail.example"], ["s", "t"]),
    ...known("g-3", "Kim Elm", ["shared@oakmail.example"], ["t"]),
  );

  test.each<[string, Mention[], string]>([
    [
      "by the address and the name",
      [mention("Robin Oak", { student: "x", address: "oak@oakmail.example" })],
      "g-1",
    ],
    [
      "by a student in common and the name, where the address is new",
      [mention("Robin Oak", { address: "new@oakmail.example" })],
      "g-1",
    ],
    [
      "by a student in common and the name, where no address is told",
      [mention("robin OAK")],
      "g-1",
    ],
    [
      "by the address and nearly the name, at an unknown student",
      [mention("R Oak", { student: "x", address: "oak@oakmail.example" })],
      "g-1",
    ],
    [
      "by a student and the address in common, where the name is new",
      [mention("Alex Pine", { address: "oak@oakmail.example" })],
      "g-1",
    ],
    [
      "of two at one address by the name",
      [mention("Kim Elm", { student: "x", address: "shared@oakmail.example" })],
      "g-3",
    ],
    [
      "by any of several mentions",
      [mention("R Oak", { student: "x" }), mention("Robin Oak", { student: "s" })],
      "g-1",
    ],
    [
      "by any of several addresses",
      [
        mention("Alex Pine", { address: "b@oakmail.example" }),
        mention("Alex Pine", { address: "oak@oakmail.example" }),
      ],
      "g-1",
    ],
  ])("is found %s", (_, cluster, id) => {
    expect(ids([cluster], stand)).toEqual([id]);
  });

  test.each<[string, Mention[]]>([
    ["the name alone, at another student", [mention("Robin Oak", { student: "x" })]],
    [
      "the address alone, with another name at another student",
      [mention("Alex Pine", { student: "x", address: "oak@oakmail.example" })],
    ],
    ["a student in common alone", [mention("Alex Pine", { address: "pine@oakmail.example" })]],
  ])("isn't found by %s", (_, cluster) => {
    const [id] = ids([cluster], stand);
    expect(["g-1", "g-2", "g-3", "s", "t"]).not.toContain(id);
  });

  test("is one of those who are named alone: the first that fits best", () => {
    const sure = [mention("Robin Oak", { address: "oak@oakmail.example" })];
    const other = [mention("Robin Oak", { row: 3, address: "other@oakmail.example" })];
    const [loose, exact] = ids([other, sure], stand);
    expect(exact).toBe("g-1");
    expect(loose).toMatch(/^g-/);
    expect(loose).not.toBe("g-1");
  });

  test("isn't a student or somebody on the staff who has the address", () => {
    const school = standing(
      { subject: "s", kind: "address", ref: "own@copperwheel.example", value: "" } as Omit<
        Fact,
        "origin"
      >,
      { subject: "s", kind: "name", ref: "", value: named("Ida Oak") } as Omit<Fact, "origin">,
    );
    expect(ids([[mention("Ida Oak", { address: "own@copperwheel.example" })]], school)[0]).not.toBe(
      "s",
    );
  });
});

describe("an unknown guardian", () => {
  const nobody = standing();

  test("gets an id made from what is written, the same for the same sheet", () => {
    const cluster = (): Cluster => [mention("Robin Oak", { address: "oak@oakmail.example" })];
    expect(ids([cluster()], nobody)).toEqual(ids([cluster()], nobody));
    expect(ids([cluster()], nobody)[0]).toMatch(/^g-[a-z0-9]+$/);
  });

  test("has another one by another address, name or student", () => {
    const made = ids(
      [
        [mention("Robin Oak", { address: "oak@oakmail.example" })],
        [mention("Robin Oak", { address: "other@oakmail.example" })],
        [mention("Alex Oak", { address: "oak@oakmail.example" })],
        [mention("Robin Oak", { student: "s" })],
        [mention("Robin Oak", { student: "t" })],
        [mention("Robin Oak", { student: "t" }), mention("Robin Oak", { student: "s" })],
      ],
      nobody,
    );
    expect(new Set(made).size).toBe(6);
  });

  test("without an address is known by the students, whatever their order and number", () => {
    const of = (...students: string[]): Cluster =>
      students.map((student) => mention("Robin Oak", { student }));
    expect(ids([of("s", "t")], nobody)).toEqual(ids([of("t", "s", "t")], nobody));
  });

  test("gets a number behind the id where it is taken", () => {
    const twice = (): Cluster => [mention("Robin Oak", { address: "oak@oakmail.example" })];
    const [first, second, third] = ids([twice(), twice(), twice()], nobody);
    expect([second, third]).toEqual([`${first}-2`, `${first}-3`]);
    const taken = standing(...known(first ?? "", "Somebody Else", [], []));
    expect(ids([twice()], taken)).toEqual([`${first}-2`]);
  });
});

describe("what is told of a guardian", () => {
  const facts = (cluster: Cluster, stand = standing(), holds: Mention[] = cluster): Fact[] =>
    guardianFacts("g", cluster, { holds } as Parameters<typeof guardianFacts>[2], stand);
  const nameIn = (cluster: Cluster, stand?: FactIndex) => {
    const fact = facts(cluster, stand).find(({ kind }) => kind === "name");
    return [fact?.value, fact?.origin.from === "row" ? fact.origin.row : 0];
  };

  test("is who they are, their addresses and whose guardian they are, each from its own row", () => {
    const all = facts([
      mention("Robin Oak", { address: "oak@oakmail.example", row: 2, relationship: "mother" }),
      mention("Robin Oak", { student: "t", row: 5, slot: 2, relationship: "aunt" }),
    ]);
    expect(all.map(({ kind, ref, value }) => [kind, ref, value])).toEqual([
      ["guardian", "", ""],
      ["name", "", { given: "Robin", family: "Oak" }],
      ["address", "oak@oakmail.example", ""],
      ["tie", "s", "mother"],
      ["tie", "t", "aunt"],
    ]);
    expect(
      all.map(
        (fact) =>
          fact.origin.from === "row" && [fact.origin.row, fact.origin.meaning, fact.origin.slot],
      ),
    ).toEqual([
      [2, "guardian.name", 1],
      [2, "guardian.name", 1],
      [2, "guardian.address", 1],
      [2, "guardian.name", 1],
      [5, "guardian.name", 2],
    ]);
  });

  test("is nothing where nobody is named", () => {
    expect(facts([])).toEqual([]);
  });

  test.each<[string, string[], string, number]>([
    ["the one that is written most often", ["Rob Oak", "Robin Oak", "Robin Oak"], "Robin Oak", 2],
    ["among equals the first", ["Rob Oak", "Robin Oak"], "Rob Oak", 2],
    [
      "one with all its letters, however often another is written",
      ["R?bin Oak", "R?bin Oak", "Robin Oak"],
      "Robin Oak",
      4,
    ],
    ["one with lost letters where there is no other", ["", "R?bin Oak"], "R?bin Oak", 2],
    ["none where none is written", ["", ""], "", 2],
    ["one that is written, before none", ["", "Robin Oak"], "Robin Oak", 3],
  ])("has as its name %s", (_, names, expected, row) => {
    const cluster = names.map((name, index) => mention(name, { row: index + 2 }));
    expect(nameIn(cluster)).toEqual([named(expected), row]);
  });

  test("keeps the name as it stood, where it is still written so", () => {
    const stand = standing(...known("g", "Rob Oak", [], []));
    const often = ["Robin Oak", "Robin Oak", "Rob Oak"].map((name) => mention(name));
    expect(nameIn(often, stand)[0]).toEqual(named("Rob Oak"));
    expect(nameIn(often.slice(0, 2), stand)[0]).toEqual(named("Robin Oak"));
    const lost = standing(...known("g", "R?b Oak", [], []));
    const both = ["R?b Oak", "Robin Oak"].map((name) => mention(name));
    expect(nameIn(both, lost)[0]).toEqual(named("Robin Oak"));
    // The same family name, or the same given name, alone isn't the same name.
    const near = standing(...known("g", "Rob Elm", [], []));
    expect(
      nameIn(
        ["Robin Oak", "Robin Oak", "Rob Oak"].map((name) => mention(name)),
        near,
      )[0],
    ).toEqual(named("Robin Oak"));
  });
});
