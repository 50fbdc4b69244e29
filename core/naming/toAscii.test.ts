import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { toAscii } from "./toAscii";
import { proposeShortForm, proposeShortForms, squash } from "./shortForm";
import { tidyName } from "./pattern";

describe("names of other scripts in the letters of a list address", () => {
  test.each([
    // Ukrainian
    ["Київ", "kyiv"],
    ["Їжачки", "yizhachky"],
    ["Згурівка", "zghurivka"],
    ["Юні гімнасти", "yuni himnasty"],
    ["Ґудзик", "gudzyk"],
    ["Знам'янка і Короп'є", "znamianka i koropie"],
    // Russian
    ["Майская", "mayskaya"],
    ["Щука", "shchuka"],
    ["Объект", "obekt"],
    ["Ёлка", "elka"],
    // Serbian
    ["Жонглери Њушка", "zongleri njuska"],
    ["Ђачка дружина Ћирилица", "djacka druzina cirilica"],
    // Bulgarian, Macedonian
    ["Цирк", "tsirk"],
    ["Ѓорѓи", "gjorgji"],
    // Greek
    ["Αυγή", "avgi"],
    ["Ευτυχία", "eftychia"],
    ["Άγγελος", "angelos"],
    ["Μπάμπης", "bampis"],
    ["Ουρανός", "ouranos"],
    ["Μάυρο", "mayro"],
    ["Παύλος", "pavlos"],
    ["Προϋπόθεση", "proypothesi"],
    ["ΤΣΙΡΚΟ", "tsirko"],
    // Arabic and Persian
    ["محمد", "mhmd"],
    ["مُحَمَّد", "mhmd"],
    ["الصف الثاني", "alsf althany"],
    ["مدرسة ٣", "mdrsa 3"],
    ["سیـــرک", "syrk"],
    // Latin with marks, and mixed
    ["Łódź Größe", "lodz grosse"],
    ["Nguyễn Văn Đức", "nguyen van duc"],
    ["3А клас", "3a klas"],
  ])("%s is written %s", (name, ascii) => expect(toAscii(name)).toBe(ascii));

  test.each(["用户", "サーカス", "학교", "ใหม่", "कक्षा", "ქართული"])(
    "%s has letters that a list address may hold",
    (name) => {
      expect(squash(name)).toMatch(/^[a-z0-9]+$/);
      expect(tidyName(name)).toMatch(/^[a-z0-9]([a-z0-9.-]*[a-z0-9])?$/);
    },
  );

  test("names that differ by a mark alone, which is a letter there, stay apart", () => {
    expect(squash("कि")).not.toBe(squash("का"));
    expect(squash("か")).not.toBe(squash("が"));
    expect(squash("การ")).not.toBe(squash("กิร"));
  });

  test("the short form of a class keeps the marks of its letters, in whatever order the names come", () => {
    expect(proposeShortForm("Київ")).toBe("kyiv");
    for (const names of [
      ["Київ", "Юність", "KYIV"],
      ["KYIV", "Юність", "Київ"],
    ])
      expect(Object.fromEntries(proposeShortForms(names, new Map()))).toEqual({
        kyiv: "kyiv",
        киів: "kyiv2",
        юність: "yunist",
      });
  });

  test("whatever a text holds, its name has only letters, digits and spaces", () => {
    fc.assert(
      fc.property(fc.string({ unit: "grapheme" }), (text) => {
        expect(toAscii(text)).toMatch(/^[a-z0-9 ]*$/);
      }),
    );
  });
});
