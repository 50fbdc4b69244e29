import { message, type Message } from "@amigo/language/message";

/** What is wrong with a list's name. `long` only goes against what the house finds pleasant to type. */
export type NameFault =
  "empty" | "form" | "too-long" | "long" | "reserved" | "taken" | "recent" | "ambiguous";

/** The part before the @ has at most 64 octets: RFC 5321, section 4.5.3.1.1. Room is left for `-request` and `+leads`. */
export const LONGEST_NAME = 54;

/** Mailbox names that every house keeps for its own: RFC 2142, sections 3 to 7. */
const RESERVED = new Set([
  "postmaster",
  "abuse",
  "noc",
  "security",
  "hostmaster",
  "webmaster",
  "www",
  "ftp",
  "usenet",
  "news",
  "uucp",
  "mailer-daemon",
  "info",
  "marketing",
  "sales",
  "support",
  "list-request",
  "root",
  "admin",
  "administrator",
  "noreply",
  "no-reply",
]);

/** Whether a name is kept for the house itself, by the standard or by the house's own choice. */
export function isReserved(name: string, known: ReadonlySet<string>): boolean {
  return RESERVED.has(name) || known.has(name) || name.endsWith("-request");
}

/** What is wrong with a name taken by itself: its form, its length, that it is reserved. */
export function faultsOfName(
  name: string,
  house: { longest: number; reserved: ReadonlySet<string> },
): NameFault[] {
  if (name === "") return ["empty"];
  const faults: NameFault[] = [];
  if (!/^[a-z0-9]([a-z0-9.-]*[a-z0-9])?$/.test(name) || name.includes("..")) faults.push("form");
  if (name.length > LONGEST_NAME) faults.push("too-long");
  else if (name.length > house.longest) faults.push("long");
  if (isReserved(name, house.reserved)) faults.push("reserved");
  return faults;
}

/** A fault in words. */
export function nameFaultSentence(
  fault: NameFault,
  name: string,
  house: { longest: number },
): Message {
  switch (fault) {
    case "empty":
      return message("naming.thePatternMakesNoName");
    case "form":
      return message("naming.hasCharactersThatListAddresses", { name });
    case "too-long":
      return message("naming.hasCharactersAtMostAre", {
        name,
        length: name.length,
        most: LONGEST_NAME,
      });
    case "long":
      return message("naming.hasCharactersYourNamingRules", {
        name,
        length: name.length,
        most: house.longest,
      });
    case "reserved":
      return message("naming.isAReservedName", { name });
    case "taken":
      return message("naming.anotherListIsCalled", { name });
    case "recent":
      return message("naming.ledToAnotherListWithin", { name });
    case "ambiguous":
      return message("naming.severalListsWouldBeCalled", { name });
  }
}

/** Whether a name can't be used at all, and not only should not. */
export function isHard(fault: NameFault): boolean {
  return fault !== "long";
}
