import type { Queries } from "../db/connect";
import { loadCurrentSeason } from "../db/houseQueries";
import type { season } from "../db/schema/house";
import { Refusal } from "../http/fault";
import { t } from "../texts/t";

/**
 * Returns the current season.
 *
 * @throws Refusal 503 where the house has none
 */
export async function needCurrentSeason(db: Queries): Promise<typeof season.$inferSelect> {
  const current = await loadCurrentSeason(db);
  if (current === undefined)
    // eslint-disable-next-line refusals/use -- without a season nothing can be done, whoever asks: no caller could go on.
    throw new Refusal(503, "not-set-up", t("shared.thisHouseHasNoCurrent"));
  return current;
}
