import IntlMessageFormat from "intl-messageformat";
import type { PlainValue } from "./message";

/** Texts by feature and by their own name there, in ICU MessageFormat. */
export type Catalogue = Readonly<Record<string, Readonly<Record<string, string>>>>;

/** The name of a text: the feature whose it is, and its own name there. */
export type IdOf<C extends Catalogue> = {
  [Feature in keyof C & string]: `${Feature}.${keyof C[Feature] & string}`;
}[keyof C & string];

/** The language of the catalogues: it decides about plurals and how lists are joined. */
export const LANGUAGE = "en-GB";

/** In which language texts are said, by its code, and the locale by which numbers and days are written in them. */
export interface Speech {
  language: string;
  locale: string;
  /** How the words themselves are spelled, for developers who look for words that are in no catalogue. */
  spell?: (words: string) => string;
}

let usual: Speech = { language: "en", locale: LANGUAGE };
let speechNow: () => Speech | undefined = () => undefined;

/** Writes numbers, days and lists in texts as a locale does, from now on. */
export function writeTextsAs(locale: string): void {
  usual = { ...usual, locale };
}

/** Says texts in a language from now on, with numbers and days as its locale has them. */
export function speakAs(speech: Speech): void {
  usual = speech;
}

/** Has a function tell, at each text, in which language it is said just there: several are spoken at once on a server. */
export function speakBy(now: () => Speech | undefined): void {
  speechNow = now;
}

/** Returns the language in which texts are said just here, and its locale. */
export function speechHere(): Speech {
  return speechNow() ?? usual;
}

/** By which plurals, weekdays and lists of a language are formed. */
export function grammarOf(language: string): string {
  return language === "en" ? LANGUAGE : language;
}

/** Whose texts a catalogue holds: core's, the server's or the pages'. */
export type Area = "core" | "server" | "web";

/** The texts of further languages. What one lacks is said in English. */
const translations = new Map<string, Partial<Record<Area, Catalogue>>>();

/** Adds texts of a language to those that it has. */
export function addLanguage(language: string, texts: Partial<Record<Area, Catalogue>>): void {
  const known = { ...translations.get(language) };
  for (const [area, added] of Object.entries(texts) as [Area, Catalogue][]) {
    const features = { ...known[area] };
    for (const [feature, named] of Object.entries(added))
      features[feature] = { ...features[feature], ...named };
    known[area] = features;
  }
  translations.set(language, known);
}

/** What writes numbers, plurals and days is costly to make, so it is made once for each way of writing. */
const writers = new Map<string, unknown>();

function writerOf<Writer>(kind: string, given: readonly unknown[], make: () => Writer): Writer {
  const key = `${kind} ${JSON.stringify(given)}`;
  let found = writers.get(key);
  if (found === undefined) {
    found = make();
    writers.set(key, found);
  }
  return found as Writer;
}

const FORMATTERS = {
  getNumberFormat: (...given: ConstructorParameters<typeof Intl.NumberFormat>) =>
    writerOf("number", given, () => new Intl.NumberFormat(...given)),
  getDateTimeFormat: (...given: ConstructorParameters<typeof Intl.DateTimeFormat>) =>
    writerOf("time", given, () => new Intl.DateTimeFormat(...given)),
};

/** Returns what writes a text of a language: its plurals are the language's, whatever the locale of its numbers. */
const formattersOf = (language: string) => ({
  ...FORMATTERS,
  getPluralRules: (_: unknown, options?: Intl.PluralRulesOptions) =>
    writerOf(
      "plural",
      [language, options],
      () => new Intl.PluralRules(grammarOf(language), options),
    ),
});

/** A text of a catalogue, ready to be filled. */
export interface Text {
  /** Returns its pieces: its own words, and what fills its places. */
  fill<Piece>(values: Readonly<Record<string, unknown>>): (string | Piece)[];
}

/**
 * Makes a text of ICU MessageFormat. Where a choice has the option `none`, that is for a value that is missing (null,
 * undefined or empty), and never for somebody who has typed this very word.
 */
