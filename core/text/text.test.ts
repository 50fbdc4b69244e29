import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { fold } from "./fold";
import { hash } from "./hash";
import { counted, joined } from "./sentence";
import { isOneSlip } from "./slip";
import { tidyLine, withoutInvisible } from "./tidy";

describe("folding", () => {
  test.each([
    ["Ó'Donovan-Łoziński", "odonovan lozinski"],
    ["  ÅSA   Fälth ", "asa falth"],
    ["Straße", "strasse"],
    ["Ørsted & Þór", "orsted thor"],
    ["Dvořák, Jakub", "dvorak jakub"],
    ["Yılmaz", "yilmaz"],
    ["用户", "用户"],
    ["!!!", ""],
  ])("%j becomes %j", (text, wanted) => expect(fold(text)).toBe(wanted));

  test("once is enough, and case makes no difference", () => {
    fc.assert(
      fc.property(fc.string({ unit: "grapheme" }), (text) => {
        expect(fold(fold(text))).toBe(fold(text));
      }),
    );
    fc.assert(
      fc.property(fc.stringMatching(/^[a-zà-ÿ ]*$/), (text) => {
        expect(fold(text.toUpperCase())).toBe(fold(text));
      }),
    );
  });
});

describe("tidying", () => {
  test.each([
    ["\u00a0una\u200b", "una"],
    ["a \n\t b", "a b"],
    ["\u0007bell", "bell"],
    ["\ufeffName", "Name"],
  ])("%j becomes %j", (text, wanted) => expect(tidyLine(text)).toBe(wanted));

  test("nothing invisible is left, and nothing that can be seen is lost", () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[\x21-\x7e]*$/), (text) => {
        expect(withoutInvisible([...text].join("\u200b"))).toBe(text);
      }),
    );
  });
});

describe("one slip of typing", () => {
  test.each([
    ["lettr.example", "letr.example", true],
    ["letr.example", "lettr.example", true],
    ["mialhaven", "mailhaven", true],
    ["mailhavem", "mailhaven", true],
    ["mailhaven", "mailhaven", false],
    ["mialhaevn", "mailhaven", false],
    ["a", "", true],
    ["ab", "cd", false],
    ["abc", "abcde", false],
    ["abcd", "badc", false],
  ])("%s and %s: %s", (one, other, wanted) => expect(isOneSlip(one, other)).toBe(wanted));

  test("goes both ways", () => {
    fc.assert(
      fc.property(
        fc.stringMatching(/^[ab]{0,6}$/),
        fc.stringMatching(/^[ab]{0,6}$/),
        (one, other) => {
          expect(isOneSlip(one, other)).toBe(isOneSlip(other, one));
        },
      ),
    );
  });
});

describe("marks", () => {
  test("are stable, of one length, and tell texts apart", () => {
    expect(hash("Mirela Achterberg")).toBe(hash("Mirela Achterberg"));
    const texts = Array.from(
      { length: 20_000 },
      (_, index) => `address a${index}@lettr.example ana quist`,
    );
    const marks = texts.map(hash);
    expect(new Set(marks).size).toBe(texts.length);
    expect(marks.every((mark) => /^[0-9a-f]{16}$/.test(mark))).toBe(true);
  });
});

describe("sentences", () => {
  test.each([
    [0, "0 lists"],
    [1, "1 list"],
    [2, "2 lists"],
    [1200, "1,200 lists"],
  ])("%i", (count, wanted) => expect(counted(count, "list")).toBe(wanted));
  test.each([
    [[], ""],
    [["a"], "a"],
    [["a", "b"], "a and b"],
    [["a", "b", "c"], "a, b and c"],
  ])("%j", (parts, wanted) => expect(joined(parts)).toBe(wanted));
});
