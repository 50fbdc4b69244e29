import { endsSoonNote } from "@amigo/core/intake/intakeNotes";
import { dayIn } from "@amigo/core/schedule/dayIn";
import type { Context } from "../context";
import { sendNote } from "../posting/sendNote";
import { loadHouse } from "../db/houseQueries";
import { markWarned } from "./rowQueries";
import { findList, listLeadsOf } from "../membership/queries";
import { listCoordinators } from "../accounts/queries";
import { listIntakeNames } from "./intakeQueries";

/** How long before somebody's last day the leads are told, in days. */
const WARN_DAYS = 7;

/** Tells leads once, a week before, who leaves their lists by their last day; the coordinators where no lead can sign in. */
export async function warnOfEnds(
  { db, settings }: Pick<Context, "db" | "settings">,
  now: Date,
): Promise<number> {
  const house = await loadHouse(db);
  if (house === undefined) return 0;
  const today = dayIn(house.timeZone, now);
  const soon = dayIn(house.timeZone, new Date(now.getTime() + WARN_DAYS * 86_400_000));
  return db.transaction(async (tx) => {
    const rows = await markWarned(tx, now, today, soon);
    let told = 0;
    for (const listId of new Set(rows.flatMap(({ listId: id }) => id ?? []))) {
      const of = await findList(tx, listId);
      const leads = await listLeadsOf(tx, listId);
      const to = leads.length > 0 ? leads : await listCoordinators(tx);
      const leaving = rows.filter((row) => row.listId === listId);
      const names = new Map((await listIntakeNames(tx, leaving)).map(({ id, name }) => [id, name]));
      for (const { name, email } of to) {
        await sendNote(
          tx,
          { name, address: email },
          endsSoonNote(
            house.name,
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
