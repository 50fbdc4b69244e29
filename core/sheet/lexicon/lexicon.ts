import { fold } from "../../text/fold";
import { isOneSlip } from "../../text/slip";
import { ALL_LANGUAGES } from "./allLanguages";
import type { Concept, Language } from "./language";

/** One thing that a word can mean, in one language. */
export interface Sense {
  concept: Concept;
  language: string;
  /** Whether the word only hints at it. */
  weak: boolean;
}

/** A word or phrase of a title that was looked up. `sureness` runs from 0 to 1. */
export interface Found {
  senses: readonly Sense[];
  /** How many words of the title it takes. */
  words: number;
  sureness: number;
}

/** The words of some languages, ready to be looked up. */
export interface Lexicon {
  languages: readonly Language[];
  exact: ReadonlyMap<string, readonly Sense[]>;
  /** Words that go by their beginning, by that beginning. */
  stems: ReadonlyMap<string, readonly Sense[]>;
  /** Words of five letters and more by length, for slips of typing. */
  byLength: ReadonlyMap<number, readonly string[]>;
  small: ReadonlyMap<string, readonly string[]>;
  totals: ReadonlySet<string>;
  /** The languages in which a given name is common. */
  given: ReadonlyMap<string, readonly string[]>;
  /** How many words the longest phrase has that begins with a word. */
  phrases: ReadonlyMap<string, number>;
  /** Single words that were looked up before: names in cells come over and over. */
  lookedUp: Map<string, Found | undefined>;
}

const SHORTEST_STEM = 3;
const SHORTEST_SLIP = 5;
const LONGEST_WORD = 40;
const MOST_KEPT = 20_000;

/** Makes a lexicon of the words of some languages. */
export function makeLexicon(languages: readonly Language[]): Lexicon {
  const exact = new Map<string, Sense[]>();
  const stems = new Map<string, Sense[]>();
  const small = new Map<string, string[]>();
  const given = new Map<string, string[]>();
  const totals = new Set<string>();
  const add = <Value>(to: Map<string, Value[]>, key: string, value: Value): void => {
    const found = to.get(key);
    if (found === undefined) to.set(key, [value]);
    else found.push(value);
  };
  const phrases = new Map<string, number>();
  for (const language of languages) {
    for (const [concept, words] of Object.entries(language.concepts) as [Concept, string][])
      for (const written of listed(words))
        for (const form of spellings(written.replace(/^\?|\*$/g, ""))) {
          const sense = { concept, language: language.code, weak: written.startsWith("?") };
          add(written.endsWith("*") ? stems : exact, form, sense);
          const words = form.split(" ");
          const first = words[0] ?? "";
          phrases.set(first, Math.max(phrases.get(first) ?? 1, words.length));
        }
    for (const word of listed(language.small)) add(small, fold(word), language.code);
    for (const word of listed(language.totals)) totals.add(fold(word.replaceAll("_", " ")));
    for (const name of listed(language.given)) add(given, fold(name), language.code);
  }
  const byLength = new Map<number, string[]>();
  for (const word of exact.keys())
    if (word.length >= SHORTEST_SLIP && !word.includes(" "))
      byLength.set(word.length, [...(byLength.get(word.length) ?? []), word]);
  return { languages, exact, stems, byLength, small, totals, given, phrases, lookedUp: new Map() };
}

let whole: Lexicon | undefined;

/** The words of all languages. */
export function lexicon(): Lexicon {
  whole ??= makeLexicon(ALL_LANGUAGES);
  return whole;
}

/**
 * Looks up the longest phrase that starts at a word of a title: as it is written, by its beginning, taken apart where words
 * are written together, or with one slip of typing.
 */
