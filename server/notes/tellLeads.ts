import { sql } from "drizzle-orm";
import { listsChangedNote, type ListChange } from "@amigo/core/mail/listsChangedNote";
import { dayIn } from "@amigo/core/schedule/dayIn";
import type { Context } from "../context";
import { sendNote } from "../posting/sendNote";
import { house } from "../db/schema/house";
import { leadNote } from "../db/schema/notes";

interface Row extends Record<string, unknown> {
  account: string;
  name: string;
  email: string;
  list: string;
  title: string;
  list_name: string;
  joined: string;
  left: string;
  members: string;
}

/**
 * Tells leads by a short mail that their lists have changed since they were last told: at most one mail a day
 * for each, whatever happens and however many workers there are.
 */
export async function tellLeads(
  { db, settings }: Pick<Context, "db" | "settings">,
  now: Date,
): Promise<number> {
  const [own] = await db.select().from(house);
  if (own === undefined) return 0;
  const day = dayIn(own.timeZone, now);
  return db.transaction(async (tx) => {
    const { rows } = await tx.execute<Row>(sql`
      select account.id as account, account.name, account.email, list.id as list, list.title, list.name as list_name,
        count(*) filter (where membership.valid_from > told.up_to and membership.valid_until is null) as joined,
        count(*) filter (where membership.valid_until > told.up_to and membership.valid_from <= told.up_to) as left,
        count(*) filter (where membership.valid_until is null) as members
      from account
      join list_role on list_role.account_id = account.id and list_role.role = 'lead'
      join list on list.id = list_role.list_id and list.closed_at is null
      join membership on membership.list_id = list.id
      cross join lateral (select coalesce(max(lead_note.up_to), account.created_at) as up_to from lead_note where lead_note.account_id = account.id) told
      where account.ended_at is null and not exists (select 1 from lead_note where lead_note.account_id = account.id and lead_note.day = ${day})
      group by account.id, list.id
      having count(*) filter (where membership.valid_from > told.up_to and membership.valid_until is null) + count(*) filter (where membership.valid_until > told.up_to and membership.valid_from <= told.up_to) > 0
      order by account.id, list.title`);
    const byLead = new Map<string, Row[]>();
    for (const row of rows) byLead.set(row.account, [...(byLead.get(row.account) ?? []), row]);
    let told = 0;
    for (const [account, lists] of byLead) {
      const [lead] = lists;
      const noted = await tx
        .insert(leadNote)
        .values({ accountId: account, day, upTo: now })
        .onConflictDoNothing()
        .returning();
      if (lead === undefined || noted.length === 0) continue;
      const changes = lists.map((row): ListChange => ({
        title: row.title,
        address: `${row.list_name}@${own.listDomain}`,
        url: `${settings.url}/lists/${row.list}`,
        joined: Number(row.joined),
        left: Number(row.left),
        members: Number(row.members),
      }));
      await sendNote(
        tx,
        { name: lead.name, address: lead.email },
        listsChangedNote(own.name, changes),
      );
      told++;
    }
    return told;
  });
}
