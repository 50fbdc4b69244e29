import { sql } from "drizzle-orm";
import { addedNote } from "@amigo/core/intake/intakeNotes";
import type { Context } from "../context";
import { sendNote } from "../posting/sendNote";
import { house } from "../db/schema/house";

interface Row extends Record<string, unknown> {
  account: string;
  name: string;
  email: string;
  what: "intake" | "list";
  about: string;
  title: string;
  added: number;
}

/** Tells whoever watches a list or an intake that somebody was added since they were last told: one mail an hour at most for each, whatever they watch. */
export async function tellWatchers(
  { db, settings }: Pick<Context, "db" | "settings">,
  now: Date,
): Promise<number> {
  const [own] = await db.select({ name: house.name }).from(house);
  if (own === undefined) return 0;
  const at = now.toISOString();
  return db.transaction(async (tx) => {
    const { rows } = await tx.execute<Row>(sql`
      select account.id as account, account.name, account.email, watch.what, watch.about, coalesce(list.title, intake.name) as title,
        case watch.what when 'list' then (select count(*) from membership where membership.list_id = watch.about and membership.valid_from > watch.up_to and membership.valid_until is null)
          else (select count(*) from intake_row join membership on membership.list_id = intake_row.list_id and membership.address = intake_row.address and membership.valid_until is null where intake_row.intake_id = watch.about and intake_row.outcome in ('added', 'asked', 'waiting') and membership.valid_from > watch.up_to) end::int as added
      from watch join account on account.id = watch.account_id and (account.ended_at is null or account.ended_at > now())
        left join list on watch.what = 'list' and list.id = watch.about left join intake on watch.what = 'intake' and intake.id = watch.about
      where (account.role = 'coordinator' or case watch.what when 'list' then exists (select 1 from list_role where list_role.list_id = watch.about and list_role.account_id = account.id) or (account.role = 'site coordinator' and list.site_id = account.site_id)
          else intake.account_id = account.id or exists (select 1 from intake_person where intake_person.intake_id = watch.about and intake_person.account_id = account.id) end)
        and not exists (select 1 from watch as told where told.account_id = watch.account_id and told.told_at > ${at}::timestamptz - interval '1 hour')
      order by account.id, title for update of watch skip locked`);
    const byAccount = new Map<string, Row[]>();
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
          own.name,
          watched.map(({ title, added, what, about }) => ({
            title,
            added,
            url: `${settings.url}/${what === "list" ? "lists" : "intakes"}/${about}`,
          })),
        ),
      );
      await tx.execute(
        sql`update watch set up_to = now(), told_at = ${at}::timestamptz where account_id = ${id} and about in (select own::uuid from json_array_elements_text(${JSON.stringify(watched.map(({ about }) => about))}::json) as own)`,
      );
    }
    return byAccount.size;
  });
}
