import { refused, Refused } from "../refused";
import { inTransaction } from "../db/inTransaction";
import type { Database } from "../db/connect";
import { notify } from "../events/events";
import { t } from "../texts/t";
import { listTables, emptyTables } from "./queries";
import { lockRounds } from "../change/roundQueries";
import { lockHouse } from "../db/houseQueries";

/**
 * Empties the demo house down to its first day: its accounts, sites and recipes are there, and no roster. Only a demo house can
 * be emptied so.
 *
 * @param load loads the demo house into an empty database
 * Refused with 403 in any other house.
 */
export async function emptyDemo(
  db: Database,
  load: (db: Database) => Promise<boolean>,
): Promise<Refused | undefined> {
  const wrong = await inTransaction(db, async (tx) => {
    await lockRounds(tx);
    const found = await lockHouse(tx);
    if (found?.demo !== true) return refused(403, "demo/only", t("house.onlyTheDemoHouseCan"));
    const { rows } = await listTables(tx);
    await emptyTables(tx, rows);
  });
  if (wrong instanceof Refused) return wrong;
  await load(db);
  await notify(db, "house", "board", "rounds", "sources", "posts", "people", "intakes");
}
