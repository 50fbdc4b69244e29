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

/** The house's locale: it decides how numbers and days are written. */
let locale = LANGUAGE;

/** Writes numbers, days and lists in texts as a locale does, from now on. */
export function writeTextsAs(wanted: string): void {
  locale = wanted;
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
  getPluralRules: (_: unknown, options?: Intl.PluralRulesOptions) =>
    writerOf("plural", [options], () => new Intl.PluralRules(LANGUAGE, options)),
};

/** A text of a catalogue, ready to be filled. */
export interface Text {
  /** Returns its pieces: its own words, and what fills its places. */
  fill<Piece>(values: Readonly<Record<string, unknown>>): (string | Piece)[];
}

/**
 * Makes a text of ICU MessageFormat. Where a choice has the option `none`, that is for a value that is missing (null,
 * undefined or empty), and never for somebody who has typed this very word.
 */
function textOf(message: string): Text {
  const format = new IntlMessageFormat(message, locale, undefined, { formatters: FORMATTERS });
  const missable = new Map<string, string>();
  markChoices(format.getAst() as unknown as Element[], missable);
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

function isMissing(value: unknown): boolean {
  return value === null || value === undefined || value === "";
}

/** Returns a function that finds the texts of a catalogue, ready to be filled. */
export function textsOf<C extends Catalogue>(catalogue: C): (id: IdOf<C>) => Text {
  const made = new Map<string, Text>();
  let madeFor = locale;
  return (id) => {
    if (madeFor !== locale) {
      made.clear();
      madeFor = locale;
    }
    let found = made.get(id);
    if (found === undefined) {
      const at = id.indexOf(".");
      found = textOf(catalogue[id.slice(0, at)]?.[id.slice(at + 1)] ?? id);
      made.set(id, found);
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
  write: (value: Value) => Written,
): (id: IdOf<C>, values?: Readonly<Record<string, Value>>) => string {
  const find = textsOf(catalogue);
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
  if ("weekday" in value)
    // 1 January 2024 was a Monday.
    return FORMATTERS.getDateTimeFormat(LANGUAGE, { weekday: "long", timeZone: "UTC" }).format(
      Date.UTC(2024, 0, value.weekday),
    );
  const isDay = "day" in value;
  return FORMATTERS.getDateTimeFormat(locale, {
    timeZone: "UTC",
    day: "numeric",
    month: "short",
    year: "numeric",
    ...(isDay ? {} : { hour: "2-digit", minute: "2-digit" }),
  }).format(new Date(isDay ? `${value.day}T00:00:00Z` : `${value.localTime}:00Z`));
}
