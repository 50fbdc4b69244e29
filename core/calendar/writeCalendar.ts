import type { CalendarDate } from "./calendarDate";
import { addEvents, addZone, newCalendar, plainEvent } from "./calendarParts";

/** A date in a calendar that is read, not an invitation: nobody is named in it. */
export interface CalendarEntry {
  date: CalendarDate;
  /** When it was last changed. */
  changedAt: Date;
  isCancelled: boolean;
}

/**
 * Writes dates as an iCalendar object without a method, as calendars are published and stored (RFC 5545; RFC 4791, section 4.1).
 *
 * @param name what the calendar is called (RFC 7986, section 5.1); empty for an object of one date
 */
export function writeCalendar(entries: readonly CalendarEntry[], name = ""): string {
  const calendar = newCalendar();
  if (name !== "") {
    calendar.addPropertyWithValue("name", escaped(name));
    // What programs understood before there was a standard.
    calendar.addPropertyWithValue("x-wr-calname", escaped(name));
    calendar.addPropertyWithValue("refresh-interval", "PT1H").setParameter("value", "DURATION");
  }
  addZone(
    calendar,
    entries.map(({ date }) => date),
  );
  for (const { date, changedAt, isCancelled } of entries)
    addEvents(calendar, date, (when) => {
      const event = plainEvent(date, when, changedAt);
      event.addPropertyWithValue("status", isCancelled ? "CANCELLED" : "CONFIRMED");
      return event;
    });
  return `${calendar.toString()}\r\n`;
}

/** A text as a value (RFC 5545, section 3.3.11) of a property that the library doesn't know. */
function escaped(text: string): string {
  return text.replace(/[\\;,]/g, "\\$&").replace(/\s+/g, " ");
}
