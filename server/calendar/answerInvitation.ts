import type { Answer } from "@amigo/core/calendar/calendarDate";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { refused, type Refused } from "../refused";
import { t } from "../texts/t";
import { storeAnswer, type Invited } from "./guestQueries";

/** The most people whom one answer can speak for. */
export const MOST_PEOPLE = 20;

/** Why an invitation can't be answered any more; undefined while it can. */
export function whyOver({ guest, date }: Invited, now: Date): Refused | undefined {
  if (date.cancelledAt !== null)
    return refused(409, "date/cancelled", t("dates.wasCalledOff", { reason: date.reason }));
  if (guest.told === "withdrawn")
    return refused(409, "date/withdrawn", t("dates.youAreNoLongerInvited"));
  if (date.lastAt < now) return refused(409, "date/over", t("dates.isOver"));
  return undefined;
}

/** Takes the answer of somebody who was invited. It can be changed until the date is over. */
export async function answerInvitation(
  tx: Queries,
  invited: Invited,
  said: { answer: Answer; people: number; word: string },
  now = new Date(),
): Promise<Refused | undefined> {
  const over = whyOver(invited, now);
  if (over !== undefined) return over;
  await storeAnswer(tx, invited.guest.id, {
    answer: said.answer,
    people: Math.min(MOST_PEOPLE, Math.max(1, said.people)),
    word: said.word.slice(0, 500),
  });
  await notify(tx, "dates");
  return undefined;
}
