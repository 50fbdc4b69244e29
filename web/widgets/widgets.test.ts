import { readFileSync, readdirSync } from "node:fs";
import { join } from "node:path";
import { expect, test } from "vitest";

const UI = join(import.meta.dirname, "../ui");
const PAGE = readFileSync(join(import.meta.dirname, "WidgetsPage.tsx"), "utf8");

test("every widget is on the page of widgets", () => {
  const widgets = readdirSync(UI)
    .filter((file) => file.endsWith(".tsx"))
    .flatMap((file) =>
      [...readFileSync(join(UI, file), "utf8").matchAll(/^export function ([A-Z]\w*)/gm)].map(
        ([, name = ""]) => name,
      ),
    );
  expect(widgets.length).toBeGreaterThan(20);
  expect(widgets.filter((name) => !new RegExp(`<${name}[\\s>]`).test(PAGE))).toEqual([]);
});
