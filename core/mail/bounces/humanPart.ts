import type { Refused } from "./sortOf";
import type { BounceRead } from "./form";
import { SOMETHING, SURE } from "./phrases";
import { CODED, joinLines, refusalIn } from "./refusalIn";
import { evidenceOf, sortOf } from "./sortOf";

/** How much of the part for people is looked at: lines, and characters of each. */
const MOST_LINES = 50;
const LONGEST = 400;

/** Where the part for people ends: at the machine's own part (RFC 3464), or at the mail that comes back. */
const ENDS =
  /^(reporting-mta|original-envelope-id|arrival-date|final-recipient|original-recipient|action|status|diagnostic-code|received|return-path|message-id|dkim-signature)[ \t]*:|^-{3,}.{0,60}(copy|original|below|message|headers?|ursprüngliche|nachricht)|^-{2,} ?(begin|original)|^(original (message )?headers?|the (original|returned) message)\b.{0,30}:$|^(die )?(ursprüngliche|urspruengliche) nachricht|^message (d'origine|original)|^mensaje original|^messaggio originale/i;

/** Lines that repeat the mail that came back: its subject, or quoted text. */
const REPEATED =
  /^(>|\|)|^(subject|betreff|objet|asunto|oggetto|assunto|onderwerp|temat|konu|тема|předmět|ämne|emne|件名|主题|主旨)[ \t]*[:：]/i;

/** Returns the part of a returned mail that was written for people, without what it repeats of the mail that came back. */
export function humanText(text: string): string {
  const lines = text
    .slice(0, 40_000)
    .split(/\r?\n/)
    .map((line) => line.trim().slice(0, LONGEST));
  const end = lines.findIndex((line) => ENDS.test(line));
  return lines
    .slice(0, end < 0 ? MOST_LINES : Math.min(end, MOST_LINES))
    .filter((line) => !REPEATED.test(line))
    .join("\n");
}

/** Returns its lines. */
export function humanLines(text: string): string[] {
  return humanText(text)
    .split("\n")
    .filter((line) => line !== "");
}

/**
 * Returns the first line that says why a mail came back, or the two over which that is broken; none if no line does. What
 * follows the paragraph of a line with a code is good advice, no reason, and isn't looked at.
 */
export function tellingLine(text: string): string | undefined {
  const all = humanText(text).split("\n");
  const coded = all.findIndex((line) => CODED.test(line));
  const ends = coded < 0 ? -1 : all.indexOf("", coded);
  const lines = all.slice(0, ends < 0 ? undefined : ends).filter((line) => line !== "");
  const pairs = lines.map((line, at) => joinLines(line, lines[at + 1] ?? "").trim());
  return (
    lines.find((words) => says({ words }, SOMETHING)) ?? pairs.find((words) => says({ words }))
  );
}

/** Whether the words of a refusal say what is wrong, as strongly as is asked: plainly, if nothing else is. */
export function says(refused: Refused, atLeast = SURE): boolean {
  return evidenceOf(refused).some(
    ({ by, says: strength }) => by === "words" && strength >= atLeast,
  );
}

/**
 * Sorts a returned mail that has no fields for machines: by the reason that was found in it, and where that says nothing
 * plainly, by the line of its text that does.
 */
export function sortReason(reason: string, text: string): BounceRead {
  const refused = refusalIn(reason);
  const telling = says(refused) ? undefined : tellingLine(text);
  const words = telling === undefined ? refused.words : `${refused.words}. ${telling}`;
  const hasCode = refused.code !== undefined || refused.status !== undefined;
  return {
    sort: sortOf({ ...refused, words, gaveUp: true }),
    words: hasCode || telling === undefined ? refused.words : telling,
  };
}
