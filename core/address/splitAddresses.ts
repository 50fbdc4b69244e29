import { withoutInvisible } from "../text/tidy";
import { trimSigns } from "../text/trimSigns";

/** Pieces that look like addresses, in the order written, with the name beside each, and the texts left over. */
export interface SplitAddresses {
  pieces: string[];
  /** The name that stands before each piece, or in brackets behind it; empty where there is none. */
  names: string[];
  leftOver: string[];
}

/** What can't stand inside an address in running text. */
const BOUNDARY = /[\s@,;|<>"()[\]]/;
/** What separates one entry of a list from the next, beside a comma. */
const SEPARATOR = /[;|\t\n\r]/;
/** Words that join two addresses and are nobody's name, in a few languages. */
const JOINING = /^(?:and|or|und|oder|et|ou|y|e|o|en|och|og|oraz|i|a|ve|ja|&|\+|\/|cc|mailto)$/i;
const LONGEST_NAME = 80;

/**
 * Takes several addresses in one text apart, whatever stands between them: commas, semicolons, spaces, tabs, line breaks,
 * dots followed by a space, words such as "and", `"Name" <address>`. Each piece still has to be read with `readAddress`;
 * what is neither address nor name is given back, so that nothing goes missing. Takes time in proportion to the text.
 */
export function splitAddresses(text: string): SplitAddresses {
  const rest = withoutInvisible(text);
  const split: SplitAddresses = { pieces: [], names: [], leftOver: [] };
  let from = 0;
  let next = 0;
  for (let at = rest.indexOf("@"); at >= 0; at = rest.indexOf("@", next)) {
    let last = at;
    while (rest[last + 1] === "@") last++;
    next = last + 1;
    const found = addressAround(rest, { first: at, last }, from);
    if (found === undefined) continue;
    const before = rest.slice(from, found.start);
    const { name, leftOver } = nameBefore(before, rest[found.start - 1] === "<");
    split.leftOver.push(...leftOver);
    const behind = name === "" ? inBrackets(rest, found.end) : undefined;
    split.pieces.push(found.piece);
    split.names.push(name === "" ? (behind?.name ?? "") : name);
    from = behind?.end ?? found.end;
    next = Math.max(next, from);
  }
  split.leftOver.push(...scraps(rest.slice(from)));
  return split;
}

/** The address around an @, or several in a row, with where it starts and ends; a space beside the @ belongs to it. */
function addressAround(
  text: string,
  { first: at, last }: { first: number; last: number },
  from: number,
): { piece: string; start: number; end: number } | undefined {
  let left = at;
  if (left > from + 1 && text[left - 1] === " " && !BOUNDARY.test(text[left - 2] ?? " ")) left--;
  const boxEnd = left;
  while (left > from && !BOUNDARY.test(text[left - 1] ?? " ")) left--;
  let right = last + 1;
  if (text[right] === " " && !BOUNDARY.test(text[right + 1] ?? " ")) right++;
  const domainStart = right;
  while (right < text.length && !BOUNDARY.test(text[right] ?? " ")) right++;
  if (left === boxEnd || right === domainStart) return undefined;
  const domain = text.slice(domainStart, right);
  const behind = endBehindComma(text, right, domain);
  const box = text.slice(left, boxEnd).replace(/^mailto:/i, "");
  const signs = text.slice(at, domainStart).replace(/ /g, "");
  return {
    piece: `${box}${signs}${`${domain}${behind.text}`.replace(/\.$/, "")}`,
    start: left,
    end: right + behind.length,
  };
}

/** The end of a domain whose dot was typed as a comma, `oakmail,example`; empty where there is none. */
function endBehindComma(
  text: string,
  at: number,
  domain: string,
): { text: string; length: number } {
  const none = { text: "", length: 0 };
  if (text[at] !== "," || domain.includes(".")) return none;
  const end = /^, ?([a-z]{2,20})(?=$|[\s;|<>")])/i.exec(text.slice(at, at + 24));
  if (end === null || JOINING.test(end[1] ?? "")) return none;
  return { text: `,${end[1] ?? ""}`, length: end[0].length };
}

/** The name at the end of what stands before an address, and what is left of it. */
function nameBefore(before: string, bracketed: boolean): { name: string; leftOver: string[] } {
  let start = 0;
  for (let at = before.length - 1; at >= 0; at--)
    if (SEPARATOR.test(before[at] ?? "")) {
      start = at + 1;
      break;
    }
  const last = before.slice(start).replace(/^[\s,.>)]+/, "");
  const name = last.length > LONGEST_NAME * 2 ? undefined : nameIn(last, bracketed);
  return name === undefined
    ? { name: "", leftOver: scraps(before) }
    : { name, leftOver: scraps(before.slice(0, start)) };
}

/** A text as somebody's name; undefined where it is none. */
function nameIn(text: string, bracketed: boolean): string | undefined {
  const bare = trimSigns(text, " \t\"'<([:=–—-").replace(/\s+/g, " ");
  const words = bare.split(" ").filter((word) => !JOINING.test(word.replace(/[:,]/g, "")));
  if (bare === "" || words.length === 0) return "";
  const name = words[0] === bare.split(" ")[0] ? bare : words.join(" ");
  if (bracketed) return name.slice(0, LONGEST_NAME);
  const isName =
    name.length <= LONGEST_NAME &&
    words.length <= 6 &&
    name.split(",").length <= 2 &&
    /^[\p{L}\p{M}' ,.’-]+$/u.test(name) &&
    !/^\p{Ll}/u.test(name);
  return isName ? name : undefined;
}

/** A word in brackets right behind an address: `mora@oakmail.example (grandmother)`. */
function inBrackets(text: string, from: number): { name: string; end: number } | undefined {
  const found = /^>? ?\(([^()@\n]{1,60})\)/.exec(text.slice(from, from + 70));
  return found === null
    ? undefined
    : { name: (found[1] ?? "").trim(), end: from + found[0].length };
}

function scraps(text: string): string[] {
  return text
    .split(/[,;|\t\n\r]+/)
    .map((part) => trimSigns(part, ' ."<>()[]'))
    .filter((part) => part !== "" && !JOINING.test(part.replace(/:$/, "")));
}
