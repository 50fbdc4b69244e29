import { inArray, sql, eq } from "drizzle-orm";
import { hashToken } from "../callers/tokens";
import type { Queries } from "../db/connect";
import { list, greeting } from "../db/schema/lists";
import { leadNote } from "../db/schema/notes";

export interface LeadRow extends Record<string, unknown> {
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

export interface WatcherRow extends Record<string, unknown> {
  account: string;
  name: string;
  email: string;
  what: "intake" | "list";
  about: string;
  title: string;
  added: number;
}

/** Lists the lists of some greetings. */
export function listGreeted(db: Queries, due: readonly { listId: string }[]) {
  return db
    .select()
    .from(list)
    .where(inArray(list.id, [...new Set(due.map(({ listId }) => listId))]));
}

/** Stores that a greeting, or its reminder, was sent. */
export async function markMailed(
  db: Queries,
  again: boolean,
  token: string,
  kind: "welcome" | "ask" | "agree",
  id: string,
): Promise<void> {
  await db
    .update(greeting)
    .set(
      again
        ? { remindedAt: sql`now()`, reminderHash: hashToken(token) }
        : { mailedAt: sql`now()`, ...(kind === "ask" ? { tokenHash: hashToken(token) } : {}) },
    )
    .where(eq(greeting.id, id));
}

/** Lists which leads are to be told what happened to their lists. */
export function listLeadsToTell(db: Queries, day: string) {
  return db.execute<LeadRow>(sql`
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
}

/** Stores that a lead was told of a day, and returns it; none where another process did. */
export function storeLeadNote(db: Queries, accountId: string, day: string, upTo: Date) {
  return db.insert(leadNote).values({ accountId, day, upTo }).onConflictDoNothing().returning();
}

/** Lists who is to be told what happened to lists and additions that they watch. */
export function listWatchersToTell(db: Queries, at: string) {
  return db.execute<WatcherRow>(sql`
      select account.id as account, account.name, account.email, watch.what, watch.about, coalesce(list.title, intake.name) as title,
        case watch.what when 'list' then (select count(*) from membership where membership.list_id = watch.about and membership.valid_from > watch.up_to and membership.valid_until is null)
          else (select count(*) from intake_row join membership on membership.list_id = intake_row.list_id and membership.address = intake_row.address and membership.valid_until is null where intake_row.intake_id = watch.about and intake_row.outcome in ('added', 'asked', 'waiting') and membership.valid_from > watch.up_to) end::int as added
      from watch join account on account.id = watch.account_id and (account.ended_at is null or account.ended_at > now())
        left join list on watch.what = 'list' and list.id = watch.about left join intake on watch.what = 'intake' and intake.id = watch.about
      where (account.role = 'coordinator' or case watch.what when 'list' then exists (select 1 from list_role where list_role.list_id = watch.about and list_role.account_id = account.id) or (account.role = 'site coordinator' and list.site_id = account.site_id)
          else intake.account_id = account.id or exists (select 1 from intake_person where intake_person.intake_id = watch.about and intake_person.account_id = account.id) end)
        and not exists (select 1 from watch as told where told.account_id = watch.account_id and told.told_at > ${at}::timestamptz - interval '1 hour')
      order by account.id, title for update of watch skip locked`);
}

/** Stores that somebody was told. */
export async function markTold(
  db: Queries,
  at: string,
  accountId: string,
  watched: readonly { about: string }[],
): Promise<void> {
  await db.execute(
    sql`update watch set up_to = now(), told_at = ${at}::timestamptz where account_id = ${accountId} and about in (select own::uuid from json_array_elements_text(${JSON.stringify(watched.map(({ about }) => about))}::json) as own)`,
  );
}
