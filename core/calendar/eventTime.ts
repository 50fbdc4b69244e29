import ICAL from "ical.js";
import { addDays, instantOf, momentAt, type When } from "./when";

/** Returns when an event is, by the house's clocks; undefined where it doesn't say. */
export function whenOf(event: ICAL.Component, zone: string): When | undefined {
  const from = timeOf(event, "dtstart", zone);
  if (from === undefined) return undefined;
  const until = timeOf(event, "dtend", zone) ?? endByDuration(event, from);
  return from.length === 10
    ? { allDay: true, from, until: until > from ? addDays(until.slice(0, 10), -1) : from }
    : { allDay: false, from, until: until.length === 10 ? from : until, zone };
}

/** The end of an event that has a duration instead of one, or neither (RFC 5545, section 3.6.1). */
function endByDuration(event: ICAL.Component, from: string): string {
  const duration: unknown = event.getFirstPropertyValue("duration");
  const seconds = duration instanceof ICAL.Duration ? Math.max(0, duration.toSeconds()) : 0;
  const end = new Date(Date.parse(`${from.padEnd(16, "T00:00")}Z`) + seconds * 1000);
  return Number.isNaN(end.getTime()) ? from : end.toISOString().slice(0, from.length);
}

/** Returns a time of an event as the house's clocks show it; a day where it is a whole day; undefined where there is none. */
export function timeOf(event: ICAL.Component, name: string, zone: string): string | undefined {
  const property = event.getFirstProperty(name);
  return property === null ? undefined : timeIn(property, property.getFirstValue(), zone);
}

/** Returns one value of a property as {@link timeOf} does. */
export function timeIn(property: ICAL.Property, value: unknown, zone: string): string | undefined {
  if (!(value instanceof ICAL.Time)) return undefined;
  if (value.isDate) return value.toString().slice(0, 10);
  const tzid = property.getParameter("tzid");
  const isFloating = value.zone === ICAL.Timezone.localTimezone;
  if (!isFloating) return momentAt(value.toJSDate(), zone);
  const shown = value.toString().slice(0, 16);
  // A zone that came along as VTIMEZONE is known to the library. Without one, its name may be a usual one.
  return typeof tzid === "string" && isZone(tzid) ? momentAt(instantOf(shown, tzid), zone) : shown;
}

function isZone(name: string): boolean {
  try {
    new Intl.DateTimeFormat("en", { timeZone: name });
    return true;
  } catch {
    return false;
  }
}

/** Returns the text of a property without the spaces around it; empty where there is none. */
export function textOf(component: ICAL.Component, name: string): string {
  const value: unknown = component.getFirstPropertyValue(name);
  return typeof value === "string" ? value.trim() : "";
}
