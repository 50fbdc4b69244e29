import { addedNote } from "@amigo/core/intake/intakeNotes";
import type { Context } from "../context";
import { sendNote } from "../posting/sendNote";
import { loadHouse } from "../db/houseQueries";
import { listWatchersToTell, markTold, type WatcherRow } from "./queries";

/** Tells whoever watches a list or an intake that somebody was added since they were last told: one mail an hour at most for each, whatever they watch. */
export async function tellWatchers(
  { db, settings }: Pick<Context, "db" | "settings">,
  now: Date,
): Promise<number> {
  const house = await loadHouse(db);
  if (house === undefined) return 0;
  const at = now.toISOString();
  return db.transaction(async (tx) => {
    const { rows } = await listWatchersToTell(tx, at);
    const byAccount = new Map<string, WatcherRow[]>();
    for (const row of rows)
      if (row.added > 0 && row.title !== null)
        byAccount.set(row.account, [...(byAccount.get(row.account) ?? []), row]);
    for (const [id, watched] of byAccount) {
      const [first] = watched;
      if (first === undefined) continue;
      await sendNote(
        tx,
        { name: first.name, address: first.email },
        addedNote(
          house.name,
          watched.map(({ title, added, what, about }) => ({
            title,
            added,
            url: `${settings.url}/${what === "list" ? "lists" : "intakes"}/${about}`,
          })),
        ),
      );
      await markTold(tx, at, id, watched);
    }
    return byAccount.size;
  });
}
