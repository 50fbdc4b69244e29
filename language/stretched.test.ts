import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { stretched } from "./stretched";
import { LANGUAGE, sayerOf, speakAs } from "./texts";

const t = sayerOf(
  {
    x: {
      plain: "Save",
      rows: "{rows, plural, one {# row} other {# rows}} of {name} read.",
    },
  },
  "web",
  (value: string | number) => value,
);

describe("stretched words", () => {
  test("are spelled with accents and are a third longer; what fills a place stays as it is", () => {
    speakAs({ language: "en", locale: LANGUAGE, spell: stretched });
    expect(t("x.plain")).toBe("Šàvé~~");
    expect(t("x.rows", { rows: 2, name: "Autumn" })).toBe("2 řöwš~~ öf~ Autumn řéàd.~~");
    speakAs({ language: "en", locale: LANGUAGE });
    expect(t("x.plain")).toBe("Save");
  });

  test("keep their spaces and signs, whatever the text", () => {
    fc.assert(
      fc.property(fc.string(), (words) => {
        const made = stretched(words);
        expect(made.replaceAll("~", "").length).toBe(words.replaceAll("~", "").length);
        expect(/\s*$/.exec(made)?.[0]).toBe(/\s*$/.exec(words)?.[0]);
      }),
    );
  });
});
