import { describe, expect, test } from "vitest";
import { languageName } from "../text/languageName";
import { inTurnFor, joinVersions, type Version } from "./versions";

const ENGLISH: Version = {
  language: "en",
  subject: "No training",
  text: "No training on Friday.\n",
  html: "<p>No training on Friday.</p>",
};
const ARABIC: Version = {
  language: "ar",
  subject: "لا تدريب",
  text: "لا تدريب يوم الجمعة.",
  html: "<p>لا تدريب يوم الجمعة.</p>",
};
const SPANISH: Version = { ...ENGLISH, language: "es", text: "No hay.", html: "<p>No hay.</p>" };

describe("a mail in several languages", () => {
  test.each([
    ["en", ["en", "ar", "es"]],
    ["ar", ["ar", "en", "es"]],
    ["es", ["es", "en", "ar"]],
    ["uk", ["en", "ar", "es"]],
  ])("for a reader of %s has them in the order %j", (language, order) => {
    const turn = inTurnFor([ENGLISH, ARABIC, SPANISH], language);
    expect(turn.map((version) => version.language)).toEqual(order);
  });

  test("says on top which languages follow, and names each above its text", () => {
    const { subject, text } = joinVersions([ARABIC, ENGLISH]);
    expect(subject).toBe("لا تدريب");
    expect(text).toBe(
      "↓ English\n\nلا تدريب يوم الجمعة.\n\n\n──────── English: No training ────────\n\nNo training on Friday.",
    );
  });

  test("marks each language and its direction, and shows no subject twice", () => {
    const { html } = joinVersions([ENGLISH, ARABIC, SPANISH]);
    expect(html).toContain('<div lang="en" dir="ltr">');
    expect(html).toContain('<div lang="ar" dir="rtl">\n<h2>العربية: لا تدريب</h2>');
    expect(html).toContain("<h2>Español</h2>");
    expect(html.match(/<hr>/g)).toHaveLength(2);
  });

  test("what stands in a subject is text and no HTML", () => {
    const { html } = joinVersions([ENGLISH, { ...SPANISH, subject: "<img src=x>" }]);
    expect(html).toContain("&lt;img src=x&gt;");
    expect(html).not.toContain("<img");
  });

  test("of one version is that version, and of plain texts has no HTML", () => {
    expect(joinVersions([ENGLISH])).toEqual(ENGLISH);
    expect(joinVersions([ENGLISH, SPANISH].map((one) => ({ ...one, html: "" }))).html).toBe("");
  });

  test("names languages in themselves", () =>
    expect(["uk", "fr", "tr"].map((language) => languageName(language))).toEqual([
      "Українська",
      "Français",
      "Türkçe",
    ]));

  test("are named for whoever reads another language", () =>
    expect(languageName("ar", "de")).toBe("Arabisch"));
});
