import { expect, test } from "vitest";
import type { Board, BoardRow } from "@amigo/contract/board";
import { whatNext } from "./whatNext";

const row = (students: number, reached: number): BoardRow => ({
  cohort: 1,
  name: "Wire Walk",
  kind: "class",
  coach: "",
  levels: "",
  students,
  reached,
  cells: [],
});
const board = (overrides: Partial<Board>, ...rows: BoardRow[]): Board => ({
  columns: [],
  sites: [{ name: "Mill Loft", code: "ML", rows }],
  others: [],
  lists: 3,
  outOfStep: 0,
  openCauses: 0,
  lastReading: null,
  hasRound: false,
  ...overrides,
});

test("a round to review comes first, with how many lists differ", () => {
  const step = whatNext(board({ openCauses: 14, outOfStep: 2 }, row(5, 3)));
  expect(step).toEqual({
    sentence: "2 lists differ from your sheets. Review the changes, then bring the lists in step.",
    button: "Review 14 changes",
    to: "/changes",
  });
  expect(whatNext(board({ openCauses: 1 }))?.sentence).toContain("Your sheets have changed");
});

test("then families who can't be reached, and nothing where there is nothing to do", () => {
  expect(whatNext(board({}, row(5, 5), row(4, 3)))?.to).toBe("/reach");
  expect(whatNext(board({}, row(5, 5), row(0, 0)))).toBeUndefined();
});
