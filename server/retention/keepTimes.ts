import {
  type getRetention,
  type postRetentionPreview,
  type putRetention,
  type Retention,
} from "@amigo/contract/retention";
import { keepTimes, KEPT_KINDS, KEPT } from "@amigo/core/retention/kept";
import type { Context } from "../context";
import { Refusal } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { refuseStale, versionOf } from "../http/version";
import { record } from "../events/record";
import { t } from "../texts/t";
import { countOverTime } from "./removeOverTime";
import { loadHouse, lockHouse } from "../db/houseQueries";
import { storeKeepTimes } from "./queries";

/** Returns how long everything is kept. */
export async function showKeepTimes({ db }: Context): Promise<Answer<typeof getRetention>> {
  const house = await loadHouse(db);
  if (house === undefined) throw new Refusal(503, "not-set-up", t("shared.thisHouseIsNotSet"));
  return pageOf(keepTimes(house.keep));
}

/** Returns how much the next night would remove with other times. */
export async function previewKeepTimes(
  { db }: Context,
  { body }: Request<typeof postRetentionPreview>,
): Promise<Answer<typeof postRetentionPreview>> {
  return countOverTime(db, body.times);
}

/** Changes how long everything is kept. */
export async function changeKeepTimes(
  { db }: Context,
  { body, caller }: Request<typeof putRetention>,
): Promise<Answer<typeof putRetention>> {
  return db.transaction(async (tx) => {
    const settings = await lockHouse(tx);
    const before = keepTimes(settings?.keep ?? {});
    refuseStale(before, body.version);
    await storeKeepTimes(tx, body.times);
    const changed = KEPT_KINDS.filter((kind) => before[kind] !== body.times[kind]);
    if (changed.length > 0)
      await record(tx, {
        actorId: caller.id,
        actor: caller.name,
        action: "change retention",
        sentence: () =>
          t("retention.changedHowLongThingsAre", {
            name: caller.name,
            changes: changed
              .map((kind) => {
                const days = body.times[kind];
                return t("retention.nameIsdaysForGoodDays", {
                  kind: KEPT[kind].name,
                  forGood: days === null,
                  days,
                });
              })
              .join("; "),
          }),
        before,
        after: body.times,
      });
    return pageOf(body.times);
  });
}

function pageOf(times: Retention["times"]): Retention {
  return { times, version: versionOf(times) };
}
