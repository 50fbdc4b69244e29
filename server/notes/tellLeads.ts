import { listsChangedNote, type ListChange } from "@amigo/core/mail/listsChangedNote";
import { dayIn } from "@amigo/core/schedule/dayIn";
import type { Context } from "../context";
import { sendNote } from "../posting/sendNote";
import { loadHouse } from "../db/houseQueries";
import { listLeadsToTell, storeLeadNote, type LeadRow } from "./queries";

/**
 * Tells leads by a short mail that their lists have changed since they were last told: at most one mail a day
 * for each, whatever happens and however many workers there are.
 */
export async function tellLeads(
  { db, settings }: Pick<Context, "db" | "settings">,
  now: Date,
): Promise<number> {
  const house = await loadHouse(db);
  if (house === undefined) return 0;
  const day = dayIn(house.timeZone, now);
  return db.transaction(async (tx) => {
    const { rows } = await listLeadsToTell(tx, day);
    const byLead = new Map<string, LeadRow[]>();
    for (const row of rows) byLead.set(row.account, [...(byLead.get(row.account) ?? []), row]);
    let told = 0;
    for (const [account, lists] of byLead) {
      const [lead] = lists;
      const noted = await storeLeadNote(tx, account, day, now);
      if (lead === undefined || noted.length === 0) continue;
      const changes = lists.map((row): ListChange => ({
        title: row.title,
        address: `${row.list_name}@${house.listDomain}`,
        url: `${settings.url}/lists/${row.list}`,
        joined: Number(row.joined),
        left: Number(row.left),
        members: Number(row.members),
      }));
      await sendNote(
        tx,
        { name: lead.name, address: lead.email },
        listsChangedNote(house.name, changes),
      );
      told++;
    }
    return told;
  });
}
