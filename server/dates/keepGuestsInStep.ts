import { storeToldWaiting } from "../calendar/guestQueries";
import { shareSeats } from "../calendar/shareSeats";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { loadHouse } from "../db/houseQueries";
import { notify } from "../events/events";
import { queueAlike } from "../posting/acceptPost";
import { loadStopped } from "../membership/addressQueries";
import { whoBelongs } from "../membership/whoBelongs";
import type { DateRow } from "../calendar/dateQueries";
import { datesToLookAt } from "./datesToLookAt";
import { listListKeys } from "./dateQueries";
import {
  claimDate,
  listAllGuests,
  storeChased,
  storeFamilies,
  storeInvited,
  storeWithdrawn,
} from "./guestQueries";
import { listDateFiles } from "./fileQueries";
import { mailGuests, type MailedGuest, type Why } from "./invitationMail";
import { personalGuests } from "./personalGuests";
import { whoIsToBeTold } from "./whoIsToBeTold";

/** How many mails are queued in one transaction. */
const AT_ONCE = 5000;

/**
 * Tells guests what they don't know yet, by comparing whom a date is for with what each was told: who has come onto one of its
 * lists is invited, who has left is told so, a date that was changed or called off is told to those who were invited, who gets
 * a place hears of it, and who hasn't answered is asked again where somebody wants it. So nothing is lost where a process dies, and
 * nothing is told twice, however many workers there are.
 *
 * @returns how many mails were queued
 */
export async function keepGuestsInStep(
  { db, settings }: Pick<Context, "db" | "settings">,
  now = new Date(),
): Promise<number> {
  const house = await loadHouse(db);
  if (house === undefined) return 0;
  const stopped = await loadStopped(db);
  let sent = 0;
  for (const id of await datesToLookAt(db, now)) {
    let told = 0;
    do {
      const wasFull = told === AT_ONCE;
      told = await db.transaction(async (tx) => {
        const found = await claimDate(tx, id);
        if (found === undefined) return 0;
        const { date, list, makerAddress } = found;
        if (date.cancelledAt === null) await shareSeats(tx, date);
        const due = (await whoIsToBeTold(tx, date, stopped)).slice(0, AT_ONCE);
        // Once all of a date's guests are told, as it looks at everybody on the lists.
        const groupFamilies = async (): Promise<void> =>
          storeFamilies(tx, id, await familiesOf(tx, id));
        if (due.length === 0) {
          if (wasFull) await groupFamilies();
          return 0;
        }
        const files = await listDateFiles(tx, id);
        const about = { date, list, makerAddress, house, url: settings.url, now, files };
        await queueAlike(tx, await mailGuests(tx, about, due), "post");
        await storeTold(tx, date, due);
        if (due.length < AT_ONCE) await groupFamilies();
        await notify(tx, "dates");
        return due.length;
      });
      sent += told;
      // Whoever leaves may make room for another, who hears of it in the next turn.
    } while (told > 0);
  }
  return sent;
}

/** Stores what guests know now. */
async function storeTold(tx: Queries, date: DateRow, due: readonly MailedGuest[]): Promise<void> {
  const of = (...reasons: Why[]): MailedGuest[] => due.filter(({ why }) => reasons.includes(why));
  const addresses = (guests: MailedGuest[]): string[] => guests.map(({ address }) => address);
  await storeInvited(tx, date, of("invited", "changed"));
  await storeWithdrawn(tx, date, addresses(of("withdrawn")));
  await storeChased(tx, date.id, addresses(of("asked again")));
  const heard = new Set(addresses(of("waiting", "moved up")));
  const guests = heard.size === 0 ? [] : await listAllGuests(tx, date.id);
  await storeToldWaiting(
    tx,
    guests.filter(({ address }) => heard.has(address)).map(({ id }) => id),
  );
}

/** The family behind each address of a date's lists. */
async function familiesOf(tx: Queries, date: string): Promise<Map<string, string>> {
  const families = new Map<string, string>();
  for (const list of await listListKeys(tx, date))
    for (const { addresses, family } of await whoBelongs(tx, list))
      for (const address of addresses) families.set(address, family);
  for (const { address, family } of await personalGuests(tx, date)) families.set(address, family);
  return families;
}
