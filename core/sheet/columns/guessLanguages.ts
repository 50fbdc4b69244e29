import { lookUp, type Lexicon } from "../lexicon/lexicon";
import type { Languages } from "./titleReading";
import { splitTitle } from "./splitTitle";

/** How likely each language is, by the words of the titles and, lightly, the given names in the cells. */
export function guessLanguages(
  titles: readonly string[],
  cells: readonly string[],
  of: Lexicon,
): Languages {
  const points = new Map<string, number>();
  const add = (codes: Iterable<string>, weight: number): void => {
    const known = new Set(codes);
    for (const code of known) points.set(code, (points.get(code) ?? 0) + weight / known.size);
  };
  for (const title of titles) {
    const words = splitTitle(title);
    for (let at = 0; at < words.length;) {
      const found = lookUp(words, at, { of });
      if (found !== undefined)
        add(
          found.senses.map(({ language }) => language),
          found.sureness * 2,
        );
      const small = of.small.get(words[at] ?? "");
      if (small !== undefined) add(small, 1);
      at += found?.words ?? 1;
    }
  }
  let named = 0;
  const names = new Map<string, number>();
  for (const cell of cells)
    for (const code of of.given.get(cell) ?? []) {
      named++;
      names.set(code, (names.get(code) ?? 0) + 1);
    }
  for (const [code, count] of names)
    points.set(code, (points.get(code) ?? 0) + (2 * count) / named);
  const most = Math.max(0, ...points.values());
  return new Map([...points].map(([code, count]) => [code, most === 0 ? 0 : count / most]));
}
