import { fold } from "../text/fold";
import { proposeShortForm, squash } from "./shortForm";

/** What fills the parts of a naming pattern. */
export interface NameParts {
  /** The site's short code. */
  site: string;
  /** The cohort's full name. */
  cohort: string;
  /** Such as `2026-27`. */
  season: string;
}

/** The house's dictionary of short forms, by folded full name. */
export type ShortForms = ReadonlyMap<string, string>;

export type NameFault = "empty" | "too-long" | "reserved" | "taken" | "unknown-part";

export type ListName = { ok: true; name: string } | { ok: false; fault: NameFault; sentence: string; proposal: string | undefined };

/** The part before the @ has at most 64 octets: RFC 5321, section 4.5.3.1.1. Room is left for `-request` and `+leads`. */
const LONGEST = 54;

/** Mailbox names that every house keeps for its own: RFC 2142, sections 3 to 7. */
const RESERVED = new Set(["postmaster", "abuse", "noc", "security", "hostmaster", "webmaster", "www", "ftp", "usenet", "news", "uucp", "mailer-daemon", "info", "marketing", "sales", "support", "list-request", "root", "admin", "administrator", "noreply", "no-reply"]);

/**
 * Makes a list's name, the part before the @, from a pattern such as `{site}-{class}-parents-{season}`.
 * Only letters, digits, dots and dashes stand in it. The parts are `{site}`, `{class}` (also `{team}`,
 * `{committee}`: the short form of the cohort) and `{season}` (`2026-27` as `2627`).
 *
 * @param isTaken whether another list has, or lately had, a name
 * @returns the name, or a fault with a sentence and where possible a free name near it
 */
export function listName(pattern: string, parts: NameParts, shortForms: ShortForms, isTaken: (name: string) => boolean): ListName {
  const unknown = [...pattern.matchAll(/\{([^}]*)\}/g)].map((match) => match[1] ?? "").find((part) => !["site", "class", "team", "committee", "season"].includes(part));
  if (unknown !== undefined) return { ok: false, fault: "unknown-part", sentence: `The pattern has a part {${unknown}} that Amigo does not know.`, proposal: undefined };
  const short = shortForms.get(fold(parts.cohort)) ?? proposeShortForm(parts.cohort);
  const filled = pattern
    .replace(/\{site\}/g, squash(parts.site))
    .replace(/\{(class|team|committee)\}/g, short)
    .replace(/\{season\}/g, parts.season.replace(/^(?:\d\d)?(\d\d)-(?:\d\d)?(\d\d)$/, "$1$2"));
  const name = filled.toLowerCase().replace(/[^a-z0-9.-]+/g, "-").replace(/[.-]*-[.-]*/g, "-").replace(/\.{2,}/g, ".").replace(/^[.-]+|[.-]+$/g, "");
  if (name === "") return { ok: false, fault: "empty", sentence: "The pattern makes an empty name.", proposal: undefined };
  if (name.length > LONGEST) return { ok: false, fault: "too-long", sentence: `"${name}" has ${name.length} signs; ${LONGEST} is the most.`, proposal: free(name.slice(0, LONGEST - 3).replace(/[.-]+$/, ""), isTaken) };
  if (RESERVED.has(name) || name.endsWith("-request")) return { ok: false, fault: "reserved", sentence: `"${name}" is kept for the house itself.`, proposal: free(`${name}-list`, isTaken) };
  if (isTaken(name)) return { ok: false, fault: "taken", sentence: `Another list is called "${name}".`, proposal: free(name, isTaken) };
  return { ok: true, name };
}

function free(name: string, isTaken: (name: string) => boolean): string {
  if (!isTaken(name)) return name;
  let turn = 2;
  while (isTaken(`${name}-${turn}`)) turn++;
  return `${name}-${turn}`;
}
