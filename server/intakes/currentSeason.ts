import { eq } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { season } from "../db/schema/house";
import { Refusal } from "../http/fault";
import { t } from "../texts/t";

export async function currentSeason(db: Queries): Promise<number> {
  const [current] = await db.select({ id: season.id }).from(season).where(eq(season.current, true));
  if (current === undefined)
    throw new Refusal(503, "not-set-up", t("shared.thisHouseHasNoCurrent"));
  return current.id;
}
