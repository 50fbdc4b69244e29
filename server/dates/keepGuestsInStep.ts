import { makePlainToken } from "../callers/tokens";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { loadHouse } from "../db/houseQueries";
import { notify } from "../events/events";
import { loadStopped } from "../membership/addressQueries";
import { listIdsOf, listInvitable } from "./dateQueries";
import { claimDate, listAllGuests, listOpenDates, storeTold } from "./guestQueries";
import { mailGuest, type MailedGuest } from "./invitationMail";

/** How many mails are queued in one transaction. */
const AT_ONCE = 200;

/**
 * Tells guests what they don't know yet, by comparing whom a date is for with what each was told: who has come onto one of its
 * lists is invited, who has left is told so, and a date that was changed or called off is told to those who were invited. So nothing
 * is lost where a process dies, and nothing is told twice, however many workers there are.
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
  for (const id of await listOpenDates(db, now))
    for (let more = true; more;) {
      const told = await db.transaction(async (tx) => {
        const found = await claimDate(tx, id);
        if (found === undefined) return 0;
        const { date, list } = found;
        const due = (await whoIsToBeTold(tx, date, stopped)).slice(0, AT_ONCE);
        if (due.length === 0) return 0;
        for (const guest of due)
          await mailGuest(tx, { date, list, house, url: settings.url, now }, guest);
        for (const told of ["invited", "withdrawn"] as const)
          await storeTold(
            tx,
            id,
            due.filter(({ why }) => (why === "withdrawn") === (told === "withdrawn")),
            told,
            date.sequence,
          );
        await notify(tx, "dates");
        return due.length;
      });
      sent += told;
      more = told === AT_ONCE;
    }
  return sent;
}

/** Works out who has to hear what of a date. */
async function whoIsToBeTold(
  tx: Queries,
  date: { id: string; sequence: number; cancelledAt: Date | null },
  stopped: ReadonlySet<string>,
): Promise<MailedGuest[]> {
  const wanted = new Set(
    date.cancelledAt === null ? await listInvitable(tx, await listIdsOf(tx, date.id)) : [],
  );
  const guests = await listAllGuests(tx, date.id);
  const known = new Map(guests.map((guest) => [guest.address, guest]));
  const told = guests.flatMap((guest): MailedGuest[] => {
    const { address, token, answer } = guest;
    const isWanted = wanted.has(address);
    if (guest.told === "invited" && !isWanted)
      return [{ address, token, answer, why: "withdrawn" }];
    if (guest.told === "withdrawn" && isWanted) return [{ address, token, answer, why: "invited" }];
    return isWanted && guest.toldSequence < date.sequence
      ? [{ address, token, answer, why: "changed" }]
      : [];
  });
  const fresh = [...wanted]
    .filter((address) => !known.has(address))
    .map((address): MailedGuest => ({
      address,
      token: makePlainToken(),
      answer: null,
      why: "invited",
    }));
  return [...told, ...fresh].filter(({ address }) => !stopped.has(address));
}
