import type { CalendarDate } from "@amigo/core/calendar/calendarDate";
import type { CardVersion, Contact } from "@amigo/core/contacts/writeCard";
import type { Refused } from "../refused";

/** A thing in a calendar or an address book, under its name there. */
export interface Item {
  /** The last part of its path. */
  name: string;
  /** Its version, without the marks around it. */
  version: string;
  /** What it says; an address book's in the version of vCard that is asked for. */
  text: (card: CardVersion) => string;
  /** What it is, for queries. */
  date?: CalendarDate;
  contact?: Contact;
}

/** A calendar or an address book of an account. */
export interface Collection {
  kind: "calendar" | "addressbook";
  /** The part of its path that names it. */
  id: string;
  name: string;
  description: string;
  mayWrite: () => Promise<boolean>;
  items: () => Promise<Item[]>;
  /** Puts a thing here, new or changed; missing where nothing can be put. */
  store?: (name: string, text: string, before: Item | undefined) => Promise<Refused | undefined>;
  /** Takes a thing away; missing where nothing can be. */
  remove?: (item: Item) => Promise<Refused | undefined>;
}
