import { readFileSync } from "node:fs";
import IntlMessageFormat from "intl-messageformat";
import { expect, test } from "vitest";
import { coreTexts } from "../english/core";
import { serverTexts } from "../english/server";
import { webTexts } from "../english/web";
import type { Area, Catalogue } from "../texts";

const ENGLISH: Record<Area, Catalogue> = { core: coreTexts, server: serverTexts, web: webTexts };

/** Every text of a folder of catalogues, such as `de` or `de/staff`, by its area, feature and name. */
export function textsOf(folder: string): Map<string, string> {
  const all = new Map<string, string>();
  for (const area of ["core", "server", "web"] as const) {
    const file = new URL(`../${folder}/${area}.json`, import.meta.url);
    const catalogue = JSON.parse(readFileSync(file, "utf8")) as Catalogue;
    for (const [feature, texts] of Object.entries(catalogue))
      for (const [name, text] of Object.entries(texts)) all.set(`${area}.${feature}.${name}`, text);
  }
  return all;
}

/** Every English text. */
export const englishTexts: ReadonlyMap<string, string> = new Map(
  Object.entries(ENGLISH).flatMap(([area, catalogue]) =>
    Object.entries(catalogue).flatMap(([feature, texts]) =>
      Object.entries(texts).map(([name, text]) => [`${area}.${feature}.${name}`, text] as const),
    ),
  ),
);

interface Part {
  type: number;
  value: string;
  options?: Record<string, { value: Part[] }>;
  children?: Part[];
}

/** The places of a text, its tags, the forms of each of its plurals by their places, and what it says besides the values. */
function made(text: string, language: string) {
  const [places, tags] = [new Set<string>(), new Set<string>()];
  const plurals: { place: string; forms: string[] }[] = [];
  let words = "";
  const walk = (parts: readonly Part[]): void => {
    for (const { type, value, options, children } of parts) {
      if (type === 0) words += value;
      if (type >= 1 && type <= 6 && typeof value === "string") places.add(value);
      if (type === 8) tags.add(value);
      // A choice between one and several asks for the number's own form within.
      const isOuter = Object.values(options ?? {}).some(({ value: parts }) =>
        parts.some((part) => part.type === 6),
      );
      if (type === 6 && !isOuter) plurals.push({ place: value, forms: Object.keys(options ?? {}) });
      for (const option of Object.values(options ?? {})) walk(option.value);
      walk(children ?? []);
    }
  };
  walk(new IntlMessageFormat(text, language).getAst() as unknown as Part[]);
  return { places, tags, plurals, words: words.replace(/\{[^}]*\}/g, "") };
}

export const sorted = (set: Iterable<string>): string[] => [...set].sort();

/**
 * Tests that a language says what English says: with the same values and tags, in every plural form, and not in English.
 *
 * @param same texts with words that are the same in both languages
 */
export function testLikeEnglish(
  texts: ReadonlyMap<string, string>,
  language: string,
  same: readonly string[],
): void {
  const english = (id: string): string => englishTexts.get(id) ?? "";

  test("want the values of the English ones, between the same tags", () => {
    for (const [id, text] of texts) {
      const [here, there] = [made(text, language), made(english(id), "en")];
      expect([id, sorted(here.places)]).toEqual([id, sorted(there.places)]);
      expect([id, sorted(here.tags)]).toEqual([id, sorted(there.tags)]);
    }
  });

  test("have every form that the language has for a whole number, where English tells one from many", () => {
    const rules = new Intl.PluralRules(language);
    const wanted = new Set(Array.from({ length: 200 }, (_, count) => rules.select(count + 1)));
    for (const [id, text] of texts) {
      const there = made(english(id), "en").plurals;
      const isAlike = (place: string): boolean =>
        there.every((plural) => plural.place !== place || !plural.forms.includes("one"));
      for (const { place, forms } of made(text, language).plurals)
        if (!isAlike(place))
          expect([id, [...wanted].filter((form) => !forms.includes(form))]).toEqual([id, []]);
    }
  });

  test("are not left in English, and neither empty nor with spaces that nobody wants", () => {
    const kept = [...texts]
      .filter(([id, text]) => text === english(id))
      .map(([, text]) => text)
      .filter((text) => /\p{L}{3}/u.test(made(text, language).words));
    expect(sorted(new Set(kept))).toEqual(sorted(same));
    expect([...texts].filter(([id, text]) => !/\S/.test(text) && /\S/.test(english(id)))).toEqual(
      [],
    );
    expect(
      [...texts].filter(([id, text]) => /\S {2}|\t/.test(text) && !/ {2}/.test(english(id))),
    ).toEqual([]);
  });
}
