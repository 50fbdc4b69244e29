import { fold } from "../../text/fold";
import { tidyLine } from "../../text/tidy";
import { lexicon, type Lexicon } from "../lexicon/lexicon";
import type { TitleReading } from "./titleReading";

/** Which part of a whole name stands first. */
export type NameOrder = "family first" | "given first";

const SAMPLE = 300;
const DECIDED = 0.12;

/**
 * Tells in which order a column writes whole names without a comma: by its title, by capitals, by common given names, by
 * words that a row's other people share, by addresses, by what the rows are sorted by. The trade's usual order where nothing tells.
 *
 * @param surnames for each cell words that are probably surnames there, folded
 * @param boxes    for each cell the parts in front of the @ of the row's addresses
 * @param isOwn    whether these addresses are this person's own; else they share the surname at most
 */
export function nameOrder(
  cells: readonly string[],
  surnames: readonly ReadonlySet<string>[],
  { boxes, isOwn }: { boxes: readonly string[]; isOwn: boolean },
  title: TitleReading["order"],
  of: Lexicon = lexicon(),
): NameOrder {
  let points = title === "family first" ? 0.5 : title === "given first" ? -0.5 : 0;
  const sums = { caps: 0, given: 0, shared: 0, boxed: 0 };
  const firsts: string[] = [];
  const lasts: string[] = [];
  const step = Math.max(1, Math.floor(cells.length / SAMPLE));
  for (let row = 0; row < cells.length; row += step) {
    const ends = endsOf(cells[row] ?? "");
    if (ends === undefined) continue;
    const folded = { first: fold(ends.first), last: fold(ends.last) };
    const surname = surnames[row];
    const box = boxes[row] ?? "";
    sums.caps += firstRather(isCaps(ends.first), isCaps(ends.last));
    sums.given += firstRather(isGiven(ends.last, of), isGiven(ends.first, of));
    sums.shared += firstRather(
      surname?.has(folded.first) === true,
      surname?.has(folded.last) === true,
    );
    sums.boxed += (isOwn ? inBox : familyInBox)(folded.first, folded.last, box);
    firsts.push(folded.first);
    lasts.push(folded.last);
  }
  const rows = firsts.length;
  if (rows === 0) return "given first";
  points +=
    (sums.caps / rows) * 4 +
    (sums.given / rows) * 1.6 +
    (sums.shared / rows) * 2.5 +
    (sums.boxed / rows) * 1;
  if (rows >= 8) points += (sortedness(firsts) - sortedness(lasts)) * 0.5;
  return points > DECIDED ? "family first" : "given first";
}

/** The first and the last word of a name; undefined where it has one word, or a comma that tells them apart. */
function endsOf(cell: string): { first: string; last: string } | undefined {
  const words = tidyLine(cell.slice(0, 120)).split(" ");
  const first = words[0] ?? "";
  return words.length < 2 || cell.slice(0, 120).includes(",")
    ? undefined
    : { first, last: words[words.length - 1] ?? "" };
}

/** 1 where something speaks for the first word as the surname and not for the last, -1 the other way round. */
function firstRather(first: boolean, last: boolean): number {
  return first === last ? 0 : first ? 1 : -1;
}

function isCaps(word: string): boolean {
  return /^\p{Lu}[\p{Lu}'’-]+$/u.test(word);
}

function isGiven(word: string, of: Lexicon): boolean {
  return of.given.has(fold(word).split(" ")[0] ?? "");
}

/** `ana.vega@…` has the given name first, mostly. */
function inBox(first: string, last: string, boxes: string): number {
  for (const box of boxes.split(" ")) {
    const parts = box
      .toLowerCase()
      .split(/[._-]+/)
      .map(fold);
    if (parts.length !== 2) continue;
    if (parts[0] === first && parts[1] === last) return -1;
    if (parts[0] === last && parts[1] === first) return 1;
  }
  return 0;
}

/** Of a child's name only the surname stands in a parent's address. */
function familyInBox(first: string, last: string, boxes: string): number {
  const box = fold(boxes).replaceAll(" ", "");
  const [hasFirst, hasLast] = [first, last].map((word) => word.length > 3 && box.includes(word));
  return hasFirst === hasLast ? 0 : hasFirst === true ? 1.5 : -1.5;
}

/** How well texts are sorted, 0 (by chance) to 1. */
function sortedness(texts: readonly string[]): number {
  let rising = 0;
  for (let at = 1; at < texts.length; at++)
    if ((texts[at - 1] ?? "") <= (texts[at] ?? "")) rising++;
  return Math.max(0, (rising / Math.max(1, texts.length - 1) - 0.6) / 0.4);
}
