import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { ESLint } from "eslint";
import tseslint from "typescript-eslint";
import { afterAll, beforeAll, expect, test } from "vitest";
import { useRefusals } from "./useRefusals.mjs";

let folder;
beforeAll(() => {
  // Inside the repository, so that ESLint and TypeScript look at it.
  mkdirSync(".stryker", { recursive: true });
  folder = mkdtempSync(join(process.cwd(), ".stryker/lint-"));
  writeFileSync(join(folder, "tsconfig.json"), '{ "compilerOptions": { "strict": true } }');
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

async function messagesFor(code) {
  const file = join(folder, "code.ts");
  const types = `
    class Refused { why = ""; }
    class Refusal extends Error {}
    type Request = { id: string };
    declare function take(): Promise<number | Refused>;
    declare function note(): Promise<number>;
    declare function refuse(found: unknown): void;`;
  writeFileSync(file, `${types}\n${code}`);
  const eslint = new ESLint({
    cwd: folder,
    overrideConfigFile: true,
    overrideConfig: [
      {
        files: ["**/*.ts"],
        languageOptions: {
          parser: tseslint.parser,
          parserOptions: { projectService: true, tsconfigRootDir: folder },
        },
        plugins: { refusals: { rules: { use: useRefusals } } },
        rules: { "refusals/use": "error" },
      },
    ],
  });
  const [result] = await eslint.lintFiles([file]);
  return result.messages.map(({ messageId, message }) => messageId ?? message);
}

test("a call whose refusal nobody looks at is reported", async () => {
  expect(await messagesFor("async function f() { await take(); }")).toEqual(["overlooked"]);
  expect(await messagesFor("async function f() { refuse(await take()); await note(); }")).toEqual(
    [],
  );
});

test("a refusal is thrown only by a function that answers a request", async () => {
  expect(await messagesFor("function f() { throw new Refusal(); }")).toEqual(["thrown"]);
  expect(
    await messagesFor(
      "function f(request: Request) { return [1].map(() => { throw new Refusal(); }); }",
    ),
  ).toEqual([]);
});
