import { readFileSync } from "node:fs";
import { expect, test } from "vitest";
import { PLACES } from "./places";

test("the places that are answered with a page are those of the pages", () => {
  const routes = ["App", "House"].flatMap((name) => {
    const source = readFileSync(new URL(`../../web/app/${name}.tsx`, import.meta.url), "utf8");
    return [...source.matchAll(/<Route\s+path="([^"*]+)"/g)].map(([, path = ""]) => path);
  });
  // `widgets` is there for developers alone.
  const places = routes.map((path) => path.split("/")[0] ?? "").filter((one) => one !== "widgets");
  expect([...new Set([...places, "", "member"])].sort()).toEqual([...PLACES].sort());
});
