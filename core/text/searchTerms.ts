import { canonicalAddress } from "../address/domainName";
import { fold } from "./fold";

const MOST = 200;
/** More words than this tell nobody apart any better, and a database takes ever longer to plan a search for all of them. */
const MOST_WORDS = 6;

/**
 * Takes what somebody typed or pasted into a search apart: each line, or what stands between commas, semicolons or tabs, is
 * looked for by itself; several numbers in a row are several, too.
 *
 * @returns for each thing that is looked for its folded words, or one address
 */
export function searchTerms(text: string): string[][] {
  const terms = text
    .split(/[\n\r\t;,|]+/)
    .flatMap((part): string[][] => {
      const trimmed = part.trim();
      if (/\S@\S/.test(trimmed))
        return trimmed.split(/\s+/).map((address) => [canonicalAddress(address)]);
      const words = fold(part)
        .split(" ")
        .filter((word) => word !== "")
        .slice(0, MOST_WORDS);
      const pieces = trimmed.split(/\s+/);
      return pieces.length > 1 && pieces.every((piece) => /\d/.test(piece))
        ? pieces.map((piece) => fold(piece).split(" ").slice(0, MOST_WORDS))
        : [words];
    })
    .filter((words) => words.length > 0 && words.some((word) => word !== ""));
  return terms.slice(0, MOST);
}
