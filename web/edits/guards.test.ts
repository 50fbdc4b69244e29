import { describe, expect, test } from "vitest";
import { unpassed } from "./Guards";

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
