import { expect, test } from "vitest";
import type { MeaningId } from "@amigo/core/sheet/meanings/meaning";
import { whoInRow } from "./whoInRow";

const columns = (...meanings: MeaningId[]): { meaning: MeaningId }[] =>
  meanings.map((meaning) => ({ meaning }));

test.each<[MeaningId[], string[] | undefined, string]>([
  [
    ["student.number", "student.surname", "student.given"],
    ["CW-1", " Quist ", "Bram"],
    "Bram Quist",
  ],
  [["student.name", "guardian.name"], ["Quist, Bram", "Ana Quist"], "Quist, Bram"],
  [["student.surname"], [], ""],
  [["student.surname"], undefined, ""],
  [["guardian.address"], ["a@lettr.example"], ""],
])("%j with %j", (meanings, cells, wanted) => {
  expect(whoInRow(columns(...meanings), cells)).toBe(wanted);
});
