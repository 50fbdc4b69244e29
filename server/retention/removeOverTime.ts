import { allowLong } from "../db/timeLimits";
import { sql } from "drizzle-orm";
import { dayIn } from "@amigo/core/schedule/dayIn";
import {
  KEPT,
  KEPT_KINDS,
  countKept,
  keepTimes,
  type KeepTimes,
  type KeptKind,
} from "@amigo/core/retention/kept";
import type { Context } from "../context";
import type { Database, Queries } from "../db/connect";
import { notify } from "../events/events";
import { record } from "../events/record";
import { OVER_TIME } from "./overTime";
import { t } from "../texts/t";
import { removeOldMailLog } from "../mail/mailLogQueries";
import { removeOldReports } from "../mail/reportQueries";
import { overArchiveTime } from "../mail/queries";
import { countFound, markCleaned } from "./queries";
import { loadHouse } from "../db/houseQueries";
import { lockRounds } from "../change/roundQueries";

/** Those that must not be removed while a round is worked out or carried out. */
const UNDER_ROUNDS: ReadonlySet<KeptKind> = new Set(["imports", "seasons"]);

/** How much of each kind would be removed if it were kept so long: counted by the very queries that remove it. */
export async function countOverTime(
  db: Queries,
  times: Record<KeptKind, number | null>,
): Promise<Record<KeptKind, number>> {
  const counts: Partial<Record<KeptKind, number>> = {};
  for (const kind of KEPT_KINDS) {
    const days = times[kind];
    if (days === null) counts[kind] = 0;
    else {
      const found = kind === "posts" ? overArchiveTime(days) : OVER_TIME[kind].find(days);
      const { rows } = await countFound(db, found);
      counts[kind] = rows[0]?.count ?? 0;
    }
  }
  return counts as Record<KeptKind, number>;
}

/**
 * Removes what is over the time for which the school keeps it, once on each of the school's days. Posts have a job of their own,
 * which runs more often, as those of lists without an archive go after a day.
 */
export async function removeOverTime({ db, log }: Context, now: Date): Promise<void> {
  const house = await loadHouse(db);
  if (house === undefined) return;
  const today = dayIn(house.timeZone, now);
  const begun = await markCleaned(db, today);
  if (begun.length === 0) return;
  const times = keepTimes(house.keep as KeepTimes);
  for (const kind of KEPT_KINDS) {
    const days = times[kind];
    if (kind === "posts" || days === null) continue;
    const count = await removeKind(db, kind, days);
    // The mail log says who got what, too.
    if (kind === "deliveries")
      await Promise.all([removeOldMailLog(db, days), removeOldReports(db, days)]);
    if (count > 0) log.info({ kind, count }, "removed what was over its time");
  }
}

async function removeKind(
  db: Database,
  kind: Exclude<KeptKind, "posts">,
  days: number,
): Promise<number> {
  return db.transaction(async (tx) => {
    await (UNDER_ROUNDS.has(kind) ? lockRounds(tx) : allowLong(tx));
    const { find, remove } = OVER_TIME[kind];
    const found = await tx.execute(
      sql`create temporary table over_time on commit drop as ${find(days)}`,
    );
    const count = found.rowCount ?? 0;
    if (count === 0) return 0;
    for (const statement of remove(days)) await tx.execute(statement);
    await record(tx, {
      actor: "Amigo",
      action: "retention",
      sentence: () =>
        t("retention.olderThanRemovedAsSettings", {
          name: KEPT[kind].name,
          kind: countKept(kind, count),
          days,
        }),
    });
    await notify(tx, "house", "people", "sources", "posts", "rounds");
    return count;
  });
}
