import { afterEach, describe, expect, test } from "vitest";
import { inOrder } from "./inOrder";
import { speakBy } from "./texts";

describe("the order of names", () => {
  afterEach(() => speakBy(() => undefined));

  test.each([
    ["en", "en-GB", ["Ärla", "Zoe", "Åsa", "Ida"], ["Ärla", "Åsa", "Ida", "Zoe"]],
    // In Swedish å, ä and ö follow z.
    ["sv", "sv", ["Ärla", "Zoe", "Åsa", "Ida"], ["Ida", "Zoe", "Åsa", "Ärla"]],
    // In Ukrainian ґ follows г, and і follows и.
    ["uk", "uk", ["Іра", "Дана", "Ґудзик", "Ганна"], ["Ганна", "Ґудзик", "Дана", "Іра"]],
    ["ar", "ar", ["يوسف", "أحمد", "سارة"], ["أحمد", "سارة", "يوسف"]],
    ["en", "en-GB", ["Level 10", "Level 2", "level 1"], ["level 1", "Level 2", "Level 10"]],
  ])("is that of the language %s", (language, locale, names, sorted) => {
    speakBy(() => ({ language, locale }));
    expect([...names].sort(inOrder)).toEqual(sorted);
  });
});
