import type { ReadingPlan } from "@amigo/core/sheet/table";
import type { MeaningId } from "@amigo/core/sheet/meanings/meaning";
import { isUsed } from "@amigo/core/sheet/meanings/isUsed";

/** Gives a column another meaning; a column that had it before is no longer read. */
export function withMeaning(
  plan: ReadingPlan,
  column: number,
  meaning: MeaningId,
  slot: number,
): ReadingPlan {
  return {
    ...plan,
    columns: plan.columns.map((eachColumn, index) =>
      index === column
        ? { ...eachColumn, meaning, slot }
        : isUsed(meaning) && eachColumn.meaning === meaning && eachColumn.slot === slot
          ? { ...eachColumn, meaning: "unread", slot: 0 }
          : eachColumn,
    ),
  };
}
