import type { Refused } from "./sortOf";

const MOST = 300;

/** A line with a reply code or an enhanced status. */
export const CODED = /(^|[^\d.])[45]\d\d([ -]|$)|[45]\.\d{1,3}\.\d{1,3}/;

/** Lines that are broken at a width are at least this long. */
const BROKEN = 60;

/** Joins two lines, with a full stop where what is said ends between them: it isn't broken there at a width, and the second begins anew. */
export function joinLines(first: string, second: string): string {
  const ends = first.length < BROKEN && /^\p{Lu}/u.test(second) && !/[.:;,]$/.test(first);
  return `${first}${ends ? ". " : " "}${second}`;
}

/** Finds in free text what the other mail system said: its reply code, its enhanced status, and its words up to the next blank line, as one line. */
export function refusalIn(text: string): Refused {
  const lines = text
    .replace(/\r\n?/g, "\n")
    .split("\n")
    .map((line) => line.trim());
  const coded = lines.findIndex((line) => CODED.test(line));
  const from = Math.max(0, coded < 0 ? lines.findIndex((line) => line !== "") : coded);
  const blank = lines.indexOf("", from);
  const words = lines
    .slice(from, Math.max(from + 1, Math.min(from + 3, blank < 0 ? lines.length : blank)))
    .reduce(joinLines)
    .replace(/^(<<<|>>>|\.\.\. ?while talking to \S+|said:)\s*/i, "")
    .slice(0, MOST);
  const code = /(?:^|[^\d.])([45]\d\d)(?=[ -]|$)/.exec(coded < 0 ? "" : (lines[coded] ?? ""))?.[1];
  const status = /(?:^|[^\d.])([45]\.\d{1,3}\.\d{1,3})(?![\d.])/.exec(words)?.[1];
  return { words, code: code === undefined ? undefined : Number(code), status };
}
