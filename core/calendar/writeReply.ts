import type { Answer, Party } from "./calendarDate";
import { newCalendar } from "./calendarParts";
import ICAL from "ical.js";

const SAYS: Readonly<Record<Answer, string>> = {
  yes: "ACCEPTED",
  no: "DECLINED",
  maybe: "TENTATIVE",
};

/** An answer to somebody else's date. */
export interface ReplyToWrite {
  uid: string;
  sequence: number;
  organiser: string;
  guest: Party;
  answer: Answer;
  word: string;
  now: Date;
}

/** Writes what a guest answers as a calendar program does (RFC 5546, section 3.2.3). */
export function writeReply(reply: ReplyToWrite): string {
  const calendar = newCalendar();
  calendar.addPropertyWithValue("method", "REPLY");
  const event = new ICAL.Component("vevent");
  event.addPropertyWithValue("uid", reply.uid);
  event.addPropertyWithValue("sequence", reply.sequence);
  event.addPropertyWithValue("dtstamp", ICAL.Time.fromJSDate(reply.now, true));
  event.addPropertyWithValue("organizer", `mailto:${reply.organiser}`);
  const attendee = event.addPropertyWithValue("attendee", `mailto:${reply.guest.address}`);
  attendee.setParameter("partstat", SAYS[reply.answer]);
  const name = reply.guest.name.replace(/["\p{Cc}]/gu, " ").trim();
  if (name !== "") attendee.setParameter("cn", name);
  if (reply.word !== "") event.addPropertyWithValue("comment", reply.word);
  calendar.addSubcomponent(event);
  return `${calendar.toString()}\r\n`;
}
