import type { getTerms, putTerms } from "@amigo/contract/dates";
import type { Context } from "../context";
import { loadCurrentSeason } from "../db/houseQueries";
import { notify } from "../events/events";
import { record } from "../events/record";
import { notFound, Refusal } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { t } from "../texts/t";
import { listTerms, replaceTerms } from "./termQueries";

/** Returns the terms and holidays of the current season. */
export async function showTerms({ db }: Context): Promise<Answer<typeof getTerms>> {
  const season = await loadCurrentSeason(db);
  return season === undefined ? [] : listTerms(db, season.id);
}

/** Changes the terms and holidays of the current season. */
export async function changeTerms(
  { db }: Context,
  { body, caller }: Request<typeof putTerms>,
): Promise<Answer<typeof putTerms>> {
  const wrong = body.terms.find(({ firstDay, lastDay }) => lastDay < firstDay);
  if (wrong !== undefined)
    throw new Refusal(422, "term/days", t("dates.termEndsTooEarly", { name: wrong.name }), "terms");
  const season = await loadCurrentSeason(db);
  if (season === undefined) throw notFound("season");
  await db.transaction(async (tx) => {
    await replaceTerms(tx, season.id, body.terms);
    await record(tx, {
      actorId: caller.id,
      actor: caller.name,
      action: "change the house",
      sentence: () => t("dates.changedTerms", { name: caller.name, season: season.label }),
    });
    await notify(tx, "dates");
  });
  return listTerms(db, season.id);
}
