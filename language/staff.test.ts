import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { acceptedStaffLanguage, STAFF_LANGUAGES, staffLanguage } from "./staff";
import { englishTexts, sorted, testLikeEnglish, textsOf } from "./testing/likeEnglish";

/** What is the same in every language: names, keys, beginnings of web addresses, and the field names of the API. */
const EVERYWHERE = [
  "Amigo {version}",
  "Esc",
  "Tab",
  "amigo",
  "https://",
  "https://…",
  "mailto:{href}",
  "plan: {fault}",
];

const SAME: Record<string, string[]> = {
  de: [
    "Bcc",
    "Cc, Bcc",

    "Domains",
    "Import {number}, {when}",
    "Letter",
    "Link",
    "Mail",
    "Name",
    "Passkey",
    "Person",
    "System",
    "Text",
    "lists.school.example",
    "school.example",
  ],
  es: [
    "Ctrl D",
    "Ctrl K",
    "Ctrl Z",
    "Ctrl ↵",
    'parents of "Class 3A" + coaches of "Class 3A"',
    "parents of students in this {each}",
    'site is "Main building"',
  ],
};

describe.each(STAFF_LANGUAGES.filter((language) => language !== "en"))(
  "the texts of staff in %s",
  (language) => {
    const [families, staff] = [textsOf(language), textsOf(`${language}/staff`)];

    test("are, with those of families, all that English has, and none of them twice", () => {
      expect(sorted([...families.keys(), ...staff.keys()])).toEqual(sorted(englishTexts.keys()));
    });

    testLikeEnglish(staff, language, [...EVERYWHERE, ...(SAME[language] ?? [])]);
  },
);

describe("a language of staff", () => {
  test.each([
    ["de-AT", "de"],
    ["ES", "es"],
    ["en-GB", "en"],
    ["pl", undefined],
    ["", undefined],
  ])("of %j is %s", (tag, language) => {
    expect(staffLanguage(tag)).toBe(language);
  });

  test.each([
    ["pl, es;q=0.7, en;q=0.5", "es"],
    ["en-US,en;q=0.9,de;q=0.8", "en"],
    ["ja, nl;q=0.5", undefined],
    ["de;q=0, es-MX;q=0.1", "es"],
  ])("that %j asks for is %s", (accept, language) => {
    expect(acceptedStaffLanguage(accept)).toBe(language);
  });

  test("is found in whatever a browser sends, without a fault", () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 3000 }), (accept) => {
        const found = acceptedStaffLanguage(accept);
        return found === undefined || STAFF_LANGUAGES.includes(found);
      }),
    );
  });
});
