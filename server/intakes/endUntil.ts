import { and, eq, inArray, isNull, sql } from "drizzle-orm";
import { day } from "@amigo/language/message";
import { endsSoonNote } from "@amigo/core/intake/intakeNotes";
import { dayIn } from "@amigo/core/schedule/dayIn";
import type { Context } from "../context";
import type { Database } from "../db/connect";
import { account, house, intake, intakeRow, list, listRole, season } from "../db/schema";
import { accountInForce } from "../callers/caller";
import { notify } from "../events/events";
import { sendNote } from "../posting/sendNote";
import { endKept } from "../rounds/endKept";
import { lockRounds } from "../rounds/openRound";
import { keepHistory } from "./writeCells";
import { t } from "../texts/t";

/** How long before somebody's last day the leads are told, in days. */
const WARN_DAYS = 7;

/** Takes whoever came by an intake until a day that is over off their lists, by a round of its own. */
export async function endUntil(db: Database, { now }: { now: Date }): Promise<{ ended: number }> {
  return db.transaction(async (tx) => {
    const [own] = await tx.select({ timeZone: house.timeZone }).from(house);
    const today = dayIn(own?.timeZone ?? "UTC", now);
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
    for (const [until, ended] of groupByDay(rows))
      await tx
        .update(intakeRow)
        .set({
          outcome: "ended",
          outcomeAt: now,
          sentence: t("intakes.leftTheListAfter", { until: day(until) }),
        })
        .where(inArray(intakeRow.id, ended));
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

/** Tells leads once, a week before, who leaves their lists by their last day; the coordinators where no lead can sign in. */
export async function warnOfEnds(
  { db, settings }: Pick<Context, "db" | "settings">,
  now: Date,
): Promise<number> {
  const [own] = await db.select().from(house);
  if (own === undefined) return 0;
  const today = dayIn(own.timeZone, now);
  const soon = dayIn(own.timeZone, new Date(now.getTime() + WARN_DAYS * 86_400_000));
  return db.transaction(async (tx) => {
    const rows = await tx
      .update(intakeRow)
      .set({ warnedAt: now })
      .where(
        and(
          inArray(intakeRow.outcome, ["added", "asked", "waiting"]),
          isNull(intakeRow.warnedAt),
          sql`${intakeRow.until} between ${today} and ${soon}`,
          sql`exists (select 1 from membership where membership.list_id = ${intakeRow.listId} and membership.address = ${intakeRow.address} and membership.valid_until is null)`,
        ),
      )
      .returning();
    let told = 0;
    for (const listId of new Set(rows.flatMap(({ listId: id }) => id ?? []))) {
      const [of] = await tx.select({ title: list.title }).from(list).where(eq(list.id, listId));
      const leads = await tx
        .select({ name: account.name, email: account.email })
        .from(listRole)
        .innerJoin(account, eq(account.id, listRole.accountId))
        .where(and(eq(listRole.listId, listId), eq(listRole.role, "lead"), accountInForce));
      const to =
        leads.length > 0
          ? leads
          : await tx
              .select({ name: account.name, email: account.email })
              .from(account)
              .where(and(eq(account.role, "coordinator"), accountInForce));
      const leaving = rows.filter((row) => row.listId === listId);
      const names = new Map(
        (
          await tx
            .select({ id: intake.id, name: intake.name })
            .from(intake)
            .where(
              inArray(
                intake.id,
                leaving.map(({ intakeId }) => intakeId),
              ),
            )
        ).map(({ id, name }) => [id, name]),
      );
      for (const { name, email } of to) {
        await sendNote(
          tx,
          { name, address: email },
          endsSoonNote(
            own.name,
            { title: of?.title ?? "", url: `${settings.url}/lists/${listId}` },
            leaving.map(({ cells, address, until, intakeId }) => ({
              person: cells.person,
              address,
              until: until ?? "",
              intake: names.get(intakeId) ?? "",
            })),
          ),
        );
        told++;
      }
    }
    return told;
  });
}
