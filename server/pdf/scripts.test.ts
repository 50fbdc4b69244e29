import { readFileSync } from "node:fs";
import { create } from "fontkit";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { FAMILY_LANGUAGES } from "@amigo/language/families";
import { textsOf } from "@amigo/language/testing/likeEnglish";
import { fontOf, isOtherScript, layOut, type Piece } from "./scripts";

/** Every letter is as wide as any other. */
const measure = ({ text }: Piece): number => text.length;
/** The lines as they are seen, from left to right; what a font turns around is turned here. */
const seen = (text: string, width = 100): string[] =>
  layOut(text, width, measure).lines.map(({ pieces }) =>
    pieces
      .map((piece) => (piece.turned ? Array.from(piece.text).reverse().join("") : piece.text))
      .join(""),
  );

describe("a paragraph on paper", () => {
  test("is broken at spaces, and within a word that is too long", () => {
    expect(seen("Ласкаво просимо до школи", 12)).toEqual(["Ласкаво", "просимо до", "школи"]);
    expect(seen("Перепідготовка", 5)).toEqual(["Переп", "ідгот", "овка"]);
    expect(seen("", 5)).toEqual([""]);
  });

  test("is read from the right in Arabic, with numbers and Latin words as they are", () => {
    const { fromRight } = layOut("مدرسة", 100, measure);
    expect(fromRight).toBe(true);
    expect(seen("الرمز AB12 هنا")).toEqual(["انه AB12 زمرلا"]);
    expect(seen("(مدرسة)")).toEqual(["(ةسردم)"]);
    expect(layOut("Code مدرسة", 100, measure).fromRight).toBe(false);
  });

  test("loses no letter, whatever it holds and however narrow it is", () => {
    const letters = fc.constantFrom("a", "ß", "Ж", "ί", "م", "د", "3", " ", "(", ".", "ș");
    fc.assert(
      fc.property(fc.array(letters), fc.integer({ min: 1, max: 30 }), (chosen, width) => {
        const text = chosen.join("");
        const bare = (of: string): string =>
          Array.from(of.replace(/[\s()]/g, ""))
            .sort()
            .join("");
        expect(bare(seen(text, width).join(""))).toBe(bare(text));
      }),
    );
  });

  test("of one endless word is measured no more than it has letters on a line", () => {
    let measured = 0;
    const { lines } = layOut("م".repeat(20_000), 50, (piece) => {
      measured += piece.text.length;
      return measure(piece);
    });
    expect(lines).toHaveLength(400);
    expect(measured).toBeLessThan(20_000 * 200);
  });

  test("is in a font that has its letters, in every language of families", () => {
    const fonts = new Map<string, ReturnType<typeof create>>();
    const has = (letter: string): boolean => {
      const file = fontOf(letter);
      const font = fonts.get(file) ?? create(readFileSync(file));
      fonts.set(file, font);
      return (
        "hasGlyphForCodePoint" in font && font.hasGlyphForCodePoint(letter.codePointAt(0) ?? 0)
      );
    };
    for (const language of FAMILY_LANGUAGES.filter((one) => one !== "en")) {
      const letters = new Set([...textsOf(language).values()].join(""));
      const missing = [...letters].filter((letter) => /\p{L}/u.test(letter) && !has(letter));
      expect([language, missing]).toEqual([language, []]);
    }
  });

  test("is laid out here only where another alphabet asks for it", () => {
    expect(["Jägerstraße — „Größe“ 3 €", "Łódź, İzmir"].map(isOtherScript)).toEqual([false, false]);
    expect(["Київ", "Αθήνα", "مرحبا"].map(isOtherScript)).toEqual([true, true, true]);
  });
});
