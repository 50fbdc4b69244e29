import { message, type Message } from "@amigo/language/message";
import type { BounceSort } from "./form";

/** What is known of a refusal: a reply code (RFC 5321, section 4.2), an enhanced status code (RFC 3463), and words. */
export interface Refused {
  code?: number | undefined;
  status?: string | undefined;
  words: string;
}

/** What enhanced status codes say of an address for good: RFC 3463, sections 3.2 to 3.8. */
const BY_STATUS: readonly [RegExp, BounceSort][] = [
  [/^5\.1\.(1|3|6|0)$/, "no mailbox"],
  [/^5\.1\.10$/, "no mailbox"],
  [/^5\.2\.1$/, "no mailbox"],
  [/^5\.1\.2$/, "no domain"],
  [/^5\.4\.4$/, "no domain"],
  [/^[45]\.2\.2$/, "full"],
  [/^5\.[23]\.[34]$/, "too large"],
  [/^5\.7\.\d+$/, "policy"],
];

/** Words by which mail systems give their reasons, those that are surest first. */
const BY_WORDS: readonly [RegExp, BounceSort][] = [
  [
    /spam|junk|unsolicited|black ?list|block ?list|reputation|content rejected|looks like bulk|unerw[uü]nscht|ind[eé]sirable/i,
    "unwanted",
  ],
  [
    /quota|mailbox (is )?full|(mailbox|mail box|inbox|user).{0,30}(is |over )?full|over ?quota|insufficient (system )?storage|postfach.{0,40}voll|bo[iî]te.{0,30}pleine|buz[oó]n.{0,20}lleno|casella.{0,20}piena/i,
    "full",
  ],
  [
    /too (large|big)|exceeds? .{0,40}(size|limit)|size limit|message size|zu gro(ß|ss)|trop volumineux/i,
    "too large",
  ],
  [
    /(host|domain)( name)?( is)?( was)? (not found|unknown|does(n't| not) exist)|no such (host|domain)|unrouteable|unroutable|nxdomain|name service error|dns error|domain .{0,60}(not found|does(n't| not) exist)|kein server|domaine inconnu/i,
    "no domain",
  ],
  [
    /(user|recipient|mailbox|account|address|addressee)[^.\n]{0,60}(unknown|not found|does(n't| not) exist|no longer|disabled|inactive|invalid|unavailable|rejected|closed|deactivated|not known)|no such (user|recipient|mailbox|person|address)|unknown (user|recipient|address|local)|invalid (recipient|mailbox|user|address)|(not|no) (a )?(valid|mailbox|user|such) (here|recipient)|nobody .{0,30}here|does not like recipient|unbekannt|n'existe pas|destinataire inconnu|desconocido|no existe|sconosciuto/i,
    "no mailbox",
  ],
  [
    /relay(ing)? (access )?(denied|not (permitted|allowed))|not permitted to relay|policy|not allowed|not authori[sz]ed|access denied|authentication|dmarc|spf\b|dkim|permission|prohibited|restricted/i,
    "policy",
  ],
  [
    /try again|temporar|greylist|gr[ae]y.?list|delayed|deferred|timed? ?out|connection (refused|lost|reset)|later|sp[aä]ter|plus tard/i,
    "temporary",
  ],
];

/**
 * Sorts a refusal. The enhanced status decides where it is particular; else the words; else the reply code. What is only
 * for now (4xx, 4.x.x) is never taken for good.
 */
export function sortOf({ code, status = "", words }: Refused): BounceSort {
  const forNow = (code !== undefined && code >= 400 && code < 500) || status.startsWith("4.");
  const bySaid = BY_WORDS.find(([pattern]) => pattern.test(words))?.[1];
  if (forNow) return status === "4.2.2" || bySaid === "full" ? "full" : "temporary";
  if (bySaid === "unwanted" && /^(|5\.7.*|5\.0\.0|5\.1\.0)$/.test(status)) return "unwanted";
  return (
    BY_STATUS.find(([pattern]) => pattern.test(status))?.[1] ?? bySaid ?? byNumber(code, status)
  );
}

/** Sorts a refusal of which no words are known: by the class of its status, else by its reply code. */
function byNumber(code: number | undefined, status: string): BounceSort {
  if (status.startsWith("5.")) return status.startsWith("5.1.") ? "no mailbox" : "policy";
  if (code === 552) return "too large";
  if (code === 550 || code === 551 || code === 553) return "no mailbox";
  return code !== undefined && code >= 500 ? "policy" : "temporary";
}

/** What must be taken for good of a refusal at once: such an address will not work the next time either. */
export function isForGood(sort: BounceSort): boolean {
  return sort === "no mailbox" || sort === "no domain";
}

/** What says something of an address, now or after some days. The others say something of one mail, or of us. */
export function isOfAddress(sort: BounceSort): boolean {
  return isForGood(sort) || sort === "full" || sort === "temporary";
}

const WORDS: Record<BounceSort, Message> = {
  "no mailbox": message("mail.thereIsNoSuchMailbox"),
  "no domain": message("mail.thereIsNoSuchDomain"),
  full: message("mail.theMailboxIsFull"),
  "too large": message("mail.theMailWasTooLarge"),
  unwanted: message("mail.theMailWasRefusedAs"),
  policy: message("mail.theOtherSideDoesNot"),
  temporary: message("mail.itCouldNotBeDelivered"),
  "not a bounce": message("mail.itWasNoReturnedMail"),
};

/** A sort in words, as the second half of a sentence. */
export function sortWords(sort: BounceSort): Message {
  return WORDS[sort];
}
