import fc from "fast-check";
import { expect, test } from "vitest";
import type { Origin } from "../facts/origin";
import { byPrecedence, type Telling } from "./precedence";

const row: Origin = {
  from: "row",
  source: "s",
  reading: "r",
  sheet: "Roster",
  row: 2,
  meaning: "student.name",
  slot: 0,
};
const hand: Origin = { from: "hand", by: "Juno Abara", at: "2026-09-01T08:00:00Z" };
const corrected: Origin = { ...row, corrected: "c1" };
const telling = (
  value: string,
  origin: Origin,
  answered: string,
  place: number,
): Telling<string> => ({ value, origin, answered, place });

const TOLD = [
  telling("by hand", hand, "", 9),
  telling("corrected", corrected, "", 8),
  telling("newest answer", row, "2026-09-03T10:00:00Z", 7),
  telling("older answer", row, "2026-09-01T10:00:00Z", 6),
  telling("oldest roster", row, "", 1),
  telling("newer roster", row, "", 2),
];

test("who is believed: a person, a corrected cell, the newest answer, the oldest roster", () => {
  fc.assert(
    fc.property(fc.shuffledSubarray(TOLD, { minLength: TOLD.length }), (told) => {
      expect(byPrecedence(told).map(({ value }) => value)).toEqual(TOLD.map(({ value }) => value));
    }),
  );
});

test("of two answers at one time, that of the older source is believed", () => {
  const [first, second] = [
    telling("a", row, "2026-09-03T10:00:00Z", 2),
    telling("b", row, "2026-09-03T10:00:00Z", 1),
  ];
  expect(byPrecedence([first, second]).map(({ value }) => value)).toEqual(["b", "a"]);
});
