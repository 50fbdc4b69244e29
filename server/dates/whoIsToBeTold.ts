import { makePlainToken } from "../callers/tokens";
import type { Queries } from "../db/connect";
import { listIdsOf, type DateRow } from "../calendar/dateQueries";
import { listInvitable } from "./dateQueries";
import { listAllGuests, type GuestRow } from "./guestQueries";
import { personalGuests } from "./personalGuests";
import type { MailedGuest, Why } from "./invitationMail";

/** Works out who has to hear what of a date: whom it is for now, beside what each was told last. */
export async function whoIsToBeTold(
  tx: Queries,
  date: Pick<DateRow, "id" | "sequence" | "cancelledAt" | "organiserAddress">,
  stopped: ReadonlySet<string>,
): Promise<MailedGuest[]> {
  const isOn = date.cancelledAt === null;
  const members = isOn ? await listInvitable(tx, await listIdsOf(tx, date.id)) : [];
  const personal = new Set(
    (isOn ? await personalGuests(tx, date.id) : []).map(({ address }) => address),
  );
  const wanted = new Set([...members, ...personal]);
  const guests = await listAllGuests(tx, date.id);
  const known = new Set(guests.map(({ address }) => address));
  const told = guests.flatMap((guest): MailedGuest[] => {
    const why = whyTold(guest, wanted.has(guest.address), date.sequence);
    const { address, token, answer, isWaiting } = guest;
    const isPersonal = personal.has(address);
    return why === undefined ? [] : [{ address, token, answer, isWaiting, isPersonal, why }];
  });
  const fresh = [...wanted]
    .filter((address) => !known.has(address))
    .map((address): MailedGuest => ({
      address,
      token: makePlainToken(),
      answer: null,
      isWaiting: false,
      isPersonal: personal.has(address),
      why: "invited",
    }));
  // Whoever invited by mail has it in their calendar already.
  return [...told, ...fresh].filter(
    ({ address }) => !stopped.has(address) && address !== date.organiserAddress,
  );
}

/** Why a guest hears of a date again; undefined where they know all of it. */
function whyTold(guest: GuestRow, isWanted: boolean, sequence: number): Why | undefined {
  if (guest.told === "withdrawn") return isWanted ? "invited" : undefined;
  if (!isWanted) return "withdrawn";
  if (guest.toldSequence < sequence) return "changed";
  if (guest.answer === "yes" && guest.isWaiting && guest.toldWaiting !== true) return "waiting";
  if (guest.answer === "yes" && !guest.isWaiting && guest.toldWaiting === true) return "moved up";
  return guest.answer === null && guest.chaseWanted !== null ? "asked again" : undefined;
}
