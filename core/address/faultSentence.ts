import { message, type Message } from "@amigo/language/message";
import type { AddressFault } from "./addressReading";

/** What is wrong with an address, for people outside: how often a domain is used here is not theirs to know. */
export function faultForOutsiders({ fault }: { fault: AddressFault }): Message {
  return message("address.asSentence", { fault: FAULT_SENTENCE[fault] });
}

/** A heading in the user's words for each fault of an address. */
export const FAULT_SENTENCE: Record<AddressFault, Message> = {
  invisible: message("address.signsNobodySeesWereRemoved"),
  spaces: message("address.spacesInsideWereRemoved"),
  mailto: message("address.aLinkWasTurnedInto"),
  "angle-name": message("address.theNameAroundTheAddress"),
  "trailing-dot": message("address.aDotAtTheEnd"),
  "double-at": message("address.aDoubledWasMadeOne"),
  "upper-case": message("address.capitalsWereMadeSmall"),
  "comma-for-dot": message("address.thereIsACommaWhere"),
  "domain-slip": message("address.theDomainIsOneSlip"),
  "impossible-domain": message("address.theDomainIsNotWhole"),
  "no-at": message("address.thereIsNo"),
  "no-domain": message("address.thereIsNoDomainAfter"),
  "no-mailbox": message("address.nothingIsBeforeThe"),
  "none-word": message("address.noneGiven"),
  "words-beside": message("address.otherWordsStandBesideThe"),
  "several-at": message("address.thereIsMoreThanOne"),
  "bad-sign": message("address.itHoldsASignThat"),
  "of-a-list": message("address.itIsTheAddressOfAList"),
  "too-long": message("address.itIsLongerThanAn"),
};
