import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { serverTexts } from "./english/server";
import { acceptedLanguage, FAMILY_LANGUAGES, familyLanguage, isRightToLeft } from "./families";
import { say } from "./say";
import { message } from "./message";
import { englishTexts, sorted, testLikeEnglish, textsOf } from "./testing/likeEnglish";
import { addLanguage, sayerOf, speakAs, LANGUAGE } from "./texts";
import { FAMILY_TEXTS } from "./translations";

const FURTHER = FAMILY_LANGUAGES.filter((language) => language !== "en");
const all = new Map(FURTHER.map((language) => [language, textsOf(language)] as const));

/** Words that are the same in English. */
const SAME: Record<string, string[]> = {
  de: ["Online: {link}"],
  fr: ["Versions"],
  pl: ["Online: {link}", "link"],
};

describe.each(FURTHER)("the texts of families in %s", (language) => {
  const texts = all.get(language) ?? new Map<string, string>();

  test("are those that every other language has, and English, too", () => {
    expect(sorted(texts.keys())).toEqual(sorted(all.get("de")?.keys() ?? []));
    expect([...texts.keys()].filter((id) => !englishTexts.has(id))).toEqual([]);
  });

  testLikeEnglish(texts, language, [...(SAME[language] ?? []), "{title} · Amigo"]);
});

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
