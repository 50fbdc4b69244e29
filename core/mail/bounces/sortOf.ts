import { message, type Message } from "@amigo/language/message";
import type { BounceSort } from "./form";
import { meaningOf } from "./meaningOf";
import { HINT, KNOWN_PHRASES, SOMETHING, SURE } from "./phrases";
import { plainWords } from "./plainWords";

/** What is known of a refusal: a reply code (RFC 5321, section 4.2), an enhanced status code (RFC 3463), and words. */
export interface Refused {
  code?: number | undefined;
  status?: string | undefined;
  words: string;
  /** Whether the sending system has given up, also on what was for now each time that it tried. */
  gaveUp?: boolean | undefined;
}

/** What enhanced status codes say (RFC 3463, sections 3.2 to 3.8, and the registry of RFC 5248), and how much. */
const BY_STATUS: readonly [RegExp, BounceSort, number][] = [
  [/^[45]\.2\.2$/, "full", SURE + 1],
  // The disk of the server, not the mailbox.
  [/^[45]\.3\.1$/, "temporary", SURE + 1],
  [/^5\.(2\.3|3\.4)$/, "too large", SURE - 1],
  [/^5\.1\.(1|3|6)$|^5\.2\.1$/, "no mailbox", SURE - 2],
  [/^5\.1\.10$|^5\.4\.1$/, "no mailbox", HINT + 1],
  [/^5\.1\.0$/, "no mailbox", HINT],
  [/^5\.1\.2$|^5\.4\.4$/, "no domain", SURE - 2],
  // An address of ours without a mail server.
  [/^5\.7\.27$/, "policy", SURE + 1],
  // The line between, not what is at its end.
  [/^4\.(4\.[125]|5\.3)$/, "temporary", SURE + 2],
  // Of SPF, DKIM, DMARC and the name of our own server, and of signing in.
  [/^5\.7\.(2\d|8|1[0-4]|3\d)$/, "policy", SURE - 1],
  // Of our own address as the sender.
  [/^5\.1\.[78]$/, "policy", SURE - 1],
  [/^5\.7\.[2-7]$|^5\.[56]\.\d+$|^5\.4\.(6|14)$/, "policy", HINT + 1],
  // Stands before nearly anything, so it says little.
  [/^5\.7\.\d+$/, "policy", 1],
];

/** What reply codes say beside that: each is used for nearly anything. */
const BY_CODE: ReadonlyMap<number, BounceSort> = new Map([
  [521, "no domain"],
  [551, "no mailbox"],
  [552, "full"],
  [553, "no mailbox"],
  [554, "policy"],
  [556, "no domain"],
]);

/** Of sorts for which as much speaks, the first is taken: those that stop an address come last. */
const ORDER: readonly BounceSort[] = [
  ...(["full", "too large", "unwanted", "policy", "no domain", "no mailbox", "temporary"] as const),
];

/** What couldn't be looked up of our own address; the words after it are of that one, too (RFC 3463, section 3.2). */
const OF_SENDER = /^4\.1\.[78]$/;

/** Something that speaks for a sort, and how much. */
export interface Evidence {
  sort: BounceSort;
  says: number;
  /** By what: the words, the status or the code. */
  by: "words" | "status" | "code";
}

/** Returns what speaks for which sort in a refusal: of each kind of evidence, the strongest for each sort. */
export function evidenceOf({ code, status = "", words }: Refused): Evidence[] {
  const plain = plainWords(words);
  const meant = meaningOf(plain);
  const found: Evidence[] = [];
  for (const sort of ORDER) {
    const says = Math.max(
      meant.has(sort) ? (sort === "temporary" ? SOMETHING : SURE) : 0,
      ...KNOWN_PHRASES.filter((known) => known.sort === sort && known.pattern.test(plain)).map(
        (known) => known.says,
      ),
    );
    if (says > 0) found.push({ sort, says, by: "words" });
  }
  const told = BY_STATUS.find(([pattern]) => pattern.test(status));
  if (told !== undefined) found.push({ sort: told[1], says: told[2], by: "status" });
  const byCode = BY_CODE.get(code ?? 0);
  if (byCode !== undefined) found.push({ sort: byCode, says: 1, by: "code" });
  return found;
}

/**
 * Sorts a refusal: what most speaks for, where a plain sentence outranks a vague code. What is only for now (4xx, 4.x.x) is never
 * taken for good, unless the sending system has given up and the words say plainly why.
 */
export function sortOf(refused: Refused): BounceSort {
  const { code, status = "", gaveUp = false } = refused;
  const evidence = evidenceOf(refused);
  const isForNow = (code !== undefined && code >= 400 && code < 500) || status.startsWith("4.");
  if (isForNow) {
    if (OF_SENDER.test(status)) return "temporary";
    const sure = evidence.filter(({ says, by }) => says >= SURE && by !== "code");
    if (strongest(sure) === "full") return "full";
    if (evidence.some(({ sort, by }) => sort === "temporary" && by === "words")) return "temporary";
    return (gaveUp ? strongest(sure) : undefined) ?? "temporary";
  }
  return strongest(evidence) ?? byNumber(code, status);
}

function strongest(evidence: readonly Evidence[]): BounceSort | undefined {
  const sums = new Map<BounceSort, number>();
  for (const { sort, says } of evidence) sums.set(sort, (sums.get(sort) ?? 0) + says);
  const most = Math.max(0, ...sums.values());
  return ORDER.find((sort) => most > 0 && sums.get(sort) === most);
}

/** Sorts a refusal for which nothing speaks in particular: by the class of its status, else by its reply code. */
function byNumber(code: number | undefined, status: string): BounceSort {
  if (status.startsWith("5.1.")) return "no mailbox";
  if (code === 550) return "no mailbox";
  return status.startsWith("5.") || (code !== undefined && code >= 500) ? "policy" : "temporary";
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
