import type { Guard, RoundToGuard, StandingGuard } from "./guard";
import { listBecomesEmpty } from "./listBecomesEmpty";
import { listLosesMany } from "./listLosesMany";
import { sourceLostRows } from "./sourceLostRows";

export const ALL_GUARDS: readonly Guard[] = [sourceLostRows, listBecomesEmpty, listLosesMany];

/** The guards that stand before a round. */
export function standingGuards(round: RoundToGuard): StandingGuard[] {
  return ALL_GUARDS.flatMap((guard) => guard.check(round));
}
