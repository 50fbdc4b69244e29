import type {
  deleteDateWatch,
  getDateWatches,
  postDateWatch,
  postDateWatchRead,
} from "@amigo/contract/dateWatches";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { record } from "../events/record";
import { notFound, orRefuse, Refusal } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { fetchDates, WELL, wishesOf } from "./lookAtWatches";
import { carryOutPlan, countDifferences, planImport } from "./planImport";
import { t } from "../texts/t";
import { findWatch, listWatches, removeWatch, storeLook, storeWatch } from "./watchQueries";

/** Returns the web addresses with dates that somebody watches. */
export async function showWatches(
  { db }: Context,
  { caller }: Request<typeof getDateWatches>,
): Promise<Answer<typeof getDateWatches>> {
  const rows = await listWatches(db, caller);
  return rows.map(({ id, name, location, waiting, lookedAt, fault, ...row }) => ({
    ...{ id, name, address: location, waiting, fault },
    list: row.listId ?? "",
    group: row.group,
    lookedAt: lookedAt?.toISOString() ?? null,
  }));
}

/** Watches a web address: it has to have dates that can be read. The first of them wait for a review like all later ones. */
export async function makeWatch(
  context: Context,
  { body, caller }: Request<typeof postDateWatch>,
): Promise<Answer<typeof postDateWatch>> {
  const { db } = context;
  const { address, name, list, group } = body;
  const bytes = orRefuse(await fetchDates(context, address));
  const plan = orRefuse(await planImport(db, caller, bytes, body));
  return db.transaction(async (tx) => {
    const id = await storeWatch(tx, {
      accountId: caller.id,
      ...{ name, group, location: address },
      listId: list === "" ? null : list,
      waiting: countDifferences(plan),
      lookedAt: new Date(),
      nextAt: new Date(),
    });
    if (id === undefined)
      throw new Refusal(409, "watch/exists", t("dates.youWatchOneOfThisName", { name }), "name");
    await noteWatch(tx, caller, () => t("dates.watchesAddress", { who: caller.name, name }));
    return { id };
  });
}

/** Reads a watched web address now and tells what would be done; with the plan that was shown, does it. */
export async function readWatch(
  context: Context,
  { params, body, caller }: Request<typeof postDateWatchRead>,
): Promise<Answer<typeof postDateWatchRead>> {
  const { db } = context;
  const watch = await findWatch(db, params.id, caller);
  if (watch === undefined) throw notFound("watchedAddress");
  const bytes = orRefuse(await fetchDates(context, watch.location));
  const plan = orRefuse(await planImport(db, caller, bytes, wishesOf(watch)));
  const read = orRefuse(await carryOutPlan(db, caller, plan, { name: watch.name, ...body }));
  await storeLook(db, watch.id, {
    ...WELL,
    lookedAt: new Date(),
    waiting: read.done ? 0 : countDifferences(plan),
  });
  await notify(db, "board");
  return read;
}

/** Stops watching a web address. */
export async function endWatch(
  { db }: Context,
  { params, caller }: Request<typeof deleteDateWatch>,
): Promise<Answer<typeof deleteDateWatch>> {
  const watch = await findWatch(db, params.id, caller);
  if (watch === undefined) throw notFound("watchedAddress");
  await db.transaction(async (tx) => {
    await removeWatch(tx, watch.id);
    await noteWatch(tx, caller, () =>
      t("dates.endedWatching", { who: caller.name, name: watch.name }),
    );
  });
  return { done: true as const };
}

async function noteWatch(tx: Queries, caller: Caller, sentence: () => string): Promise<void> {
  await record(tx, { actorId: caller.id, actor: caller.name, action: "watch dates", sentence });
  await notify(tx, "board");
}
