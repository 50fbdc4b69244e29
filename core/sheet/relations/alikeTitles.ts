import type { Relation } from "./relation";
import type { ColumnEvidence } from "../columns/columnEvidence";

const UNLIKE = -1.5;

/** Columns whose titles differ only in whose turn it is hold the same: "Child 1 room" and "Child 2 room". */
export const alikeTitles: Relation = {
  id: "alike titles",
  points: (labels, { columns }) => {
    const groups = new Map<string, Map<string, number>>();
    columns.forEach((column, index) => {
      const key = keyOf(column);
      if (key === "") return;
      const counts = groups.get(key) ?? new Map<string, number>();
      const label = labels[index] ?? "unread";
      counts.set(label, (counts.get(label) ?? 0) + 1);
      groups.set(key, counts);
    });
    let points = 0;
    for (const counts of groups.values()) {
      const all = [...counts.values()];
      points += UNLIKE * (all.reduce((sum, count) => sum + count, 0) - Math.max(...all));
    }
    return points;
  },
};

/** What a title says, but for the slot; empty where it says too little, or the column holds nothing. */
function keyOf(column: ColumnEvidence): string {
  const before = KEYS.get(column);
  if (before !== undefined) return before;
  const { title, profile } = column;
  const key =
    title.slot === "" || !title.known || profile.count === 0
      ? ""
      : `${[...title.whose.keys()].join()} ${[...title.what.keys()].join()}`.trim();
  KEYS.set(column, key);
  return key;
}

/** A sheet is weighed thousands of times over; its titles stay what they are. */
const KEYS = new WeakMap<ColumnEvidence, string>();
