import type { Said } from "@amigo/language/say";
import type { StandingGuard } from "@amigo/core/step/guards/guard";
import { refused, type Refused } from "../refused";
import { t } from "../texts/t";

/** Refuses with 422 when a guard stands whose count was not typed. */
export function refuseGuards(
  guards: readonly Said<StandingGuard>[],
  passed: Record<string, number>,
): Refused | undefined {
  const standing = guards.find((guard) => passed[guard.id] !== guard.count);
  if (standing !== undefined)
    return refused(
      422,
      "round/guard",
      t("rounds.aSafetyCheckStopsThis", {
        about: standing.about,
        sentence: standing.sentence,
        count: standing.count,
      }),
      standing.id,
    );
}
