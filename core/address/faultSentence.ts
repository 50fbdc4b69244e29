import type { AddressFault } from "./readAddress";

/** What is wrong with an address, for people outside: how often a domain is used here is not theirs to know. */
export function faultForOutsiders({ fault }: { fault: AddressFault }): string {
  return `${FAULT_SENTENCE[fault]}.`;
}

/** A heading in the user's words for each fault of an address. */
export const FAULT_SENTENCE: Record<AddressFault, string> = {
  invisible: "Signs nobody sees were removed",
  spaces: "Spaces inside were removed",
  mailto: "A link was turned into the address",
  "angle-name": "The name around the address was set apart",
  "trailing-dot": "A dot at the end was removed",
  "double-at": "A doubled @ was made one",
  "upper-case": "Capitals were made small",
  "comma-for-dot": "There is a comma where a dot belongs",
  "domain-slip": "The domain is one slip away from one used here",
  "impossible-domain": "The domain is not whole",
  "no-at": "There is no @",
  "no-domain": "There is no domain after the @",
  "no-mailbox": "Nothing is before the @",
  "none-word": "None given",
  "words-beside": "Other words stand beside the address",
  "several-at": "There is more than one @",
  "bad-sign": "It holds a sign that no address can have",
  "too-long": "It is longer than an address may be",
};
