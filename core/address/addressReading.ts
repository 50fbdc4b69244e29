import type { Message } from "@amigo/language/message";

/** What is wrong with a written address, or was before it was tidied. */
export type AddressFault =
  | "invisible"
  | "spaces"
  | "mailto"
  | "angle-name"
  | "trailing-dot"
  | "double-at"
  | "upper-case"
  | "comma-for-dot"
  | "domain-slip"
  | "impossible-domain"
  | "no-at"
  | "no-domain"
  | "no-mailbox"
  | "none-word"
  | "words-beside"
  | "several-at"
  | "bad-sign"
  | "of-a-list"
  | "too-long";

/** The answer to one written address: clean, probably meant, or unusable. */
export type AddressReading =
  | { answer: "clean"; address: string; tidied: AddressFault[] }
  | { answer: "probably"; address: string; fault: AddressFault; why: Message }
  | { answer: "unusable"; fault: AddressFault; why: Message };

export function unusable(fault: AddressFault, why: Message): AddressReading {
  return { answer: "unusable", fault, why };
}
