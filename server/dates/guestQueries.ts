import { and, eq, gt, inArray, isNotNull, isNull, sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { account } from "../db/schema/accounts";
import { calendarDate, calendarGuest, calendarReminder } from "../db/schema/dates";
import { list } from "../db/schema/lists";

/** Lists the dates that aren't over and remind somebody: by their own reminders, or by a guest's choice. */
export async function listRemindingDates(db: Queries, now: Date): Promise<string[]> {
  const rows = await db
    .select({ id: calendarDate.id })
    .from(calendarDate)
    .where(
      and(
        gt(calendarDate.lastAt, now),
        isNull(calendarDate.cancelledAt),
        sql`(${calendarDate.reminders} <> '{}' or exists (select 1 from ${calendarGuest} where ${calendarGuest.dateId} = ${calendarDate.id} and ${calendarGuest.remind} <> '{}'))`,
      ),
    )
    .orderBy(calendarDate.firstAt);
  return rows.map(({ id }) => id);
}

/**
 * Returns a date with the list that invites; others who want it wait until the transaction ends.
 *
 * @param busy what happens where another worker is at it: it is passed over, or waited for
 */
export async function claimDate(tx: Queries, id: string, busy: "skip" | "wait" = "skip") {
  const [found] = await tx
    .select({
      date: calendarDate,
      list: { name: list.name, title: list.title },
      makerAddress: account.email,
    })
    .from(calendarDate)
    .leftJoin(list, eq(list.id, calendarDate.organiserId))
    .leftJoin(account, eq(account.id, calendarDate.accountId))
    .where(eq(calendarDate.id, id))
    .for("update", busy === "skip" ? { of: calendarDate, skipLocked: true } : { of: calendarDate });
  return found;
}

/** Forgets another time that a guest proposes, and returns the guest; undefined where they propose none. */
export async function takeProposal(
  tx: Queries,
  date: string,
  address: string,
): Promise<GuestRow | undefined> {
  const [found] = await tx
    .update(calendarGuest)
    .set({ proposes: null })
    .where(
      and(
        eq(calendarGuest.dateId, date),
        eq(calendarGuest.address, address),
        eq(calendarGuest.told, "invited"),
        sql`jsonb_typeof(${calendarGuest.proposes}) = 'object'`,
      ),
    )
    .returning();
  return found;
}

/** Lists everybody who was ever invited to a date. */
export function listAllGuests(tx: Queries, date: string) {
  return tx.select().from(calendarGuest).where(eq(calendarGuest.dateId, date));
}

export type GuestRow = typeof calendarGuest.$inferSelect;

/** Stores that guests are invited, with what has changed. Whoever is invited again keeps their links and what they said. */
export async function storeInvited(
  tx: Queries,
  { id, sequence, places }: { id: string; sequence: number; places: number | null },
  guests: readonly { address: string; token: string; isPersonal: boolean }[],
): Promise<void> {
  if (guests.length === 0) return;
  // Whoever comes back, having said that they come, stands at the end of the line.
  const isBack = sql`${calendarGuest.told} = 'withdrawn' and ${calendarGuest.answer} = 'yes'`;
  const column = <T>(of: (guest: (typeof guests)[number]) => T) => sql.param(guests.map(of));
  await tx.execute(sql`
    insert into ${calendarGuest} (date_id, told, told_sequence, address, token, is_personal)
    select ${id}, 'invited', ${sequence}::int, * from unnest(${column(({ address }) => address)}::text[], ${column(({ token }) => token)}::text[], ${column(({ isPersonal }) => isPersonal)}::boolean[])
    on conflict (date_id, address) do update set
      told = 'invited',
      told_sequence = excluded.told_sequence,
      told_at = now(),
      is_personal = excluded.is_personal,
      coming_since = case when ${isBack} then now() else ${calendarGuest.comingSince} end,
      is_waiting = case when ${isBack} then ${places !== null} else ${calendarGuest.isWaiting} end`);
}

/** Stores which guests of a date are of one family. */
export async function storeFamilies(
  tx: Queries,
  date: string,
  families: ReadonlyMap<string, string>,
): Promise<void> {
  if (families.size === 0) return;
  await tx.execute(sql`
    update ${calendarGuest} set family = known.family
    from (select * from unnest(${sql.param([...families.keys()])}::text[], ${sql.param([...families.values()])}::text[])) as known (address, family)
    where ${calendarGuest.dateId} = ${date} and ${calendarGuest.address} = known.address and ${calendarGuest.family} <> known.family`);
}

/** Stores that guests know that they aren't invited any more. Their places are free. */
export async function storeWithdrawn(
  tx: Queries,
  date: { id: string; sequence: number },
  addresses: readonly string[],
): Promise<void> {
  if (addresses.length > 0)
    await tx
      .update(calendarGuest)
      .set({
        told: "withdrawn",
        toldSequence: date.sequence,
        toldAt: sql`now()`,
        comingSince: null,
        isWaiting: false,
        toldWaiting: null,
        chaseWanted: null,
      })
      .where(
        and(eq(calendarGuest.dateId, date.id), inArray(calendarGuest.address, [...addresses])),
      );
}

/** Stores that guests were asked once more. */
export async function storeChased(
  tx: Queries,
  date: string,
  addresses: readonly string[],
): Promise<void> {
  if (addresses.length > 0)
    await tx
      .update(calendarGuest)
      .set({ chasedAt: sql`now()`, chaseWanted: null })
      .where(and(eq(calendarGuest.dateId, date), inArray(calendarGuest.address, [...addresses])));
}

/** Wants guests who haven't answered to be asked once more; returns how many of them are. */
export async function storeChaseWanted(
  tx: Queries,
  date: string,
  addresses: readonly string[],
): Promise<number> {
  if (addresses.length === 0) return 0;
  const rows = await tx
    .update(calendarGuest)
    .set({ chaseWanted: sql`now()` })
    .where(
      and(
        eq(calendarGuest.dateId, date),
        eq(calendarGuest.told, "invited"),
        isNull(calendarGuest.answer),
        inArray(calendarGuest.address, [...addresses]),
      ),
    )
    .returning({ id: calendarGuest.id });
  return rows.length;
}

/** Forgets the other times that guests proposed, once the date is at another. */
export async function forgetProposals(tx: Queries, date: string): Promise<void> {
  await tx
    .update(calendarGuest)
    .set({ proposes: null })
    .where(and(eq(calendarGuest.dateId, date), isNotNull(calendarGuest.proposes)));
}

/** Lists which reminders the guests of a date have had. */
export function listReminded(tx: Queries, date: string) {
  return tx
    .select({
      guest: calendarReminder.guestId,
      day: calendarReminder.day,
      since: calendarReminder.since,
    })
    .from(calendarReminder)
    .innerJoin(calendarGuest, eq(calendarGuest.id, calendarReminder.guestId))
    .where(eq(calendarGuest.dateId, date));
}

/** Stores reminders that guests got. */
export async function storeReminded(
  tx: Queries,
  reminders: readonly { guestId: number; day: string; since: Date }[],
): Promise<void> {
  if (reminders.length > 0) await tx.insert(calendarReminder).values([...reminders]);
}
