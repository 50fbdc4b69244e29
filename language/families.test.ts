import { readFileSync } from "node:fs";
import IntlMessageFormat from "intl-messageformat";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { coreTexts } from "./english/core";
import { serverTexts } from "./english/server";
import { webTexts } from "./english/web";
import { acceptedLanguage, FAMILY_LANGUAGES, familyLanguage, isRightToLeft } from "./families";
import { say } from "./say";
import { message } from "./message";
import { addLanguage, sayerOf, speakAs, LANGUAGE, type Area, type Catalogue } from "./texts";
import { FAMILY_TEXTS } from "./translations";

const ENGLISH: Record<Area, Catalogue> = { core: coreTexts, server: serverTexts, web: webTexts };
const FURTHER = FAMILY_LANGUAGES.filter((language) => language !== "en");

/** Every text of a language, by its area, feature and name. */
function textsOf(language: string): Map<string, string> {
  const all = new Map<string, string>();
  for (const area of ["core", "server", "web"] as const) {
    const file = new URL(`./${language}/${area}.json`, import.meta.url);
    const catalogue = JSON.parse(readFileSync(file, "utf8")) as Catalogue;
    for (const [feature, texts] of Object.entries(catalogue))
      for (const [name, text] of Object.entries(texts)) all.set(`${area}.${feature}.${name}`, text);
  }
  return all;
}

const english = (id: string): string | undefined => {
  const [area, feature = "", name = ""] = id.split(".");
  return ENGLISH[area as Area][feature]?.[name];
};

interface Part {
  type: number;
  value: string;
  options?: Record<string, { value: Part[] }>;
  children?: Part[];
}

/** The places of a text, its tags, and the forms of each of its plurals. */
function made(text: string, language: string) {
  const [places, tags, plurals] = [new Set<string>(), new Set<string>(), [] as string[][]];
  const walk = (parts: readonly Part[]): void => {
    for (const { type, value, options, children } of parts) {
      if (type >= 1 && type <= 6 && typeof value === "string") places.add(value);
      if (type === 8) tags.add(value);
      // A choice between one and several asks for the number's own form within.
      const isOuter = Object.values(options ?? {}).some(({ value: parts }) =>
        parts.some((part) => part.type === 6),
      );
      if (type === 6 && !isOuter) plurals.push(Object.keys(options ?? {}));
      for (const option of Object.values(options ?? {})) walk(option.value);
      walk(children ?? []);
    }
  };
  walk(new IntlMessageFormat(text, language).getAst() as unknown as Part[]);
  return { places, tags, plurals };
}

const sorted = (set: Iterable<string>): string[] => [...set].sort();
const all = new Map(FURTHER.map((language) => [language, textsOf(language)] as const));

describe.each(FURTHER)("the texts of families in %s", (language) => {
  const texts = all.get(language) ?? new Map<string, string>();

  test("are those that every other language has, and English, too", () => {
    expect(sorted(texts.keys())).toEqual(sorted(all.get("de")?.keys() ?? []));
    expect([...texts.keys()].filter((id) => english(id) === undefined)).toEqual([]);
  });

  test("want the values of the English ones, between the same tags", () => {
    for (const [id, text] of texts) {
      const [here, there] = [made(text, language), made(english(id) ?? "", "en")];
      expect([id, sorted(here.places)]).toEqual([id, sorted(there.places)]);
      expect([id, sorted(here.tags)]).toEqual([id, sorted(there.tags)]);
    }
  });

  test("have every form that the language has for a whole number", () => {
    const rules = new Intl.PluralRules(language);
    const wanted = new Set(Array.from({ length: 200 }, (_, count) => rules.select(count + 1)));
    for (const [id, text] of texts)
      for (const has of made(text, language).plurals)
        expect([id, [...wanted].filter((form) => !has.includes(form))]).toEqual([id, []]);
  });

  test("are not left in English, and neither empty nor with spaces that nobody wants", () => {
    const kept = [...texts].filter(([id, text]) => text === english(id)).map(([, text]) => text);
    // What has no words but the values', and words that are alike.
    expect(kept.filter((text) => /\p{L}{3}/u.test(text.replace(/\{\w+\}/g, "")))).toEqual([
      ...(SAME[language] ?? []),
      "{title} · Amigo",
    ]);
    for (const text of texts.values()) expect(text).toMatch(/\S/);
    expect([...texts.values()].filter((text) => /  |\t/.test(text))).toEqual([]);
  });
});

/** Words that are the same in English. */
const SAME: Record<string, string[]> = {
  de: ["Online: {link}"],
  fr: ["Versions"],
  pl: ["Online: {link}", "link"],
};

describe("a language of families", () => {
  test.each([
    ["de-AT", "de"],
    ["UK", "uk"],
    ["ar-EG", "ar"],
    ["pt-BR", undefined],
    ["", undefined],
  ])("of %j is %s", (tag, language) => {
    expect(familyLanguage(tag)).toBe(language);
  });

  test.each([
    ["de-CH,de;q=0.9,en;q=0.8", "de"],
    ["pt;q=1,tr;q=0.4,pl;q=0.5", "pl"],
    ["ja, nl;q=0.5", undefined],
    ["ar;q=0, fr;q=0.1", "fr"],
    ["", undefined],
  ])("that %j asks for is %s", (accept, language) => {
    expect(acceptedLanguage(accept)).toBe(language);
  });

  test("is found in whatever a browser sends, without a fault", () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 3000 }), (accept) => {
        const found = acceptedLanguage(accept);
        return found === undefined || FAMILY_LANGUAGES.includes(found);
      }),
    );
  });

  test("says from which side it is written", () => {
    expect(FAMILY_LANGUAGES.filter(isRightToLeft)).toEqual(["ar"]);
  });
});

describe("what is spoken", () => {
  const t = sayerOf(serverTexts, "server", (value: string | number) => value);

  test("is the language that was set, with its own plurals, else English", () => {
    for (const [language, texts] of Object.entries(FAMILY_TEXTS)) addLanguage(language, texts);
    speakAs({ language: "pl", locale: "pl-PL" });
    const mails = [1, 3, 5].map((all) =>
      say(message("mail.titleAllMailMails", { title: "X", all })),
    );
    expect(mails).toEqual(["X: 1 wiadomość", "X: 3 wiadomości", "X: 5 wiadomości"]);
    expect(t("leave.youHaveLeftTheList")).toBe("Opuścili Państwo listę");
    expect(t("leave.discard")).toBe("Discard");
    speakAs({ language: "en", locale: LANGUAGE });
    expect(t("leave.youHaveLeftTheList")).toBe("You have left the list");
  });

  test("writes days as the language does", () => {
    speakAs({ language: "uk", locale: "uk-UA" });
    expect(t("forms.opensOn", { day: "1 вересня" })).toBe("Її можна заповнити з 1 вересня.");
    expect(say({ day: "2026-09-01" })).toMatch(/вер/);
    speakAs({ language: "en", locale: LANGUAGE });
  });
});
