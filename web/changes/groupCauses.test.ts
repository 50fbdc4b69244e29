import { describe, expect, test } from "vitest";
import type { CauseLine } from "@amigo/contract/rounds";
import { groupCauses } from "./groupCauses";

function cause(position: number, overrides: Partial<CauseLine> = {}): CauseLine {
  return {
    position,
    kind: "joined",
    title: `Student ${position}`,
    detail: "",
    group: "Wire Walk",
    joins: 1,
    leaves: 0,
    replaced: 0,
    lists: 1,
    listKeys: ["1:class:wire walk"],
    sources: ["Roster"],
    unreachable: false,
    decision: "accepted",
    ...overrides,
  };
}

describe("causes gathered for a person", () => {
  test("keep the order in which they come, one group a kind", () => {
    const groups = groupCauses(
      [cause(0, { kind: "moved" }), cause(1), cause(2, { kind: "left" }), cause(3)],
      false,
    );
    expect(
      groups.map(({ title, causes }) => [title, causes.map(({ position }) => position)]),
    ).toEqual([
      ["Moved class", [0]],
      ["Joined", [1, 3]],
      ["Left", [2]],
    ]);
  });

  test("stand one a line while they are few", () => {
    expect(
      groupCauses(
        Array.from({ length: 24 }, (_, index) => cause(index)),
        false,
      )[0]?.classes,
    ).toBeUndefined();
  });

  test("are one line a class when they are many, and none goes missing", () => {
    const many = Array.from({ length: 60 }, (_, index) =>
      cause(index, { group: ["Wire Walk", "Acro Pairs", ""][index % 3] ?? "" }),
    );
    const classes = groupCauses(many, true)[0]?.classes;
    expect(classes?.map(({ name, causes }) => [name, causes.length])).toEqual([
      ["Wire Walk", 20],
      ["Acro Pairs", 20],
      ["", 20],
    ]);
  });

  test("of a first import stand by class together with the new classes, other kinds after them", () => {
    const groups = groupCauses(
      [
        cause(0, { kind: "cohort", group: "Wire Walk" }),
        cause(1, { kind: "staff", group: "" }),
        ...Array.from({ length: 30 }, (_, index) =>
          cause(index + 2, { group: ["Wire Walk", "Acro Pairs"][index % 2] ?? "" }),
        ),
      ],
      true,
    );
    expect(groups.map(({ title, causes }) => [title, causes.length])).toEqual([
      ["By class", 31],
      ["staff", 1],
    ]);
    expect(groups[0]?.classes?.map(({ name, causes }) => [name, causes.length])).toEqual([
      ["Wire Walk", 16],
      ["Acro Pairs", 15],
    ]);
  });

  test("of lists stand one a line however many there are, for they belong to no class", () => {
    const [group] = groupCauses(
      Array.from({ length: 60 }, (_, index) => cause(index, { kind: "list", group: "" })),
      false,
    );
    expect([group?.title, group?.classes]).toEqual(["Lists", undefined]);
  });

  test("of a kind without a title of its own go by their kind", () => {
    expect(groupCauses([cause(0, { kind: "weather" })], false)[0]?.title).toBe("weather");
  });

  test("are no groups when there are none", () => {
    expect(groupCauses([], false)).toEqual([]);
  });
});
