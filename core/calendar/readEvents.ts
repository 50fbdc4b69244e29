import ICAL from "ical.js";
import { textOf, timeIn, timeOf, whenOf } from "./eventTime";
import { readRepeat } from "./readRepeat";
import { plannedDays, type Repeat, type SingleChange } from "./repeat";
import type { When } from "./when";

/** A date as another program wrote it. */
export interface ReadEvent {
  uid: string;
  sequence: number;
  title: string;
  text: string;
  place: string;
  link: string;
  when: When;
  repeat: Repeat | null;
  changes: SingleChange[];
  isCancelled: boolean;
  /** Whose date it is, in small letters; empty where nobody is named. */
  organiser: string;
}

export type EventsRead =
  | {
      ok: true;
      /** The method of iTIP that it came with (RFC 5546); empty for none. */
      method: string;
      events: ReadEvent[];
      /** The titles of what can't be kept as it is: it has no begin, or is repeated by a rule of another kind. */
      left: string[];
    }
  /** `none` has no dates in it, `broken` can't be read, `large` is more than is looked at. */
  | { ok: false; fault: "none" | "broken" | "large" };

/** The longest object that is looked at, in characters, and the most dates. */
const LONGEST = 5_000_000;
const MOST = 5_000;

/**
 * Reads the dates of an iCalendar object (RFC 5545), however a program writes them: with or without zones, ends or durations, with
 * times moved or dropped by themselves.
 *
 * @param zone the house's time zone, by whose clocks the dates are kept
 */
export function readEvents(text: string, zone: string): EventsRead {
  if (text.length > LONGEST) return { ok: false, fault: "large" };
  try {
    // Several objects may come in one file, one behind the other (section 3.4).
    const parsed: unknown = ICAL.parse(text);
    const several = Array.isArray(parsed) && Array.isArray(parsed[0]);
    const calendars = (several ? (parsed as unknown[]) : [parsed]).map(
      (one) => new ICAL.Component(one as ConstructorParameters<typeof ICAL.Component>[0]),
    );
    return eventsIn(calendars, zone);
  } catch {
    return { ok: false, fault: "broken" };
  }
}

function eventsIn(calendars: readonly ICAL.Component[], zone: string): EventsRead {
  const events = calendars.flatMap((calendar) => calendar.getAllSubcomponents("vevent"));
  if (events.length === 0) return { ok: false, fault: "none" };
  if (events.length > MOST) return { ok: false, fault: "large" };
  const method = calendars.map((calendar) => textOf(calendar, "method")).find((one) => one !== "");
  const byUid = new Map<string, ICAL.Component[]>();
  for (const event of events) {
    const uid = textOf(event, "uid");
    const same = byUid.get(uid);
    if (same === undefined || uid === "") byUid.set(uid === "" ? `${byUid.size}` : uid, [event]);
    else same.push(event);
  }
  const read: ReadEvent[] = [];
  const left: string[] = [];
  for (const same of byUid.values()) {
    const event = eventOf(same, zone);
    if (event === undefined) left.push(textOf(same[0] ?? new ICAL.Component("vevent"), "summary"));
    else read.push(event);
  }
  return { ok: true, method: (method ?? "").toUpperCase(), events: read, left };
}

/** One date with those of its times that stand by themselves; undefined where it can't be kept. */
function eventOf(same: readonly ICAL.Component[], zone: string): ReadEvent | undefined {
  const whole = same.find((event) => event.getFirstProperty("recurrence-id") === null) ?? same[0];
  const when = whole === undefined ? undefined : whenOf(whole, zone);
  if (whole === undefined || when === undefined) return undefined;
  const repeat = readRepeat(whole, when, zone);
  if (repeat === undefined || whole.getFirstProperty("rdate") !== null) return undefined;
  return {
    uid: textOf(whole, "uid"),
    sequence: Number(whole.getFirstPropertyValue("sequence") ?? 0) || 0,
    title: textOf(whole, "summary"),
    text: textOf(whole, "description"),
    place: textOf(whole, "location"),
    link: textOf(whole, "url"),
    when,
    repeat,
    changes: repeat === null ? [] : changesOf(whole, same, when, repeat, zone),
    isCancelled: textOf(whole, "status").toUpperCase() === "CANCELLED",
    organiser: textOf(whole, "organizer")
      .replace(/^mailto:/i, "")
      .toLowerCase(),
  };
}

/** The times that were dropped or moved by themselves, of those that are planned. */
function changesOf(
  whole: ICAL.Component,
  same: readonly ICAL.Component[],
  when: When,
  repeat: Repeat,
  zone: string,
): SingleChange[] {
  const planned = new Set(plannedDays(when, repeat));
  const changes = new Map<string, When | null>();
  for (const property of whole.getAllProperties("exdate"))
    for (const value of property.getValues()) {
      const day = timeIn(property, value, zone)?.slice(0, 10);
      if (day !== undefined) changes.set(day, null);
    }
  for (const event of same) {
    const day = event === whole ? undefined : timeOf(event, "recurrence-id", zone)?.slice(0, 10);
    const moved = whenOf(event, zone);
    if (day === undefined || moved === undefined) continue;
    changes.set(day, textOf(event, "status").toUpperCase() === "CANCELLED" ? null : moved);
  }
  return [...changes].filter(([day]) => planned.has(day)).map(([day, to]) => ({ day, when: to }));
}
