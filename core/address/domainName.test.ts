import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { asciiDomain, canonicalAddress, readableAddress } from "./domainName";
import { readAddress } from "./readAddress";

describe("a domain with letters beyond ASCII", () => {
  test.each([
    ["Münchhausen.example", "xn--mnchhausen-9db.example"],
    ["mu\u0308nchhausen.example", "xn--mnchhausen-9db.example"],
    ["школа.example", "xn--80atdl2c.example"],
    ["ex。ample.example", "ex.ample.example"],
    ["plain.EXAMPLE", "plain.example"],
    // What isn't a domain stays as it is, and never becomes one.
    ["a b.exämple", "a b.exämple"],
    ["ä/b.example", "ä/b.example"],
    ["ä:80", "ä:80"],
    ["", ""],
  ])("%s is %s in the DNS", (domain, ascii) => expect(asciiDomain(domain)).toBe(ascii));

  test("is one, in whichever way it is written", () => {
    for (const written of [
      "Ana@Münchhausen.example",
      "ana@xn--mnchhausen-9db.example",
      "ana@XN--MNCHHAUSEN-9DB.example",
      "Ana <ana@mu\u0308nchhausen.example>",
    ])
      expect(readAddress(written, new Map())).toMatchObject({
        answer: "clean",
        address: "ana@xn--mnchhausen-9db.example",
      });
  });

  test("that no computer could find is refused", () => {
    expect(readAddress("ana@mün_chen.example", new Map()).answer).toBe("unusable");
    expect(readAddress(`ana@${"ü".repeat(70)}.example`, new Map()).answer).toBe("unusable");
  });

  test.each([
    ["ana@xn--mnchhausen-9db.example", "ana@münchhausen.example"],
    ["ana@xn--80atdl2c.example", "ana@школа.example"],
    ["ana@oakmail.example", "ana@oakmail.example"],
    ["ana", "ana"],
    // No A-label.
    ["ana@xn--zzzzzz.example", "ana@xn--zzzzzz.example"],
    ["ana@xn--.example", "ana@xn--.example"],
  ])("%s is shown as %s", (address, shown) => expect(readableAddress(address)).toBe(shown));

  test.each([
    ["all letters look like Latin ones", "раурау.example"],
    ["Greek ones, too", "κονα.example"],
    ["Latin and Cyrillic in one word", "oаkmail.example"],
    ["Latin and Greek in one word", "schοοl.example"],
    ["a dotless i", "oakmaıl.example"],
    ["Cyrillic and Greek in one word", "школαб.example"],
  ])("%s: it stays as the DNS has it", (_, domain) => {
    const address = `ana@${asciiDomain(domain)}`;
    expect(address).toContain("@xn--");
    expect(readableAddress(address)).toBe(address);
  });

  test.each([
    "日本語.example",
    "서울학교.example",
    "مدرسة.example",
    "βιβλίο.example",
    "schön-1.example",
  ])("%s can be read", (domain) =>
    expect(readableAddress(`a@${asciiDomain(domain)}`)).toBe(`a@${domain}`),
  );

  test("whatever is shown means the same address again", () => {
    fc.assert(
      fc.property(fc.string({ unit: "grapheme", maxLength: 30 }), (label) => {
        const address = canonicalAddress(`a@${label}.example`);
        expect(canonicalAddress(readableAddress(address))).toBe(address);
        expect(canonicalAddress(address)).toBe(address);
      }),
    );
  });
});
