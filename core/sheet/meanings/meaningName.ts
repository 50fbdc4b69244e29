import { meaningOf } from "./allMeanings";
import type { MeaningId } from "./meaning";

/** What people read for a meaning and its slot: `Guardian 2, address`. */
export function meaningName(
  { meaning, slot }: { meaning: MeaningId; slot: number },
  between = ", ",
): string {
  const { label, part } = meaningOf(meaning);
  return `${label}${slot > 0 ? ` ${slot}` : ""}${part === undefined ? "" : `${between}${part}`}`;
}
