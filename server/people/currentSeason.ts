import type { Queries } from "../db/connect";
import { Refusal } from "../http/fault";
import { t } from "../texts/t";
import { loadCurrentSeason } from "../db/houseQueries";

export async function currentSeason(db: Queries): Promise<number> {
  const current = await loadCurrentSeason(db);
  if (current === undefined)
    throw new Refusal(503, "not-set-up", t("shared.thisHouseHasNoCurrent"));
  return current.id;
}
