import { createRequire } from "node:module";
import bidiFactory from "bidi-js";

const require = createRequire(import.meta.url);
const bidi = bidiFactory();

const fileOf = (family: string, subset: string): string =>
  require.resolve(`@fontsource/${family}/files/${family}-${subset}-400-normal.woff`);

/** Letters of this file join, and go from right to left. */
const ARABIC = fileOf("noto-sans-arabic", "arabic");

/** The font files, with the letters for which each is taken: the first that has one. */
const FONTS: readonly { file: string; holds: RegExp }[] = [
  {
    file: fileOf("atkinson-hyperlegible-next", "latin"),
    holds: /[\u0000-\u00FF\u0131\u0152\u0153\u02C6\u02DA\u02DC\u2000-\u206F\u20AC\u2122]/,
  },
  {
    file: fileOf("atkinson-hyperlegible-next", "latin-ext"),
    holds: /[\u0100-\u02AF\u1E00-\u1EFF\u20A0-\u20CF]/,
  },
  {
    file: ARABIC,
    holds: /[\u0600-\u06FF\u0750-\u077F\u08A0-\u08FF\uFB50-\uFDFF\uFE70-\uFEFF]/,
  },
  { file: fileOf("noto-sans", "cyrillic"), holds: /[\u0400-\u045F\u0490\u0491\u04B0\u04B1\u2116]/ },
  { file: fileOf("noto-sans", "cyrillic-ext"), holds: /[\u0460-\u052F\u1C80-\u1C88\u2DE0-\u2DFF]/ },
  { file: fileOf("noto-sans", "greek"), holds: /[\u0370-\u03FF]/ },
  { file: fileOf("noto-sans", "greek-ext"), holds: /[\u1F00-\u1FFF]/ },
  { file: fileOf("noto-sans", "devanagari"), holds: /[\u0900-\u097F]/ },
];

/** The font file in which plain text is written. */
export const PLAIN = FONTS[0]?.file ?? "";

/** Returns the font file that holds a letter; for letters of none, the plain one, which shows a box. */
export function fontOf(letter: string): string {
  return FONTS.find(({ holds }) => holds.test(letter))?.file ?? PLAIN;
}

/** Whether a text has letters of other alphabets than the Latin one, so that lines are laid out here. */
export function isOtherScript(text: string): boolean {
  return Array.from(text).some(
    (letter) => !/[\u0000-\u02DC\u1E00-\u206F\u20A0-\u2122]/.test(letter),
  );
}

/** A piece of a line, written in one font. */
export interface Piece {
  text: string;
  font: string;
  /** Whether its letters stand in the order in which they are read, and the font joins them and turns them around. */
  turned: boolean;
}

/** A line of a paragraph: its pieces from left to right, and how wide they are. */
export interface Line {
  pieces: Piece[];
  width: number;
}

/** More letters than any line holds: a longer word is not measured as a whole. */
const LONGEST = 600;

/** Returns how wide a piece is. */
export type Measure = (piece: Piece) => number;

/**
 * Lays a paragraph out in lines, in any script: broken at spaces, or within a word that is too long for a line, and each in the
 * order in which it is read (Unicode Standard Annex 9).
 *
 * @returns the lines, and whether the paragraph begins at the right
 */
export function layOut(
  text: string,
  width: number,
  measure: Measure,
): { lines: Line[]; fromRight: boolean } {
  const found = bidi.getEmbeddingLevels(text);
  const { levels } = found;
  const isRight = (at: number): boolean => ((levels[at] ?? 0) & 1) === 1;
  /** The pieces of letters that stand in an order from left to right. */
  const piecesOf = (order: readonly number[]): Piece[] => {
    const pieces: (Piece & { last: number; right: boolean })[] = [];
    for (const at of order) {
      const right = isRight(at);
      const written = text[at] ?? "";
      const letter = right ? (bidi.getMirroredCharacter(written) ?? written) : written;
      const font = /[\uD800-\uDFFF]/.test(letter) ? PLAIN : fontOf(letter);
      const before = pieces.at(-1);
      const goesOn =
        before?.font === font && before.right === right && at === before.last + (right ? -1 : 1);
      if (!goesOn)
        pieces.push({ text: letter, font, turned: right && font === ARABIC, right, last: at });
      else {
        before.text = before.turned ? `${letter}${before.text}` : `${before.text}${letter}`;
        before.last = at;
      }
    }
    return pieces.map(({ text: letters, font, turned }) => ({ text: letters, font, turned }));
  };
  const range = (from: number, to: number): number[] =>
    Array.from({ length: to - from }, (_, at) => from + at);
  const inOrder = (from: number, to: number): number[] => {
    const order = range(from, to);
    for (const [first = 0, last = 0] of bidi.getReorderSegments(text, found, from, to - 1))
      order.splice(
        first - from,
        last - first + 1,
        ...order.slice(first - from, last - from + 1).reverse(),
      );
    return order;
  };
  const widthOf = (from: number, to: number): number =>
    piecesOf(inOrder(from, to)).reduce((sum, piece) => sum + measure(piece), 0);

  const isTooLong = (from: number, to: number): boolean =>
    to - from > LONGEST || widthOf(from, to) > width;

  const lines: Line[] = [];
  const end = (from: number, to: number): void => {
    const shown = from + text.slice(from, to).trimEnd().length;
    const pieces = shown > from ? piecesOf(inOrder(from, shown)) : [];
    lines.push({ pieces, width: pieces.reduce((sum, piece) => sum + measure(piece), 0) });
  };
  let from = 0;
  let to = 0;
  for (const word of text.match(/\S+\s*|\s+/g) ?? []) {
    const bare = to + word.trimEnd().length;
    if (to > from && isTooLong(from, bare)) {
      end(from, to);
      from = to;
    }
    // A word that is longer than a line is broken where the line is full.
    while (bare > from + 1 && isTooLong(from, bare)) {
      let full = from + 1;
      while (full + 1 < bare && widthOf(from, full + 1) <= width) full++;
      end(from, full);
      from = full;
    }
    to += word.length;
  }
  end(from, text.length);
  return { lines, fromRight: ((found.paragraphs[0]?.level ?? 0) & 1) === 1 };
}
