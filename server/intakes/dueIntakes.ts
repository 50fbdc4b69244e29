import { and, eq, lte, sql } from "drizzle-orm";
import { nextReading } from "@amigo/core/schedule/nextReading";
import type { Context } from "../context";
import { house } from "../db/schema/house";
import { intake } from "../db/schema/intakes";

/**
 * Carries out what is due in intakes: at their set times, and of those without any the rows whose first day has come or that
 * were left when a process ended midway. Run by any number of workers; each row is carried out once.
 *
 * @param firstDays whether rows that wait for a day are looked at, too: once an hour is enough for those
 */
export async function carryOutDue(
  { db, desk }: Pick<Context, "db" | "desk">,
  now: Date,
  firstDays = false,
): Promise<number> {
  const [own] = await db.select({ timeZone: house.timeZone }).from(house);
  const zone = own?.timeZone ?? "UTC";
  const timed = await db
    .select({ id: intake.id, content: intake.content, nextAt: intake.nextAt })
    .from(intake)
    .where(
      and(
        lte(intake.nextAt, now),
        sql`${intake.seasonId} in (select id from season where current)`,
      ),
    );
  const due: string[] = [];
  for (const { id, content, nextAt } of timed) {
    const next =
      content.times === null
        ? null
        : (nextReading({ when: "times", ...content.times }, "watched", now, zone) ?? null);
    // Of two workers who see the same time, the one that moves it on does the work.
    const taken = await db
      .update(intake)
      .set({ nextAt: next })
      .where(and(eq(intake.id, id), eq(intake.nextAt, nextAt ?? now)))
      .returning({ id: intake.id });
    due.push(...taken.map((row) => row.id));
  }
  const { rows } = await db.execute<{
    id: string;
  }>(sql`select distinct intake.id from intake join intake_row on intake_row.intake_id = intake.id where intake.content->'times' = 'null'::jsonb and intake.season_id in (select id from season where current)
    and intake_row.approved_at is not null and intake_row.outcome = '' and intake_row.removed_at is null and (${firstDays} or intake_row.cells->>'from' = '')`);
  let carried = 0;
  for (const intakeId of new Set([...due, ...rows.map(({ id }) => id)]))
    carried += (await desk.run("carryOutRows", { intakeId, now })).carried;
  return carried;
}
