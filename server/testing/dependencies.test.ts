import { readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { expect, test } from "vitest";

interface Package {
  workspaces?: string[];
  dependencies?: Record<string, string>;
  devDependencies?: Record<string, string>;
}

const read = (path: string): string =>
  readFileSync(fileURLToPath(new URL(`../../${path}`, import.meta.url)), "utf8");
const packageAt = (folder: string): Package => JSON.parse(read(`${folder}package.json`)) as Package;

test("every package that is used has its reason in docs/decisions", () => {
  const { workspaces = [] } = packageAt("");
  const reasons = read("docs/decisions/dependencies.md");
  const used = ["", ...workspaces.map((workspace) => `${workspace}/`)].flatMap((folder) => {
    const { dependencies, devDependencies } = packageAt(folder);
    return Object.keys({ ...dependencies, ...devDependencies });
  });
  expect(used.length).toBeGreaterThan(50);
  expect(
    used.filter((name) => !/^@(amigo|types)\//.test(name) && !reasons.includes(`\`${name}\``)),
  ).toEqual([]);
});
