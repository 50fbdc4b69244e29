import type { ColumnEvidence } from "./columnEvidence";

const ENOUGH = 4;

/** A share of rows in which something holds, and in how many it would hold by chance. */
export interface Likeness {
  share: number;
  chance: number;
  rows: number;
}

/** Keeps what was computed for a pair of columns: a sheet is weighed thousands of times over. */
export function remembered<Value>(
  compute: (one: number, other: number) => Value,
): (one: number, other: number) => Value {
  const known = new Map<number, Value>();
  return (one, other) => {
    const key = one * 1000 + other;
    const before = known.get(key);
    if (before !== undefined) return before;
    const value = compute(one, other);
    known.set(key, value);
    return value;
  };
}

/** In how many rows something holds of two columns, and in how many it would hold of rows that don't belong together. */
export function likeness(
  one: ColumnEvidence | undefined,
  two: ColumnEvidence | undefined,
  holds: (
    one: ColumnEvidence,
    two: ColumnEvidence,
    row: number,
    otherRow: number,
  ) => boolean | undefined,
): Likeness {
  if (one === undefined || two === undefined) return { share: 0, chance: 0, rows: 0 };
  const length = Math.min(one.cells.length, two.cells.length);
  let rows = 0;
  let hits = 0;
  let tried = 0;
  let byChance = 0;
  // Far enough away that it isn't a brother or sister, who often stand one below the other.
  const away = Math.max(1, Math.floor(length / 3));
  for (let row = 0; row < length; row++) {
    const here = holds(one, two, row, row);
    if (here !== undefined) {
      rows++;
      if (here) hits++;
    }
    const there = holds(one, two, row, (row + away) % length);
    if (there !== undefined) {
      tried++;
      if (there) byChance++;
    }
  }
  const weight = Math.min(1, rows / ENOUGH);
  return {
    share: rows === 0 ? 0 : (hits / rows) * weight,
    chance: tried === 0 ? 0 : (byChance / tried) * weight,
    rows,
  };
}

/** Of the keys that stand in two to five rows, for how many the cells are the same in all of them. */
export function sameWithin(
  keys: readonly string[],
  cells: readonly string[],
): { share: number; groups: number } {
  const rowsOf = new Map<string, number[]>();
  keys.forEach((key, row) => {
    if (key !== "") rowsOf.set(key, [...(rowsOf.get(key) ?? []), row]);
  });
  let groups = 0;
  let same = 0;
  for (const rows of rowsOf.values()) {
    if (rows.length < 2 || rows.length > 5) continue;
    groups++;
    if (new Set(rows.map((row) => cells[row] ?? "")).size === 1) same++;
  }
  return { share: groups === 0 ? 0 : same / groups, groups };
}

/** In what share of rows one value has the value beside it that it mostly has; 0 where few values come again. */
export function decides(one: readonly string[], other: readonly string[]): number {
  const seen = new Map<string, Map<string, number>>();
  let rows = 0;
  one.forEach((key, row) => {
    const value = other[row] ?? "";
    if (key === "" || value === "") return;
    rows++;
    const counts = seen.get(key) ?? new Map<string, number>();
    counts.set(value, (counts.get(value) ?? 0) + 1);
    seen.set(key, counts);
  });
  if (rows === 0 || seen.size * 2 > rows) return 0;
  let kept = 0;
  for (const counts of seen.values()) kept += Math.max(...counts.values());
  return kept / rows;
}
