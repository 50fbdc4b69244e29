import { orRefuse } from "../http/fault";
import { nextReading } from "@amigo/core/schedule/nextReading";
import type { Context } from "../context";
import { loadHouse } from "../db/houseQueries";
import { listDueIntakes, moveNextTime, listIntakesWithWork } from "./intakeQueries";

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
  const house = await loadHouse(db);
  const zone = house?.timeZone ?? "UTC";
  const timed = await listDueIntakes(db, now);
  const due: string[] = [];
  for (const { id, content, nextAt } of timed) {
    const next =
      content.times === null
        ? null
        : (nextReading({ when: "times", ...content.times }, "watched", now, zone) ?? null);
    // Of two workers who see the same time, the one that moves it on does the work.
    const taken = await moveNextTime(db, next, id, nextAt, now);
    due.push(...taken.map((row) => row.id));
  }
  const { rows } = await listIntakesWithWork(db, firstDays);
  let carried = 0;
  for (const intakeId of new Set([...due, ...rows.map(({ id }) => id)]))
    carried += orRefuse(await desk.run("carryOutRows", { intakeId, now })).carried;
  return carried;
}
