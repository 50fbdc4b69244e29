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
export function isReserved(name: string, own: ReadonlySet<string>): boolean {
  return RESERVED.has(name) || own.has(name) || name.endsWith("-request");
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
): string {
  switch (fault) {
    case "empty":
      return "The pattern makes no name at all here.";
    case "form":
      return `"${name}" has characters that list addresses can't have. Use letters, digits, dots and dashes.`;
    case "too-long":
      return `"${name}" has ${name.length} characters; at most ${LONGEST_NAME} are allowed.`;
    case "long":
      return `"${name}" has ${name.length} characters; your naming rules recommend at most ${house.longest}.`;
    case "reserved":
      return `"${name}" is a reserved name.`;
    case "taken":
      return `Another list is called "${name}".`;
    case "recent":
      return `"${name}" led to another list within the last two seasons.`;
    case "ambiguous":
      return `Several lists would be called "${name}".`;
  }
}

/** Whether a name can not be used at all, and not only should not. */
export function isHard(fault: NameFault): boolean {
  return fault !== "long";
}
