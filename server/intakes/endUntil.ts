import { and, eq, inArray, sql } from "drizzle-orm";
import { day } from "@amigo/language/message";
import { dayIn } from "@amigo/core/schedule/dayIn";
import type { Database } from "../db/connect";
import { notify } from "../events/events";
import { endKept } from "../change/endKept";
import { t } from "../texts/t";
import { season } from "../db/schema/house";
import { list } from "../db/schema/lists";
import { intake, intakeRow } from "../db/schema/intakes";
import { loadHouse } from "../db/houseQueries";
import { markEnded, keepHistory } from "./rowQueries";
import { lockRounds } from "../change/roundQueries";

/** Takes whoever came by an intake until a day that is over off their lists, by a round of its own. */
export async function endUntil(db: Database, { now }: { now: Date }): Promise<{ ended: number }> {
  return db.transaction(async (tx) => {
    const house = await loadHouse(tx);
    const today = dayIn(house?.timeZone ?? "UTC", now);
    const isOver = and(
      inArray(intakeRow.outcome, ["added", "asked", "waiting"]),
      sql`${intakeRow.until} < ${today}`,
      eq(season.current, true),
    );
    const over = await tx
      .select({ id: intakeRow.id })
      .from(intakeRow)
      .innerJoin(intake, eq(intake.id, intakeRow.intakeId))
      .innerJoin(season, eq(season.id, intake.seasonId))
      .where(isOver)
      .limit(1);
    if (over.length === 0) return { ended: 0 };
    await lockRounds(tx);
    const rows = await tx
      .select({
        id: intakeRow.id,
        address: intakeRow.address,
        until: intakeRow.until,
        key: list.key,
      })
      .from(intakeRow)
      .innerJoin(intake, eq(intake.id, intakeRow.intakeId))
      .innerJoin(season, eq(season.id, intake.seasonId))
      .innerJoin(list, eq(list.id, intakeRow.listId))
      .where(isOver);
    await endKept(
      tx,
      { id: null, name: "Amigo" },
      rows.map(({ key, address, until }) => ({ key, address, lastDay: until ?? "" })),
    );
    for (const [until, ended] of groupByDay(rows)) await markEnded(tx, now, until, ended);
    await keepHistory(
      tx,
      rows.map(({ id, until }) => ({
        rowId: id,
        by: "Amigo",
        what: "outcome",
        before: "",
        after: t("intakes.endedLastDay", { until: day(until) }),
      })),
    );
    await notify(tx, "intakes");
    return { ended: rows.length };
  });
}

/** The ids of some rows by their last day, of which a daily job sees few. */
function groupByDay(rows: readonly { id: string; until: string | null }[]): Map<string, string[]> {
  const days = new Map<string, string[]>();
  for (const { id, until } of rows) days.set(until ?? "", [...(days.get(until ?? "") ?? []), id]);
  return days;
}
