import { canonicalAddress } from "../address/domainName";
import ICAL from "ical.js";

/** A group as another program wrote it: its name, and whom it holds. */
export interface CardRead {
  uid: string;
  name: string;
  isGroup: boolean;
  /** The members that it names by their ids, in the order in which it names them. */
  members: string[];
  addresses: string[];
}

/** The longest card that is looked at, in characters. */
const LONGEST = 200_000;

/**
 * Reads a vCard of either version, with its members by the standard's name (RFC 6350, section 6.6.5) or by the older one.
 *
 * @returns undefined where it is no card
 */
export function readCard(text: string): CardRead | undefined {
  if (text.length > LONGEST) return undefined;
  try {
    const card = new ICAL.Component(
      ICAL.parse(text) as ConstructorParameters<typeof ICAL.Component>[0],
    );
    if (card.name !== "vcard") return undefined;
    const all = (name: string): string[] =>
      card.getAllProperties(name).map((property) => String(property.getFirstValue()).trim());
    const kinds = [...all("kind"), ...all("x-addressbookserver-kind")];
    return {
      uid: bareId(all("uid")[0] ?? ""),
      name: all("fn")[0] ?? "",
      isGroup: kinds.some((kind) => kind.toLowerCase() === "group"),
      members: [...all("member"), ...all("x-addressbookserver-member")].map(bareId),
      addresses: all("email").map(canonicalAddress),
    };
  } catch {
    return undefined;
  }
}

function bareId(uid: string): string {
  return uid.replace(/^urn:uuid:/i, "").trim();
}
