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
  const failures: unknown[] = [];
  let carried = 0;
  const carryOut = async (intakeId: string): Promise<void> => {
    carried += orRefuse(await desk.run("carryOutRows", { intakeId, now })).carried;
  };
  for (const { id, content, nextAt } of await listDueIntakes(db, now))
    try {
      // First the work, then its next time: where the process ends between, the work is looked for again and finds nothing left.
      await carryOut(id);
      const next =
        content.times === null
          ? null
          : (nextReading({ when: "times", ...content.times }, "watched", now, zone) ?? null);
      await moveNextTime(db, next, id, nextAt, now);
    } catch (failure) {
      failures.push(failure);
    }
  const { rows } = await listIntakesWithWork(db, firstDays);
  for (const { id } of rows)
    try {
      await carryOut(id);
    } catch (failure) {
      failures.push(failure);
    }
  // One that fails keeps no other waiting, and stays due.
  if (failures.length > 0) throw failures[0];
  return carried;
}
