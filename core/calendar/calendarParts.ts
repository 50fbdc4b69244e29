import ICAL from "ical.js";
import type { CalendarDate } from "./calendarDate";
import { occurrences, weekdayOf, weekdaysOf, type Repeat } from "./repeat";
import { addDays, firstDay, instantOf, onDay, type When } from "./when";
import { clockChanges } from "./zoneRules";

const PRODUCT = "-//Amigo//Dates//EN";

/** Returns an iCalendar object with nothing in it (RFC 5545, section 3.4). */
export function newCalendar(): ICAL.Component {
  const calendar = new ICAL.Component("vcalendar");
  calendar.addPropertyWithValue("prodid", PRODUCT);
  calendar.addPropertyWithValue("version", "2.0");
  calendar.addPropertyWithValue("calscale", "GREGORIAN");
  return calendar;
}

/** Returns one time of a date as an event, with what everybody may read of it. */
export function plainEvent(date: CalendarDate, when: When, stamp: Date): ICAL.Component {
  const event = new ICAL.Component("vevent");
  event.addPropertyWithValue("uid", date.uid);
  event.addPropertyWithValue("dtstamp", utc(stamp));
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
  return event;
}

/** Adds a date to a calendar: the whole with its repetition, and each of its times that was moved by itself. */
export function addEvents(
  calendar: ICAL.Component,
  date: CalendarDate,
  eventOf: (when: When) => ICAL.Component,
): void {
  const whole = eventOf(date.when);
  if (date.repeat !== null) addRule(whole, date, date.repeat);
  calendar.addSubcomponent(whole);
  for (const { day, when } of date.changes) {
    if (when === null) continue;
    const single = eventOf(when);
    addTime(single, "recurrence-id", onDay(date.when, day), "from");
    calendar.addSubcomponent(single);
  }
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

/** Adds the time zone of some dates, with every change of its clocks that matters to them; none for whole days alone. */
export function addZone(calendar: ICAL.Component, dates: readonly CalendarDate[]): void {
  const timed = dates.flatMap((date) =>
    [date.when, ...occurrences(date).map(({ when }) => when)].filter((when) => !when.allDay),
  );
  for (const zone of new Set(timed.map((when) => when.zone)))
    calendar.addSubcomponent(
      zoneOf(
        zone,
        timed.filter((when) => when.zone === zone),
      ),
    );
}

function zoneOf(zone: string, times: readonly When[]): ICAL.Component {
  const moments = times.flatMap(({ from, until }) => [from, until]).sort();
  const instant = (at: string | undefined): Date => instantOf(at ?? "1970-01-01T00:00", zone);
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
