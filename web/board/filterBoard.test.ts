import { describe, expect, test } from "vitest";
import type { Board, BoardCell, BoardRow } from "@amigo/contract/board";
import { filterBoard, readFilters, trouble } from "./filterBoard";

const cell = (overrides: Partial<BoardCell> = {}): BoardCell => ({
  key: "2:class:x",
  list: "id",
  name: "ml-wire-parents-2627",
  count: 20,
  joins: 0,
  leaves: 0,
  unreachable: 0,
  leads: ["Petra Dunmore"],
  mine: false,
  closed: false,
  ...overrides,
});
const row = (name: string, cells: BoardCell[], overrides: Partial<BoardRow> = {}): BoardRow => ({
  cohort: name.length,
  name,
  kind: "class",
  coach: "Petra Dunmore",
  levels: "",
  students: 10,
  reached: 10,
  cells,
  ...overrides,
});
const board: Board = {
  columns: [{ label: "Students" }, { label: "Guardians" }],
  lists: 6,
  outOfStep: 1,
  openCauses: 0,
  lastReading: null,
  hasRound: false,
  sites: [
    {
      name: "Big Barn",
      code: "BB",
      rows: [
        row(
          "Acro Pairs",
          [
            cell({ name: "bb-acro-2627", leads: ["Sunniva Hale"] }),
            cell({ name: "bb-acro-parents-2627", joins: 2 }),
          ],
          { coach: "Sunniva Hale" },
        ),
        row("Juggling One", [cell({ name: "bb-jugg1-2627" }), cell({ list: null, name: "" })]),
      ],
    },
    {
      name: "Mill Loft",
      code: "ML",
      rows: [row("Wire Walk", [cell({ mine: true }), cell({ unreachable: 1 })], { reached: 9 })],
    },
  ],
  others: [
    {
      list: "s",
      key: "6:house",
      title: "Staff",
      name: "staff-2627",
      count: 7,
      joins: 0,
      leaves: 0,
      leads: [],
      mine: false,
    },
  ],
};
const names = (search: string): string[] => {
  const { sites, others } = filterBoard(board, readFilters(new URLSearchParams(search)));
  return [
    ...sites.flatMap(({ rows }) => rows.map(({ name }) => name)),
    ...others.map(({ title }) => title),
  ];
};

describe("the board narrowed", () => {
  test.each([
    ["", ["Acro Pairs", "Juggling One", "Wire Walk", "Staff"]],
    ["site=Mill Loft", ["Wire Walk"]],
    ["q=acro", ["Acro Pairs"]],
    ["q=sunn ha", ["Acro Pairs"]],
    ["q=parents acro", ["Acro Pairs"]],
    ["q=staff", ["Staff"]],
    ["only=step", ["Acro Pairs"]],
    ["only=mine", ["Wire Walk"]],
    ["only=missing", ["Juggling One"]],
    ["only=unreached", ["Wire Walk"]],
    ["lead=Sunniva Hale", ["Acro Pairs"]],
    ["only=nonsense", ["Acro Pairs", "Juggling One", "Wire Walk", "Staff"]],
    ["q=zzz", []],
    ["order=trouble&site=Big Barn", ["Acro Pairs", "Juggling One"]],
  ])("by %j", (search, wanted) => expect(names(search)).toEqual(wanted));

  test("tells which cells of a shown row do not fit, and whether anything is narrowed", () => {
    const { isDim, narrowed } = filterBoard(board, readFilters(new URLSearchParams("only=step")));
    expect(board.sites[0]?.rows[0]?.cells.map(isDim)).toEqual([true, false]);
    expect(narrowed).toBe(true);
    expect(filterBoard(board, readFilters(new URLSearchParams("order=trouble"))).narrowed).toBe(
      false,
    );
  });

  test("differences weigh more than families that nobody reaches", () => {
    expect(
      board.sites
        .flatMap(({ rows }) => rows)
        .sort((a, b) => trouble(b) - trouble(a))
        .map(({ name }) => name),
    ).toEqual(["Acro Pairs", "Wire Walk", "Juggling One"]);
  });
});
