import { inOrder } from "@amigo/language/inOrder";
import { orRefuse } from "../http/fault";
import type { getNextSeason, postSeasonPlan, postSeason } from "@amigo/contract/seasons";
import { proposeSeason } from "@amigo/core/lists/nextSeason";
import { said } from "@amigo/language/say";
import type { Context } from "../context";
import { standingIndex } from "../facts/standing";
import type { Answer, Request } from "../http/handler";
import { needCurrentSeason } from "../facts/needCurrentSeason";

/** Returns how the next season would begin, as Amigo proposes it. */
export async function showNextSeason({ db }: Context): Promise<Answer<typeof getNextSeason>> {
  const current = await needCurrentSeason(db);
  const index = await standingIndex(db, current.id);
  return {
    current: current.label,
    wanted: proposeSeason(index, current.label),
    cohorts: [...index.cohorts]
      .map(([key, { name, kind, site }]) => ({
        key,
        name,
        kind,
        site,
        students: index.enrolled.get(key)?.size ?? 0,
      }))
      .sort(
        (a, b) => inOrder(a.kind, b.kind) || inOrder(a.site, b.site) || inOrder(a.name, b.name),
      ),
  };
}

/** Returns what opening the next season would do. */
export async function previewSeason(
  { desk }: Context,
  { body }: Request<typeof postSeasonPlan>,
): Promise<Answer<typeof postSeasonPlan>> {
  return said(orRefuse(await desk.run("planSeason", body)));
}

/** Opens the next season and closes the lists of this one. */
export async function startSeason(
  { desk }: Context,
  { body, caller, long }: Request<typeof postSeason>,
): Promise<Answer<typeof postSeason>> {
  return orRefuse(
    await desk.run("openSeason", { actor: { id: caller.id, name: caller.name }, ...body }, long),
  );
}