function textOf(message: string, { language, locale, spell }: Speech): Text {
  const format = new IntlMessageFormat(message, locale, undefined, {
    formatters: formattersOf(language),
  });
  const missable = new Map<string, string>();
  const elements = format.getAst() as unknown as Element[];
  markChoices(elements, missable);
  if (spell !== undefined) spellWords(elements, spell);
  return {
    fill<Piece>(values: Readonly<Record<string, unknown>>) {
      const all: Record<string, unknown> = { ...values };
      for (const [name, choice] of missable)
        all[choice] = isMissing(values[name]) ? "none" : "other";
      return format
        .formatToParts<Piece>(all as Record<string, string>)
        .map(({ value }) => value as string | Piece);
    },
  };
}

/** The parser's number for a choice (`select`). */
const SELECT = 5;

/** An element of a parsed text, as far as choices go. */
interface Element {
  type: number;
  value: string;
  options?: Record<string, { value: Element[] }>;
  children?: Element[];
}

/** Has every choice that knows `none` look at a name of its own, which says whether its value is missing. */
function markChoices(elements: readonly Element[], missable: Map<string, string>): void {
  for (const element of elements) {
    const { options = {}, children = [] } = element;
    if (element.type === SELECT && "none" in options && Object.keys(options).length === 2) {
      missable.set(element.value, `${element.value} missing`);
      element.value = `${element.value} missing`;
    }
    for (const option of Object.values(options)) markChoices(option.value, missable);
    markChoices(children, missable);
  }
}

/** The parser's number for plain words. */
const WORDS = 0;

function spellWords(elements: readonly Element[], spell: (words: string) => string): void {
  for (const element of elements) {
    if (element.type === WORDS) element.value = spell(element.value);
    for (const option of Object.values(element.options ?? {})) spellWords(option.value, spell);
    spellWords(element.children ?? [], spell);
  }
}

function isMissing(value: unknown): boolean {
  return value === null || value === undefined || value === "";
}

/** Returns a function that finds the texts of a catalogue in the language that is spoken, ready to be filled. */
export function textsOf<C extends Catalogue>(catalogue: C, area: Area): (id: IdOf<C>) => Text {
  const made = new Map<string, Text>();
  return (id) => {
    const speech = speechHere();
    const key = `${speech.language} ${speech.locale} ${speech.spell?.name ?? ""} ${id}`;
    let found = made.get(key);
    if (found === undefined) {
      const at = id.indexOf(".");
      const [feature, name] = [id.slice(0, at), id.slice(at + 1)];
      const translated = translations.get(speech.language)?.[area]?.[feature]?.[name];
      found =
        translated === undefined
          ? textOf(catalogue[feature]?.[name] ?? id, { ...speech, language: "en" })
          : textOf(translated, speech);
      made.set(key, found);
    }
    return found;
  };
}

/** What ICU can choose by and count with. */
export type Written = string | number | boolean | null | undefined;

/**
 * Returns a function that says a text of a catalogue with its places filled.
 *
 * @param write returns what fills a place for a value
 */
export function sayerOf<C extends Catalogue, Value>(
  catalogue: C,
  area: Area,
  write: (value: Value) => Written,
): (id: IdOf<C>, values?: Readonly<Record<string, Value>>) => string {
  const find = textsOf(catalogue, area);
  return (id, values = {}) =>
    find(id)
      .fill<never>(
        Object.fromEntries(Object.entries(values).map(([name, value]) => [name, write(value)])),
      )
      .join("");
}

/** Returns what ICU can choose by and count with, or the words for a day or a time. */
export function plainly(value: PlainValue): Written {
  if (typeof value !== "object" || value === null) return value;
  const { language, locale } = speechHere();
  if ("weekday" in value)
    // 1 January 2024 was a Monday.
    return FORMATTERS.getDateTimeFormat(grammarOf(language), {
      weekday: "long",
      timeZone: "UTC",
    }).format(Date.UTC(2024, 0, value.weekday));
  const isDay = "day" in value;
  return FORMATTERS.getDateTimeFormat(locale, {
    timeZone: "UTC",
    day: "numeric",
    month: "short",
    year: "numeric",
    ...(isDay ? {} : { hour: "2-digit", minute: "2-digit" }),
  }).format(new Date(isDay ? `${value.day}T00:00:00Z` : `${value.localTime}:00Z`));
}
