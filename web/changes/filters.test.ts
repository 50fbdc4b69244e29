import { describe, expect, test } from "vitest";
import type { CauseLine } from "@amigo/contract/rounds";
import { passes, type CauseFilter } from "./Filters";
import { unpassed } from "../edits/Guards";

const cause: CauseLine = {
  position: 0,
  kind: "moved",
  title: "Ida Brandt",
  detail: "",
  group: "Wire Walk",
  joins: 1,
  leaves: 1,
  replaced: 0,
  lists: 2,
  listKeys: ["1:class:wire walk", "1:class:acro pairs"],
  sources: ["Roster", "Form"],
  unreachable: false,
  decision: "accepted",
};
const all: CauseFilter = { list: "", group: "", kind: "", source: "" };

describe("which causes are shown", () => {
  test.each<[Partial<CauseFilter>, boolean]>([
    [{}, true],
    [{ list: "1:class:acro pairs" }, true],
    [{ list: "2:class:acro pairs" }, false],
    [{ group: "Wire Walk" }, true],
    [{ group: "Acro Pairs" }, false],
    [{ kind: "moved" }, true],
    [{ kind: "left" }, false],
    [{ source: "Form" }, true],
    [{ source: "Club" }, false],
    [{ source: "Form", kind: "left" }, false],
    [{ source: "Form", kind: "moved", group: "Wire Walk", list: "1:class:wire walk" }, true],
  ])("%j: %s", (given, shown) => expect(passes(cause, { ...all, ...given })).toBe(shown));
});

describe("guards whose count was typed", () => {
  const guards = [
    { id: "a", about: "Wire Walk", sentence: "would lose 4.", count: 4 },
    { id: "b", about: "Roster", sentence: "has fewer rows.", count: 12 },
  ];
  test.each<[Record<string, string>, string[]]>([
    [{}, ["a", "b"]],
    [{ a: "4" }, ["b"]],
    [{ a: "4", b: "12" }, []],
    [{ a: "", b: "1" }, ["a", "b"]],
    [{ a: "04", b: "12 " }, ["a", "b"]],
  ])("%j leaves %j", (typed, left) =>
    expect(unpassed(guards, typed).map(({ id }) => id)).toEqual(left),
  );
});
