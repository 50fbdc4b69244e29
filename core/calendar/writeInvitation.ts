import ICAL from "ical.js";
import type { Answer, CalendarDate, Party } from "./calendarDate";
import { addEvents, addZone, newCalendar, plainEvent } from "./calendarParts";
import type { When } from "./when";

/** What an invitation says beside the date itself. */
export interface Invitation {
  /**
   * A request invites or changes; a cancel takes the date out of the calendar; a declined counter leaves it where it is, whatever the
   * guest proposed (RFC 5546, sections 3.2.2, 3.2.5 and 3.2.8).
   */
  method: "REQUEST" | "CANCEL" | "DECLINECOUNTER";
  date: CalendarDate;
  organiser: Party;
  /** Whom it is for: nobody else's name is in it. */
  guest: Party;
  /** What they have said so far. */
  answer?: Answer | undefined;
  /** Files that go with it, where the guest opens them. */
  files?: readonly { name: string; link: string }[];
  /** When it is written. */
  now: Date;
}

const SAYS: Readonly<Record<Answer, string>> = {
  yes: "ACCEPTED",
  no: "DECLINED",
  maybe: "TENTATIVE",
};

/**
 * Writes an invitation as an iCalendar object (RFC 5545) with a method of iTIP (RFC 5546), for one guest alone.
 *
 * @returns its text, with lines of at most 75 octets that end in CR and LF
 */
export function writeInvitation(invitation: Invitation): string {
  const { date, method } = invitation;
  const calendar = newCalendar();
  calendar.addPropertyWithValue("method", method);
  addZone(calendar, [date]);
  addEvents(calendar, date, (when) => eventOf(invitation, when));
  return `${calendar.toString()}\r\n`;
}

function eventOf({ method, date, organiser, guest, answer, files, now }: Invitation, when: When) {
  const event = plainEvent(date, when, now);
  event.addPropertyWithValue("status", method === "CANCEL" ? "CANCELLED" : "CONFIRMED");
  addParty(event, "organizer", organiser);
  const attendee = addParty(event, "attendee", guest);
  attendee.setParameter("role", "REQ-PARTICIPANT");
  attendee.setParameter("rsvp", "TRUE");
  attendee.setParameter("partstat", answer === undefined ? "NEEDS-ACTION" : SAYS[answer]);
  if (method === "REQUEST") addFiles(event, files ?? []);
  return event;
}

/** Adds files by their addresses (RFC 5545, section 3.8.1.1), with their names (RFC 8607, section 4.2). */
function addFiles(event: ICAL.Component, files: readonly { name: string; link: string }[]): void {
  for (const { name, link } of files) {
    const property = new ICAL.Property("attach");
    property.setValue(link);
    property.setParameter("filename", inParameter(name));
    event.addProperty(property);
  }
}

function addParty(event: ICAL.Component, name: string, { name: called, address }: Party) {
  const property = new ICAL.Property(name);
  property.setValue(`mailto:${address}`);
  const clean = inParameter(called);
  if (clean !== "") property.setParameter("cn", clean);
  event.addProperty(property);
  return property;
}

/** A text as a parameter's value, which can hold no quotation marks and no control characters (RFC 5545, section 3.2). */
function inParameter(text: string): string {
  return text.replace(/["\p{Cc}]/gu, " ").trim();
}
