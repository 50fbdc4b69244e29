import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, test } from "vitest";
import { noImportCircles } from "./noImportCircles.mjs";

test("an import that closes a circle is reported, of types too, and no other", () => {
  const cwd = mkdtempSync(join(tmpdir(), "amigo-circles-"));
  const files = {
    "start.ts": 'import { one } from "./one"; export const start = one;',
    "one.ts": 'import { two } from "./two"; export const one = two; export type One = 1;',
    "two.ts": 'import type { One } from "./one"; export const two: One = 1;',
  };
  for (const [name, text] of Object.entries(files)) writeFileSync(join(cwd, name), text);
  const reported = (name, imported) => {
    const found = [];
    const context = { cwd, filename: join(cwd, name), report: ({ data }) => found.push(data) };
    noImportCircles.create(context).ImportDeclaration({ source: { value: imported } });
    return found;
  };
  expect(reported("start.ts", "./one")).toEqual([]);
  expect(reported("one.ts", "./two")).toEqual([{ circle: "one.ts, two.ts" }]);
  expect(reported("two.ts", "./one")).toEqual([{ circle: "one.ts, two.ts" }]);
});
