import ICAL from "ical.js";

/** Somebody, or a list, as an address book knows them. */
export interface Contact {
  /** What identifies it in every address book. */
  uid: string;
  /** A group is written to as one: by its address, or by those of its members. */
  kind: "individual" | "group";
  name: string;
  given: string;
  family: string;
  addresses: readonly string[];
  note: string;
  /** What it belongs to, by which some programs sort. */
  category: string;
  /** The members of a group that are in the same address book, with their addresses. */
  members: readonly { uid: string; address: string }[];
}

export const CARD_VERSIONS = ["3.0", "4.0"] as const;
export type CardVersion = (typeof CARD_VERSIONS)[number];

/**
 * Writes a contact as a vCard: 4.0 (RFC 6350) with KIND and MEMBER, or 3.0 (RFC 2426), which most programs still ask for. There,
 * a group of people has the older names of these two; a list that has an address of its own is a contact like any other, so
 * that programs complete it when somebody begins to type its name.
 *
 * @returns its text, with lines of at most 75 octets that end in CR and LF
 */
export function writeCard(contact: Contact, version: CardVersion): string {
  const { uid, name, given, family, addresses, note, category } = contact;
  const card = new ICAL.Component("vcard");
  add(card, "version", version);
  add(card, "uid", version === "4.0" && UUID.test(uid) ? `urn:uuid:${uid}` : uid);
  add(card, "fn", name);
  add(card, "n", [family, given === "" && family === "" ? name : given, "", "", ""]);
  for (const address of addresses) add(card, "email", address);
  if (note !== "") add(card, "note", note);
  if (category !== "") add(card, "categories", category);
  addKind(card, contact, version);
  return `${card.toString()}\r\n`;
}

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

function addKind(card: ICAL.Component, contact: Contact, version: CardVersion): void {
  const { kind, members, addresses } = contact;
  if (version === "4.0") {
    add(card, "kind", kind);
    for (const { uid } of members) add(card, "member", `urn:uuid:${uid}`, "uri");
  } else if (kind === "group" && addresses.length === 0) {
    add(card, "x-addressbookserver-kind", "group");
    for (const { uid } of members) add(card, "x-addressbookserver-member", `urn:uuid:${uid}`);
  }
}

function add(card: ICAL.Component, name: string, value: string | string[], type?: string): void {
  const property = new ICAL.Property(name, card);
  if (type !== undefined) property.resetType(type);
  property.setValue(value);
  card.addProperty(property);
}
