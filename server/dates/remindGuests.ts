import { GUEST_REMINDERS, remindersDue, type ReminderDue } from "@amigo/core/calendar/remindersDue";
import { occurrences } from "@amigo/core/calendar/repeat";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { loadHouse } from "../db/houseQueries";
import { queueAlike } from "../posting/acceptPost";
import { loadStopped } from "../membership/addressQueries";
import {
  claimDate,
  listAllGuests,
  listReminded,
  listRemindingDates,
  storeReminded,
  type GuestRow,
} from "./guestQueries";
import { listDateFiles } from "./fileQueries";
import { calendarDateOf, mailGuests } from "./invitationMail";

/**
 * Reminds guests of dates that are near: by the reminders that a date has, or by those that a guest has chosen instead. Who has
 * said that they can't come, or who waits for a place, isn't reminded. Each reminder comes once, and none comes to somebody
 * who was invited after its moment.
 *
 * @returns how many mails were queued
 */
export async function remindGuests(
  { db, settings }: Pick<Context, "db" | "settings">,
  now = new Date(),
): Promise<number> {
  const house = await loadHouse(db);
  if (house === undefined) return 0;
  const stopped = await loadStopped(db);
  let sent = 0;
  for (const id of await listRemindingDates(db, now))
    sent += await db.transaction(async (tx) => {
      const found = await claimDate(tx, id);
      if (found === undefined || found.date.cancelledAt !== null) return 0;
      const { date, list, makerAddress } = found;
      const times = occurrences(calendarDateOf(date));
      // Most dates are far away: then nobody of theirs is looked at.
      const any = [...date.reminders, ...GUEST_REMINDERS];
      if (remindersDue(times, any, house.timeZone, now).length === 0) return 0;
      const due = (
        await listDue(tx, id, (days) =>
          remindersDue(times, days ?? date.reminders, house.timeZone, now),
        )
      ).filter(({ guest }) => !stopped.has(guest.address));
      const files = await listDateFiles(tx, id);
      const about = { date, list, makerAddress, house, url: settings.url, now, files };
      const whenOf = new Map(times.map(({ day, when }) => [day, when]));
      const mails = await mailGuests(
        tx,
        about,
        due.map(({ guest, day }) => ({ ...guest, why: "reminded", time: whenOf.get(day) })),
      );
      await queueAlike(tx, mails, "post");
      await storeReminded(
        tx,
        due.map(({ guest, day, since }) => ({ guestId: guest.id, day, since })),
      );
      return due.length;
    });
  return sent;
}

/** Lists the reminders that guests of a date haven't had yet. */
async function listDue(
  tx: Queries,
  date: string,
  dueFor: (remind: number[] | null) => ReminderDue[],
): Promise<(ReminderDue & { guest: GuestRow })[]> {
  const guests = (await listAllGuests(tx, date)).filter(
    ({ told, answer, isWaiting }) => told === "invited" && answer !== "no" && !isWaiting,
  );
  const reminded = new Set(
    (await listReminded(tx, date)).map(({ guest, day, since }) => keyOf(guest, day, since)),
  );
  return guests.flatMap((guest) =>
    dueFor(guest.remind)
      .filter(({ since }) => guest.toldAt < since)
      .filter(({ day, since }) => !reminded.has(keyOf(guest.id, day, since)))
      .map((due) => ({ ...due, guest })),
  );
}

function keyOf(guest: number, day: string, since: Date): string {
  return `${guest} ${day} ${since.getTime()}`;
}
