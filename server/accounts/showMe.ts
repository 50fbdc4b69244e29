import { eq } from "drizzle-orm";
import { type getMe } from "@amigo/contract/accounts";
import type { Context } from "../context";
import { house, season, site } from "../db/schema/house";
import { Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { t } from "../texts/t";

export async function showMe(
  { db, settings }: Context,
  { caller }: Request<typeof getMe>,
): Promise<Answer<typeof getMe>> {
  const [found] = await db.select().from(house);
  const [current] = await db.select().from(season).where(eq(season.current, true));
  const [at] =
    caller.siteId === null ? [] : await db.select().from(site).where(eq(site.id, caller.siteId));
  if (found === undefined || current === undefined)
    throw new Refusal(503, "not-set-up", t("shared.thisHouseIsNotSet"));
  return {
    id: caller.id,
    name: caller.name,
    email: caller.email,
    role: caller.role,
    site: at?.name ?? null,
    house: found.name,
    insideDomain: found.insideDomain,
    listDomain: found.listDomain,
    season: current.label,
    timeZone: found.timeZone,
    kind: found.kind,
    country: found.country,
    language: found.language,
    demo: found.demo,
    mustSetUpTwoStep: caller.mustSetUpTwoStep ?? false,
    mailtown: found.demo ? `http://localhost:${settings.mailtownPort}` : null,
  };
}
