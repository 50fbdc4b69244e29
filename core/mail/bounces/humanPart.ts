import type { Refused } from "./sortOf";
import { evidenceOf } from "./sortOf";
import { SURE } from "./phrases";

/** How much of the part for people is looked at: lines, and characters of each. */
const MOST_LINES = 50;
const LONGEST = 400;

/** Where the part for people ends: at the machine's own part (RFC 3464), or at the mail that comes back. */
const ENDS =
  /^(reporting-mta|original-envelope-id|arrival-date|final-recipient|original-recipient|action|status|diagnostic-code|received|return-path|message-id|dkim-signature)[ \t]*:|^-{3,}.{0,60}(copy|original|below|message|headers?|ursprüngliche|nachricht)|^-{2,} ?(begin|original)/i;

/** Returns the lines of a returned mail that were written for people. */
export function humanLines(text: string): string[] {
  const lines = text
    .slice(0, 40_000)
    .split(/\r?\n/)
    .map((line) => line.trim().slice(0, LONGEST));
  const end = lines.findIndex((line) => ENDS.test(line));
  return lines
    .slice(0, end < 0 ? MOST_LINES : Math.min(end, MOST_LINES))
    .filter((line) => line !== "");
}

/** Returns the line that says plainly why a mail came back, or the two over which that is broken; none if no line does. */
export function tellingLine(text: string): string | undefined {
  const lines = humanLines(text);
  const pairs = lines.map((line, at) => `${line} ${lines[at + 1] ?? ""}`.trim());
  return [...lines, ...pairs].find((words) => says({ words }));
}

/** Whether the words of a refusal say plainly what is wrong. */
export function says(refused: Refused): boolean {
  return evidenceOf(refused).some(({ by, says: strength }) => by === "words" && strength >= SURE);
}
