import { readFileSync } from "node:fs";
import { describe, expect, test } from "vitest";
import { HOUSE_ROLES, may } from "@amigo/core/access/may";
import type { Pulse } from "@amigo/contract/house";
import { PLACES } from "./findPlaces";
import { placesOf, waitingIn, ROLE_NAMES } from "./places";

/** The paths that the application has a page for. */
const ROUTES = [
  ...readFileSync(new URL("House.tsx", import.meta.url), "utf8").matchAll(/path="([^"]+)"/g),
].map(([, path = ""]) => path);

describe("the rail", () => {
  test.each(HOUSE_ROLES)("shows a %s what they may open, each place once", (role) => {
    const places = placesOf(role);
    expect(places.length).toBeGreaterThan(0);
    for (const { needs } of places) expect(may(role, needs)).toBe(true);
    expect(new Set(places.map(({ name }) => name)).size).toBe(places.length);
    expect(ROLE_NAMES[role]).not.toBe("");
  });

  test("leads a coordinator from the board to the settings", () => {
    const paths = placesOf("coordinator").map(({ to }) => to);
    expect(paths[0]).toBe("/");
    expect(paths).toContain("/house");
    expect(paths).not.toContain("/journal");
  });

  test("counts what waits in a place, and nothing where nothing is known yet", () => {
    const pulse = { causes: 3, held: 0 } as Pulse;
    const [changes] = placesOf("coordinator").filter(({ to }) => to === "/changes");
    const [board] = placesOf("coordinator").filter(({ to }) => to === "/");
    if (changes === undefined || board === undefined) throw new Error("a place is missing");
    expect(waitingIn(changes, pulse)).toBe(3);
    expect(waitingIn(changes, undefined)).toBe(0);
    expect(waitingIn(board, pulse)).toBe(0);
  });
});

describe("finding a place", () => {
  test("knows each place once, by its name and in a few words", () => {
    expect(new Set(PLACES.map(({ key }) => key)).size).toBe(PLACES.length);
    for (const { title, detail } of PLACES) expect([title, detail]).not.toContain("");
  });

  test.each([...PLACES.map(({ to }) => to), ...placesOf("coordinator").map(({ to }) => to)])(
    "%s is a page of the application",
    (to) => {
      const [path = ""] = to.split("?");
      expect(["", ...ROUTES]).toContain(path.slice(1));
    },
  );
});
