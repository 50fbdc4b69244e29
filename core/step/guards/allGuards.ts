import { addressOfMany } from "./addressOfMany";
import { columnGone } from "./columnGone";
import type { Guard, RoundToGuard, StandingGuard } from "./guard";
import { listBecomesEmpty } from "./listBecomesEmpty";
import { listLosesMany } from "./listLosesMany";
import { olderFile } from "./olderFile";
import { otherSeason } from "./otherSeason";
import { outsideOnInside } from "./outsideOnInside";
import { sourceLostRows } from "./sourceLostRows";

export const ALL_GUARDS: readonly Guard[] = [
  otherSeason,
  olderFile,
  columnGone,
  sourceLostRows,
  outsideOnInside,
  addressOfMany,
  listBecomesEmpty,
  listLosesMany,
];

/** The guards that stand before a round. */
export function standingGuards(round: RoundToGuard): StandingGuard[] {
  return ALL_GUARDS.flatMap((guard) => guard.check(round));
}
