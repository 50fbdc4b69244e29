import type { Hono } from "hono";
import {
  getRetention,
  postRetentionPreview,
  putRetention,
  type Retention,
} from "@amigo/contract/retention";
import { KEPT, KEPT_KINDS, keepTimes } from "@amigo/core/retention/kept";
import type { Context } from "../context";
import { Refusal } from "../http/fault";
import { route } from "../http/route";
import { refuseStale, versionOf } from "../http/version";
import { record } from "../journal/record";
import { countOverTime } from "./removeOverTime";
import { t } from "../texts/t";
import { house } from "../db/schema/house";

/** How long everything is kept. */
export function retentionRoutes(app: Hono, context: Context): void {
  const { db } = context;

  route(app, context, getRetention, async () => {
    const [own] = await db.select({ keep: house.keep }).from(house);
    if (own === undefined) throw new Refusal(503, "not-set-up", t("shared.thisHouseIsNotSet"));
    return pageOf(keepTimes(own.keep));
  });

  route(app, context, postRetentionPreview, async ({ body }) => countOverTime(db, body.times));

  route(app, context, putRetention, async ({ body, caller }) =>
    db.transaction(async (tx) => {
      const [own] = await tx.select({ keep: house.keep }).from(house).for("update");
      const before = keepTimes(own?.keep ?? {});
      refuseStale(before, body.version);
      await tx.update(house).set({ keep: body.times });
      const changed = KEPT_KINDS.filter((kind) => before[kind] !== body.times[kind]);
      if (changed.length > 0)
        await record(tx, {
          actorId: caller.id,
          actor: caller.name,
          action: "change retention",
          sentence: t("retention.changedHowLongThingsAre", {
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
    }),
  );
}

function pageOf(times: Retention["times"]): Retention {
  return { times, version: versionOf(times) };
}
