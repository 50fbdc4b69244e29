import { readdirSync, readFileSync } from "node:fs";
import { isBuiltin } from "node:module";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import ts from "typescript";
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

/** The sources of a folder, by their paths. */
function sourcesIn(folder: string): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    if (entry.name === "node_modules" || entry.name === "dist") return [];
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return sourcesIn(path);
    return /\.(ts|tsx|mjs)$/.test(entry.name) ? [path] : [];
  });
}

/** The package of an import: `@amigo/core` of `@amigo/core/facts/fact`; undefined for a file beside, or Node's own modules. */
function packageOf(imported: string): string | undefined {
  if (imported.startsWith(".") || isBuiltin(imported)) return undefined;
  const parts = imported.split("/");
  return imported.startsWith("@") ? parts.slice(0, 2).join("/") : parts[0];
}

test("every package that a workspace imports is declared by it", () => {
  const undeclared = (packageAt("").workspaces ?? []).flatMap((workspace) => {
    const { dependencies, devDependencies } = packageAt(`${workspace}/`);
    const declared = new Set([
      `@amigo/${workspace}`,
      ...Object.keys({ ...dependencies, ...devDependencies }),
    ]);
    const folder = fileURLToPath(new URL(`../../${workspace}`, import.meta.url));
    return sourcesIn(folder).flatMap((path) =>
      ts
        .preProcessFile(readFileSync(path, "utf8"))
        .importedFiles.flatMap(({ fileName }) => packageOf(fileName) ?? [])
        .filter((name) => !declared.has(name))
        .map((name) => `${path.slice(folder.length - workspace.length)}: ${name}`),
    );
  });
  expect(undeclared).toEqual([]);
});
