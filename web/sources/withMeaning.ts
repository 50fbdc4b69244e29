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
    columns: plan.columns.map((own, index) =>
      index === column
        ? { ...own, meaning, slot }
        : isUsed(meaning) && own.meaning === meaning && own.slot === slot
          ? { ...own, meaning: "unread", slot: 0 }
          : own,
    ),
  };
}
