import ICAL from "ical.js";
import type { Answer, CalendarDate, Party } from "./calendarDate";
import { occurrences, weekdayOf, weekdaysOf, type Repeat } from "./repeat";
import { addDays, firstDay, instantOf, onDay, type When } from "./when";
import { clockChanges } from "./zoneRules";

/** What an invitation says beside the date itself. */
export interface Invitation {
  /** A request invites or changes; a cancel takes the date out of the calendar (RFC 5546, sections 3.2.2 and 3.2.5). */
  method: "REQUEST" | "CANCEL";
  date: CalendarDate;
  organiser: Party;
  /** Whom it is for: nobody else's name is in it. */
  guest: Party;
  /** What they have said so far. */
  answer?: Answer | undefined;
  /** When it is written. */
  now: Date;
}

const PRODUCT = "-//Amigo//Dates//EN";
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
  const calendar = new ICAL.Component("vcalendar");
  calendar.addPropertyWithValue("prodid", PRODUCT);
  calendar.addPropertyWithValue("version", "2.0");
  calendar.addPropertyWithValue("calscale", "GREGORIAN");
  calendar.addPropertyWithValue("method", method);
  if (!date.when.allDay) calendar.addSubcomponent(zoneOf(date, date.when.zone));
  const whole = eventOf(invitation, date.when);
  if (date.repeat !== null) addRule(whole, date, date.repeat);
  calendar.addSubcomponent(whole);
  for (const { day, when } of date.changes) {
    if (when === null) continue;
    const single = eventOf(invitation, when);
    addTime(single, "recurrence-id", onDay(date.when, day), "from");
    calendar.addSubcomponent(single);
  }
  return `${calendar.toString()}\r\n`;
}

function eventOf({ method, date, organiser, guest, answer, now }: Invitation, when: When) {
  const event = new ICAL.Component("vevent");
  event.addPropertyWithValue("uid", date.uid);
  event.addPropertyWithValue("dtstamp", utc(now));
  event.addPropertyWithValue("sequence", date.sequence);
  addTime(event, "dtstart", when, "from");
  addTime(event, "dtend", when, "until");
  event.addPropertyWithValue("summary", date.title);
  for (const [name, value] of [
    ["location", date.place],
    ["description", date.text],
    ["url", date.link],
  ] as const)
    if (value !== "") event.addPropertyWithValue(name, value);
  event.addPropertyWithValue("status", method === "CANCEL" ? "CANCELLED" : "CONFIRMED");
  addParty(event, "organizer", organiser);
  const attendee = addParty(event, "attendee", guest);
  attendee.setParameter("role", "REQ-PARTICIPANT");
  attendee.setParameter("rsvp", "TRUE");
  attendee.setParameter("partstat", answer === undefined ? "NEEDS-ACTION" : SAYS[answer]);
  return event;
}

function addParty(event: ICAL.Component, name: string, { name: called, address }: Party) {
  const property = new ICAL.Property(name);
  property.setValue(`mailto:${address}`);
  // A parameter's value can hold no quotation marks and no control characters (RFC 5545, section 3.2).
  const clean = called.replace(/["\p{Cc}]/gu, " ").trim();
  if (clean !== "") property.setParameter("cn", clean);
  event.addProperty(property);
  return property;
}

/** Adds a begin or an end: the end of whole days is the day after the last (RFC 5545, section 3.6.1). */
function addTime(event: ICAL.Component, name: string, when: When, end: "from" | "until"): void {
  const property = new ICAL.Property(name);
  if (when.allDay) {
    const day = end === "from" ? when.from : addDays(when.until, 1);
    property.setValue(ICAL.Time.fromDateString(day));
  } else {
    property.setValue(ICAL.Time.fromDateTimeString(`${when[end]}:00`));
    property.setParameter("tzid", when.zone);
  }
  event.addProperty(property);
}

function addRule(event: ICAL.Component, date: CalendarDate, repeat: Repeat): void {
  const first = firstDay(date.when);
  const until = lastMoment(date.when, repeat.until);
  event.addPropertyWithValue(
    "rrule",
    ICAL.Recur.fromData({
      freq: repeat.every === "week" ? "WEEKLY" : "MONTHLY",
      interval: repeat.step,
      until,
      ...(repeat.every === "week"
        ? { wkst: ICAL.Time.MONDAY, byday: weekdaysOf(first, repeat.days) }
        : {}),
      ...(repeat.every === "month" ? { bymonthday: [Number(first.slice(8, 10))] } : {}),
      ...(repeat.every === "month by weekday"
        ? { byday: [`${Math.ceil(Number(first.slice(8, 10)) / 7)}${weekdayOf(first)}`] }
        : {}),
    }),
  );
  for (const { day, when } of date.changes)
    if (when === null) addTime(event, "exdate", onDay(date.when, day), "from");
}

/** The end of a rule: a day for whole days, else an instant in UTC (RFC 5545, section 3.3.10). */
function lastMoment(when: When, day: string): ICAL.Time {
  return when.allDay ? ICAL.Time.fromDateString(day) : utc(instantOf(`${day}T23:59`, when.zone));
}

function utc(instant: Date): ICAL.Time {
  return ICAL.Time.fromJSDate(instant, true);
}

/** The time zone of a date, with every change of its clocks that matters to it. */
function zoneOf(date: CalendarDate, zone: string): ICAL.Component {
  const all = occurrences(date).map(({ when }) => when);
  const moments = [date.when, ...all].flatMap(({ from, until }) => [from, until]).sort();
  const instant = (at: string | undefined): Date =>
    instantOf((at ?? date.when.from).padEnd(16, "T00:00"), zone);
  const component = new ICAL.Component("vtimezone");
  component.addPropertyWithValue("tzid", zone);
  for (const change of clockChanges(zone, instant(moments[0]), instant(moments.at(-1)))) {
    const part = new ICAL.Component(change.kind.toLowerCase());
    part.addPropertyWithValue("dtstart", ICAL.Time.fromDateTimeString(`${change.at}:00`));
    part.addPropertyWithValue("tzoffsetfrom", ICAL.UtcOffset.fromSeconds(change.from * 60));
    part.addPropertyWithValue("tzoffsetto", ICAL.UtcOffset.fromSeconds(change.to * 60));
    part.addPropertyWithValue("tzname", change.name);
    component.addSubcomponent(part);
  }
  return component;
}
