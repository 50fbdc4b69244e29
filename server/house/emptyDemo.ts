import type { Database } from "../db/connect";
import { notify } from "../events/events";
import { Refusal } from "../http/fault";
import { t } from "../texts/t";
import { listTables, emptyTables } from "./queries";
import { lockRounds } from "../change/roundQueries";
import { lockHouse } from "../db/houseQueries";

/**
 * Empties the demo house down to its first day: its accounts, sites and recipes are there, and no roster. Only a demo house can
 * be emptied so.
 *
 * @param load loads the demo house into an empty database
 * @throws Refusal 403 in any other house
 */
export async function emptyDemo(
  db: Database,
  load: (db: Database) => Promise<boolean>,
): Promise<void> {
  await db.transaction(async (tx) => {
    await lockRounds(tx);
    const found = await lockHouse(tx);
    if (found?.demo !== true) throw new Refusal(403, "demo/only", t("house.onlyTheDemoHouseCan"));
    const { rows } = await listTables(tx);
    await emptyTables(tx, rows);
  });
  await load(db);
  await notify(db, "house", "board", "rounds", "sources", "posts", "people", "intakes");
}
