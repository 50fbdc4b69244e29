import type { Repeated } from "./repeat";

/** A date that a list's people are invited to. */
export interface CalendarDate extends Repeated {
  /** What identifies it for good, in every calendar (RFC 5545, section 3.8.4.7). */
  uid: string;
  /** How often what matters of it has changed (RFC 5546, section 2.1.4). */
  sequence: number;
  title: string;
  text: string;
  place: string;
  /** Where to meet online; empty for nowhere. */
  link: string;
}

/** One end of an invitation: a name, and the address by which calendar programs know it. */
export interface Party {
  name: string;
  address: string;
}

/** What somebody says to an invitation. */
export type Answer = "yes" | "no" | "maybe";