export function lookUp(
  words: readonly string[],
  from: number,
  { of }: { of: Lexicon },
): Found | undefined {
  const word = words[from] ?? "";
  for (let size = Math.min(of.phrases.get(word) ?? 1, words.length - from); size >= 1; size--) {
    const phrase = words.slice(from, from + size).join(" ");
    // A single letter counts things; by itself it is no word.
    const senses = phrase.length < 2 ? undefined : of.exact.get(phrase);
    if (senses !== undefined) return { senses, words: size, sureness: 1 };
  }
  const before = of.lookedUp.get(word);
  if (before !== undefined || of.lookedUp.has(word)) return before;
  const found = lookUpWord(word, of);
  if (of.lookedUp.size >= MOST_KEPT) of.lookedUp.clear();
  of.lookedUp.set(word, found);
  return found;
}

function lookUpWord(word: string, of: Lexicon): Found | undefined {
  if (word.length < SHORTEST_STEM || word.length > LONGEST_WORD) return undefined;
  const stem = byStem(word, of);
  if (stem !== undefined) return { senses: stem, words: 1, sureness: 0.9 };
  const parts = of.small.has(word) ? undefined : takeApart(word, of);
  if (parts !== undefined) return { senses: parts, words: 1, sureness: 0.9 };
  const slip = of.small.has(word) ? undefined : withSlip(word, of);
  return slip === undefined ? undefined : { senses: slip, words: 1, sureness: 0.7 };
}

function byStem(word: string, { stems }: Lexicon): readonly Sense[] | undefined {
  for (let length = word.length; length >= SHORTEST_STEM; length--) {
    const senses = stems.get(word.slice(0, length));
    if (senses !== undefined && word.length - length <= 7) return senses;
  }
  return undefined;
}

const LINKS = ["", "s", "n", "en", "er", "es", "e", "ns", "ens"];

/** The senses of a word that is several words written together, all in one language. */
function takeApart(word: string, of: Lexicon): readonly Sense[] | undefined {
  if (word.length < 6) return undefined;
  let best: { senses: Sense[]; parts: number } | undefined;
  for (const { code, compounds } of of.languages) {
    if (compounds !== true) continue;
    const parts = partsOf(word, code, of, new Map());
    if (
      parts !== undefined &&
      parts.length > 1 &&
      (best === undefined || parts.length < best.parts)
    )
      best = { senses: parts.flat(), parts: parts.length };
  }
  return best?.senses;
}

function partsOf(
  word: string,
  language: string,
  of: Lexicon,
  known: Map<string, Sense[][] | undefined>,
): Sense[][] | undefined {
  if (known.has(word)) return known.get(word);
  let best: Sense[][] | undefined;
  for (let length = word.length; length >= 2; length--) {
    const head = word.slice(0, length);
    const senses = (of.exact.get(head) ?? of.stems.get(head) ?? []).filter(
      (sense) => sense.language === language,
    );
    if (senses.length === 0) continue;
    if (length === word.length) {
      best = [senses];
      break;
    }
    for (const link of LINKS) {
      const rest = word.slice(length);
      if (!rest.startsWith(link) || rest.length - link.length < 3) continue;
      const behind = partsOf(rest.slice(link.length), language, of, known);
      if (behind !== undefined && (best === undefined || behind.length + 1 < best.length))
        best = [senses, ...behind];
    }
  }
  known.set(word, best);
  return best;
}

function withSlip(word: string, { exact, byLength }: Lexicon): readonly Sense[] | undefined {
  if (word.length < SHORTEST_SLIP) return undefined;
  for (const length of [word.length, word.length + 1, word.length - 1])
    for (const candidate of byLength.get(length) ?? [])
      if (isOneSlip(word, candidate)) return exact.get(candidate);
  return undefined;
}

function listed(words: string): string[] {
  return words.split(/\s+/).filter((word) => word !== "");
}

/** A word as it is compared; German umlauts are also written out. */
function spellings(word: string): string[] {
  const plain = fold(word.replaceAll("_", " "));
  const out = fold(
    word
      .replaceAll("_", " ")
      .toLowerCase()
      .replace(/[äæ]/g, "ae")
      .replace(/[öø]/g, "oe")
      .replace(/ü/g, "ue")
      .replace(/å/g, "aa"),
  );
  return plain === out ? [plain] : [plain, out];
}
