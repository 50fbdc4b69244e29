import type { Answer } from "@amigo/core/calendar/calendarDate";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { refused, type Refused } from "../refused";
import { t } from "../texts/t";
import {
  findInvited,
  listComers,
  lockAnswers,
  storeAnswer,
  storeToldWaiting,
  type Invited,
} from "./guestQueries";
import { tellOrganiser } from "./tellOrganiser";
import { shareSeats } from "./shareSeats";

/** The most people whom one answer can speak for. */
export const MOST_PEOPLE = 20;

/** What a guest says to an invitation. */
export interface Said {
  answer: Answer;
  people: number;
  word: string;
}

/** Why an invitation can't be answered any more; undefined while it can. */
export function whyOver({ guest, date }: Invited, now: Date): Refused | undefined {
  if (date.cancelledAt !== null)
    return refused(409, "date/cancelled", t("dates.wasCalledOff", { reason: date.reason }));
  if (guest.told === "withdrawn")
    return refused(409, "date/withdrawn", t("dates.youAreNoLongerInvited"));
  if (date.lastAt < now) return refused(409, "date/over", t("dates.isOver"));
  return undefined;
}

/**
 * Takes the answer of somebody who was invited, within a transaction. It can be changed until the date is over. Where there are
 * only so many places, whoever comes too late for one waits in line.
 *
 * @param isShown whether they see at once whether they have a place; else a mail tells them
 * @returns the guest as they stand now, or why they can't answer
 */
export async function answerInvitation(
  tx: Queries,
  token: string,
  said: Said,
  isShown: boolean,
  now = new Date(),
): Promise<Invited | Refused | undefined> {
  const known = await findInvited(tx, token);
  if (known === undefined) return undefined;
  await lockAnswers(tx, known.date.id);
  const invited = (await findInvited(tx, token)) ?? known;
  const over = whyOver(invited, now);
  if (over !== undefined) return over;
  const { guest, date } = invited;
  const people = Math.min(MOST_PEOPLE, Math.max(1, said.people));
  const comes = said.answer === "yes";
  const cameBefore = guest.answer === "yes" && guest.comingSince !== null;
  if (comes && cameBefore && !guest.isWaiting) {
    const full = await whyFull(tx, date, people - guest.people);
    if (full !== undefined) return full;
  }
  await storeAnswer(tx, guest.id, {
    answer: said.answer,
    people,
    word: said.word.slice(0, 500),
    comingSince: !comes ? null : cameBefore ? guest.comingSince : now,
    // Everybody new stands in line, from which those who fit are let in right after.
    isWaiting: comes && (cameBefore ? guest.isWaiting : date.places !== null),
    toldWaiting: comes && cameBefore ? guest.toldWaiting : null,
  });
  await shareSeats(tx, date);
  if (isShown && comes) await storeToldWaiting(tx, [guest.id]);
  await notify(tx, "dates");
  const answered = await findInvited(tx, token);
  if (answered !== undefined && date.organiserAddress !== "")
    await tellOrganiser(tx, answered, now);
  return answered;
}

/** Why somebody who has a place can't bring more people along; undefined where they can. */
async function whyFull(
  tx: Queries,
  { id, places }: Invited["date"],
  more: number,
): Promise<Refused | undefined> {
  if (places === null || more <= 0) return undefined;
  const taken = (await listComers(tx, id))
    .filter(({ isWaiting }) => !isWaiting)
    .reduce((sum, { people }) => sum + people, 0);
  const free = Math.max(0, places - taken);
  return more <= free ? undefined : refused(409, "date/full", t("dates.onlySoManyFree", { free }));
}
