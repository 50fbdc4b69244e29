import { staffLanguage } from "@amigo/language/staff";
import { type getMe } from "@amigo/contract/accounts";
import type { Context } from "../context";
import { Refusal } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { t } from "../texts/t";
import { loadHouse, loadCurrentSeason } from "../db/houseQueries";
import { findSite } from "./queries";

/** Returns who is signed in. */
export async function showMe(
  { db, settings }: Context,
  { caller }: Request<typeof getMe>,
): Promise<Answer<typeof getMe>> {
  const found = await loadHouse(db);
  const current = await loadCurrentSeason(db);
  const [at] = caller.siteId === null ? [] : await findSite(db, caller.siteId);
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
    speaks: staffLanguage((caller.language ?? "") || found.language) ?? "en",
    demo: found.demo,
    mustSetUpTwoStep: caller.mustSetUpTwoStep ?? false,
    mailtown: found.demo ? `http://localhost:${settings.mailtownPort}` : null,
  };
}
