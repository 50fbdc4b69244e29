import ICAL from "ical.js";
import type { Answer } from "./calendarDate";
import { textOf, timeOf, whenOf } from "./eventTime";
import type { When } from "./when";

/** What a calendar program sends back for its owner (RFC 5546, sections 3.2.3 and 3.2.7). */
export interface Reply {
  uid: string;
  sequence: number;
  /** Who answers, in small letters. */
  guest: string;
  answer: Answer | undefined;
  word: string;
  /** The day of the one date that it is about, where it isn't about all of them. */
  day: string | undefined;
  /** Another time that they propose. */
  proposes: When | undefined;
}

export type ReplyRead =
  | { ok: true; reply: Reply }
  /** `none` is no answer but another object, `broken` can't be read. */
  | { ok: false; fault: "none" | "broken" };

/** The longest object that is looked at, in characters: an answer is short. */
const LONGEST = 200_000;
const SAYS: Readonly<Record<string, Answer>> = {
  ACCEPTED: "yes",
  DECLINED: "no",
  TENTATIVE: "maybe",
};

/**
 * Reads the answer of a calendar program: a REPLY, or a COUNTER with another time. Programs differ in how much they send along,
 * so that nothing but the uid and the one who answers is needed.
 *
 * @param zone the house's time zone, for times that name none
 */
export function readReply(text: string, zone: string): ReplyRead {
  if (text.length > LONGEST) return { ok: false, fault: "broken" };
  try {
    return replyIn(new ICAL.Component(ICAL.parse(text)), zone);
  } catch {
    return { ok: false, fault: "broken" };
  }
}

function replyIn(calendar: ICAL.Component, zone: string): ReplyRead {
  const method = textOf(calendar, "method").toUpperCase();
  const event = calendar.getFirstSubcomponent("vevent");
  if (event === null || (method !== "REPLY" && method !== "COUNTER"))
    return { ok: false, fault: "none" };
  // A reply names its one writer; a counter-proposal, whose other guests stay named, is its sender's.
  const attendee = event.getFirstProperty("attendee");
  const uid = textOf(event, "uid");
  const guest = String(attendee?.getFirstValue() ?? "")
    .replace(/^mailto:/i, "")
    .trim()
    .toLowerCase();
  if (uid === "" || guest === "") return { ok: false, fault: "broken" };
  const says = String(attendee?.getParameter("partstat") ?? "").toUpperCase();
  const about = timeOf(event, "recurrence-id", zone);
  return {
    ok: true,
    reply: {
      uid,
      sequence: Number(event.getFirstPropertyValue("sequence") ?? 0) || 0,
      guest,
      answer: SAYS[says],
      word: textOf(event, "comment"),
      day: about?.slice(0, 10),
      proposes: method === "COUNTER" ? whenOf(event, zone) : undefined,
    },
  };
}
