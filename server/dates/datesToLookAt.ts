import { sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { calendarDate } from "../db/schema/dates";

/**
 * Lists the dates whose guests may have to be told something, the next first. It leaves out those that aren't over and of which
 * everybody knows everything, so that a house with many dates looks at few of them whenever a list changes; `whoIsToBeTold`
 * decides who hears of the others.
 */
export async function datesToLookAt(db: Queries, now: Date): Promise<string[]> {
  const { rows } = await db.execute<{ id: string }>(sql`
    select date.id from ${calendarDate} as date
    where date.last_at > ${now.toISOString()}::timestamptz and case
      when date.cancelled_at is not null then
        exists (select 1 from calendar_guest as guest where guest.date_id = date.id and guest.told = 'invited')
      else
        -- Those who know less than there is to know, who wait for a place, or who are to be asked again.
        exists (select 1 from calendar_guest as guest where guest.date_id = date.id and guest.told = 'invited' and (
          guest.told_sequence < date.sequence
          or guest.answer = 'yes' and (guest.is_waiting or guest.told_waiting)
          or guest.answer is null and guest.chase_wanted is not null
          or guest.is_personal))
        -- People by themselves, who are found by who they are.
        or exists (select 1 from calendar_date_person as chosen where chosen.date_id = date.id)
        or exists (select 1 from calendar_date_private as chosen where chosen.date_id = date.id)
        -- Members who aren't invited yet.
        or exists (
          select 1 from calendar_date_list as invited
            join list on list.id = invited.list_id and list.closed_at is null
            join membership on membership.list_id = list.id and membership.valid_until is null
            left join calendar_guest as guest on guest.date_id = date.id and guest.address = membership.address and guest.told = 'invited'
          where invited.date_id = date.id and guest.id is null and membership.address <> date.organiser_address
            and not exists (select 1 from address_trouble as trouble where trouble.address = membership.address and trouble.state = 'stopped'))
        -- Guests who aren't members any more.
        or exists (
          select 1 from calendar_guest as guest
          where guest.date_id = date.id and guest.told = 'invited' and not exists (
            select 1 from calendar_date_list as invited
              join list on list.id = invited.list_id and list.closed_at is null
              join membership on membership.list_id = list.id and membership.valid_until is null
            where invited.date_id = date.id and membership.address = guest.address))
      end
    order by date.first_at`);
  return rows.map(({ id }) => id);
}
