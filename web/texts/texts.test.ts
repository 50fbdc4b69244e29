import { readdirSync, readFileSync } from "node:fs";
import { join, relative } from "node:path";
import { fileURLToPath } from "node:url";
import IntlMessageFormat from "intl-messageformat";
import ts from "typescript";
import { describe, expect, test } from "vitest";
import { webTexts } from "@amigo/language/english/web";
import { t } from "./t";

const WEB = fileURLToPath(new URL("..", import.meta.url));

const sources = readdirSync(WEB, { recursive: true, encoding: "utf8" })
  .filter(
    (path) =>
      /\.tsx?$/.test(path) && !/\.test\.ts|^dist|node_modules|^texts|vite\.config/.test(path),
  )
  .map((path) =>
    ts.createSourceFile(
      path,
      readFileSync(join(WEB, path), "utf8"),
      ts.ScriptTarget.Latest,
      true,
      path.endsWith("x") ? ts.ScriptKind.TSX : ts.ScriptKind.TS,
    ),
  );

const messages = new Map<string, string>(
  Object.entries(webTexts).flatMap(([feature, own]) =>
    Object.entries(own).map(([name, message]) => [`${feature}.${name}`, message] as const),
  ),
);

function* nodesOf(node: ts.Node): Generator<ts.Node> {
  yield node;
  for (const child of node.getChildren()) yield* nodesOf(child);
}

const placeOf = (node: ts.Node): string => {
  const file = node.getSourceFile();
  return `${relative(".", file.fileName)}:${file.getLineAndCharacterOfPosition(node.getStart()).line + 1}`;
};

/** Where a text is used, and what it is given: the names of its values. */
interface Use {
  place: string;
  id: string;
  values: string[];
}

function useIn(node: ts.Node): Use | undefined {
  if (ts.isCallExpression(node) && node.expression.getText() === "t") {
    const [id, values] = node.arguments;
    if (id === undefined || !ts.isStringLiteral(id)) return undefined;
    return {
      place: placeOf(node),
      id: id.text,
      values:
        values !== undefined && ts.isObjectLiteralExpression(values)
          ? values.properties.map((own) => own.name?.getText() ?? "")
          : [],
    };
  }
  if (!ts.isJsxSelfClosingElement(node) || node.tagName.getText() !== "Rich") return undefined;
  const given = node.attributes.properties.filter(ts.isJsxAttribute);
  const id = given.find((own) => own.name.getText() === "id")?.initializer;
  return id !== undefined && ts.isStringLiteral(id)
    ? {
        place: placeOf(node),
        id: id.text,
        values: given.map((own) => own.name.getText()).filter((name) => name !== "id"),
      }
    : undefined;
}

const uses = sources.flatMap((file) => [...nodesOf(file)].flatMap((node) => useIn(node) ?? []));

/** The places of a message that want a value. */
function placesIn(message: string): Set<string> {
  const found = new Set<string>();
  const walk = (parts: readonly Record<string, unknown>[]): void => {
    for (const part of parts) {
      if (typeof part.value === "string" && part.type !== 0) found.add(part.value);
      for (const option of Object.values((part.options ?? {}) as Record<string, { value: [] }>))
        walk(option.value);
      if (Array.isArray(part.children)) walk(part.children as Record<string, unknown>[]);
    }
  };
  walk(new IntlMessageFormat(message, "en").getAst() as unknown as Record<string, unknown>[]);
  return found;
}

const SHOWN = /^(title|line|label|help|placeholder|alt|aria-label|scrolls|what)$/;

/** Whether a text in quotes is one that a page shows: in an element, or in what names one, at once or by a choice. */
function isShown(text: ts.StringLiteral): boolean {
  for (let node: ts.Node = text; ; node = node.parent) {
    const { parent } = node;
    if (ts.isJsxExpression(parent))
      return !ts.isJsxAttribute(parent.parent) || SHOWN.test(parent.parent.name.getText());
    const isChoice =
      (ts.isConditionalExpression(parent) && parent.condition !== node) ||
      ts.isParenthesizedExpression(parent) ||
      (ts.isBinaryExpression(parent) &&
        /^(&&|\|\||\?\?)$/.test(parent.operatorToken.getText()) &&
        parent.right === node);
    if (!isChoice) return false;
  }
}

describe("the catalogue of texts", () => {
  test("has every text that is used, and none that is not", () => {
    const used = new Set(uses.map(({ id }) => id));
    expect(uses.filter(({ id }) => !messages.has(id))).toEqual([]);
    expect([...messages.keys()].filter((id) => !used.has(id))).toEqual([]);
    expect(used.size).toBeGreaterThan(1000);
  });

  test("each text gets just the values that it has places for", () => {
    const wrong = uses.filter(({ id, values }) => {
      const wanted = placesIn(messages.get(id) ?? "");
      return wanted.size !== values.length || values.some((name) => !wanted.has(name));
    });
    expect(wrong).toEqual([]);
  });

  test("no text stands in the pages themselves", () => {
    // Names of file formats, such as SVG, are the same in every language.
    const WORD = /\p{Ll}{2,}/u;
    const literal = sources.flatMap((file) =>
      [...nodesOf(file)].flatMap((node) => {
        const text =
          ts.isJsxText(node) && node.parent.getText().startsWith("<kbd") === false
            ? node.text
            : ts.isJsxAttribute(node) &&
                SHOWN.test(node.name.getText()) &&
                node.initializer !== undefined &&
                ts.isStringLiteral(node.initializer)
              ? node.initializer.text
              : ts.isStringLiteral(node) && isShown(node)
                ? node.text
                : "";
        return WORD.test(text) && text.trim() !== "amigo"
          ? [`${placeOf(node)}: ${text.trim()}`]
          : [];
      }),
    );
    expect(literal).toEqual([]);
  });

  test("fills places, counts and choices", () => {
    expect(t("changes.bringListsInStep", { lists: 1 })).toBe("Bring 1 list in step");
    expect(t("changes.bringListsInStep", { lists: 1200 })).toBe("Bring 1,200 lists in step");
  });
});
