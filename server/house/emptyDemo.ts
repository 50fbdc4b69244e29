import { sql } from "drizzle-orm";
import type { Database } from "../db/connect";
import { notify } from "../events/events";
import { Refusal } from "../http/fault";
import { lockRounds } from "../rounds/openRound";
import { t } from "../texts/t";
import { house } from "../db/schema/house";

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
    const [found] = await tx.select({ demo: house.demo }).from(house).for("update");
    if (found?.demo !== true) throw new Refusal(403, "demo/only", t("house.onlyTheDemoHouseCan"));
    const { rows } = await tx.execute<{ name: string }>(
      sql`select format('%I', tablename) as name from pg_tables where schemaname = 'public'`,
    );
    await tx.execute(sql.raw(`truncate ${rows.map(({ name }) => name).join(", ")} cascade`));
  });
  await load(db);
  await notify(db, "house", "board", "rounds", "sources", "posts", "people", "intakes");
}
