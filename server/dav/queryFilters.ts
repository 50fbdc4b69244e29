import { occurrences } from "@amigo/core/calendar/repeat";
import { addDays, instantOf, type When } from "@amigo/core/calendar/when";
import type { Contact } from "@amigo/core/contacts/writeCard";
import { fold } from "@amigo/core/text/fold";
import type { Item } from "./collection";
import { CALDAV, CARDDAV, childOf, type XmlElement } from "./xml";

/** Whether a thing is what a query asks for; undefined where the query has a filter of a kind that isn't supported. */
export type Filter = ((item: Item) => boolean) | undefined;

/**
 * Reads the filter of a calendar query (RFC 4791, section 9.7): events, and those within a time.
 *
 * @param zone the house's time zone, by which whole days begin and end
 */
export function calendarFilter(filter: XmlElement | undefined, zone: string): Filter {
  const calendar = childOf(filter, CALDAV, "comp-filter");
  if (filter === undefined || calendar?.attributes.get("name") !== "VCALENDAR") return undefined;
  if (calendar.children.length === 0) return () => true;
  const [component, another] = calendar.children;
  if (component?.name !== "comp-filter" || another !== undefined) return undefined;
  // There are no tasks and no notes here.
  if (component.attributes.get("name") !== "VEVENT")
    return () => childOf(component, CALDAV, "is-not-defined") !== undefined;
  const [range, more] = component.children;
  if (range === undefined) return () => true;
  if (range.name !== "time-range" || more !== undefined) return undefined;
  const [from, until] = [instantIn(range, "start"), instantIn(range, "end")];
  if (from === undefined || until === undefined || from >= until) return undefined;
  return ({ date }) =>
    date !== undefined &&
    occurrences(date).some(({ when }) => {
      const [begins, ends] = spanOf(when, zone);
      return begins < until && (ends > from || (begins === ends && begins >= from));
    });
}

/** A moment in UTC of a filter; without one it is open on that side. */
function instantIn(range: XmlElement, name: "start" | "end"): number | undefined {
  const text = range.attributes.get(name);
  if (text === undefined) return name === "start" ? -Infinity : Infinity;
  const found = /^(\d{4})(\d\d)(\d\d)T(\d\d)(\d\d)(\d\d)Z$/.exec(text);
  if (found === null) return undefined;
  const [, year, month, day, hour, minute, second] = found;
  const instant = Date.parse(`${year}-${month}-${day}T${hour}:${minute}:${second}Z`);
  return Number.isNaN(instant) ? undefined : instant;
}

function spanOf(when: When, zone: string): [begins: number, ends: number] {
  const at = (moment: string): number => instantOf(moment, zone).getTime();
  return when.allDay
    ? [at(`${when.from}T00:00`), at(`${addDays(when.until, 1)}T00:00`)]
    : [at(when.from), at(when.until)];
}

/** What the properties of a card say, by their names. */
const VALUES: Readonly<Record<string, (contact: Contact) => readonly string[]>> = {
  FN: ({ name }) => [name],
  N: ({ given, family }) => [given, family].filter((part) => part !== ""),
  EMAIL: ({ addresses }) => addresses,
  UID: ({ uid }) => [uid],
  NOTE: ({ note }) => (note === "" ? [] : [note]),
  CATEGORIES: ({ category }) => (category === "" ? [] : [category]),
  KIND: ({ kind }) => [kind],
  NICKNAME: () => [],
  TEL: () => [],
  ORG: () => [],
};

/** Reads the filter of an address book query (RFC 6352, section 10.5): texts in the properties of a card. */
export function addressBookFilter(filter: XmlElement | undefined): Filter {
  if (filter === undefined) return () => true;
  const tests = filter.children.map(propertyTest);
  if (tests.includes(undefined)) return undefined;
  const wanted = tests as ((contact: Contact) => boolean)[];
  const isAll = filter.attributes.get("test") === "allof";
  return ({ contact }) =>
    contact !== undefined &&
    (wanted.length === 0 ||
      (isAll ? wanted.every((one) => one(contact)) : wanted.some((one) => one(contact))));
}

function propertyTest(filter: XmlElement): ((contact: Contact) => boolean) | undefined {
  const name = (filter.attributes.get("name") ?? "").toUpperCase();
  if (filter.namespace !== CARDDAV || filter.name !== "prop-filter") return undefined;
  const valuesOf = VALUES[name] ?? (() => []);
  if (childOf(filter, CARDDAV, "is-not-defined") !== undefined)
    return (contact) => valuesOf(contact).length === 0;
  const tests = filter.children.map(textTest);
  if (tests.includes(undefined)) return undefined;
  const wanted = tests as ((text: string) => boolean)[];
  const isAll = filter.attributes.get("test") === "allof";
  return (contact) => {
    const values = valuesOf(contact);
    if (wanted.length === 0) return values.length > 0;
    const meets = (one: (text: string) => boolean): boolean => values.some(one);
    return isAll ? wanted.every(meets) : wanted.some(meets);
  };
}

function textTest(filter: XmlElement): ((text: string) => boolean) | undefined {
  if (filter.namespace !== CARDDAV || filter.name !== "text-match") return undefined;
  const wanted = fold(filter.text);
  const isNegated = filter.attributes.get("negate-condition") === "yes";
  const matches = MATCHES[filter.attributes.get("match-type") ?? "contains"];
  return matches === undefined ? undefined : (text) => matches(fold(text), wanted) !== isNegated;
}

const MATCHES: Readonly<Record<string, (text: string, wanted: string) => boolean>> = {
  contains: (text, wanted) => text.includes(wanted),
  equals: (text, wanted) => text === wanted,
  "starts-with": (text, wanted) => text.startsWith(wanted),
  "ends-with": (text, wanted) => text.endsWith(wanted),
};
