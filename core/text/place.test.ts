import { describe, expect, test } from "vitest";
import { countries, isTimeZone, localeOf, paperOf } from "./place";

describe("where a house is", () => {
  test.each([
    ["Europe/Prague", true],
    ["America/Argentina/Buenos_Aires", true],
    ["UTC", true],
    ["Mars/Olympus", false],
    ["", false],
    ["<b>", false],
  ])("%j is a time zone: %s", (name, wanted) => expect(isTimeZone(name)).toBe(wanted));

  test("countries have one name and one code each", () => {
    const all = countries();
    expect(all.length).toBeGreaterThan(230);
    expect(all.length).toBeLessThan(260);
    expect(new Set(all.map(({ name }) => name)).size).toBe(all.length);
    expect(all.find(({ code }) => code === "NZ")?.name).toBe("New Zealand");
  });

  test.each([
    [{ language: "en", country: "" }, "en-GB", "A4"],
    [{ language: "en", country: "US" }, "en-US", "Letter"],
    [{ language: "de", country: "CH" }, "de-CH", "A4"],
    [{ language: "fr", country: "" }, "fr", "A4"],
  ])("%j writes dates as %s, on %s", (place, locale, paper) => {
    expect(localeOf(place)).toBe(locale);
    expect(paperOf(place.country)).toBe(paper);
  });
});
