import { readdirSync, readFileSync } from "node:fs";
import { join, relative } from "node:path";
import { fileURLToPath } from "node:url";
import IntlMessageFormat from "intl-messageformat";
import ts from "typescript";
import { describe, expect, test } from "vitest";
import { coreTexts } from "./english/core";
import { serverTexts } from "./english/server";
import { webTexts } from "./english/web";
import { type Catalogue } from "./texts";

const ROOT = fileURLToPath(new URL("..", import.meta.url));

/** Who says the texts of a catalogue, by which function, and which of its files still hold texts themselves. */
const SPEAKERS = [
  {
    folder: "core",
    catalogue: coreTexts as Catalogue,
    says: "message",
    wordy: undefined,
  },
  {
    folder: "server",
    catalogue: serverTexts as Catalogue,
    says: "t",
    // What the command line, a start and the metrics say is for whoever runs Amigo, and stays English.
    wordy: /^server\/(commands|watch)\//,
  },
  { folder: "web", catalogue: webTexts as Catalogue, says: "t", wordy: undefined },
];

function sourcesOf(folder: string): ts.SourceFile[] {
  const home = join(ROOT, folder);
  return readdirSync(home, { recursive: true, encoding: "utf8" })
    .filter(
      (path) =>
        /\.tsx?$/.test(path) &&
        // The page of widgets is for developers alone and in no build.
        !/\.test\.ts|(^|\/)(dist|node_modules|testing|migrations|widgets)\/|vite\.config/.test(
          path,
        ),
    )
    .map((path) =>
      ts.createSourceFile(
        join(folder, path),
        readFileSync(join(home, path), "utf8"),
        ts.ScriptTarget.Latest,
        true,
        path.endsWith("x") ? ts.ScriptKind.TSX : ts.ScriptKind.TS,
      ),
    );
}

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
  /** Unknown where they are not named on the spot. */
  values: string[] | undefined;
}

function useIn(node: ts.Node, says: string): Use | undefined {
  if (ts.isCallExpression(node) && node.expression.getText() === says) {
    const [id, values] = node.arguments;
    if (id === undefined || !ts.isStringLiteral(id)) return undefined;
    return {
      place: placeOf(node),
      id: id.text,
      values: values === undefined ? [] : namesIn(values),
    };
  }
  if (!ts.isJsxSelfClosingElement(node) || node.tagName.getText() !== "Rich") return undefined;
  const given = node.attributes.properties.filter(ts.isJsxAttribute);
  const id = given.find((attribute) => attribute.name.getText() === "id")?.initializer;
  return id !== undefined && ts.isStringLiteral(id)
    ? {
        place: placeOf(node),
        id: id.text,
        values: given.map((attribute) => attribute.name.getText()).filter((name) => name !== "id"),
      }
    : undefined;
}

function namesIn(values: ts.Node): string[] | undefined {
  if (!ts.isObjectLiteralExpression(values) || values.properties.some(ts.isSpreadAssignment))
    return undefined;
  return values.properties.map((property) => property.name?.getText() ?? "");
}

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
const SAID = /^(title|line|label|help|subject|text|sentence|question|because|reason)$/;

/** Whether a text in quotes is one that people read: in an element, in what names one, in a mail, or in a refusal. */
function isShown(text: ts.Expression): boolean {
  for (let node: ts.Node = text; ; node = node.parent) {
    const { parent } = node;
    if (ts.isJsxExpression(parent))
      return !ts.isJsxAttribute(parent.parent) || SHOWN.test(parent.parent.name.getText());
    if (ts.isPropertyAssignment(parent))
      return SAID.test(parent.name.getText()) && parent.initializer === node;
    if (ts.isNewExpression(parent) && parent.expression.getText() === "Refusal")
      return parent.arguments?.[2] === node;
    if (ts.isTemplateSpan(parent) && parent.expression === node) {
      const of = parent.parent.parent;
      if (ts.isTaggedTemplateExpression(of)) return of.tag.getText() === "html";
      node = parent;
      continue;
    }
    const isChoice =
      (ts.isConditionalExpression(parent) && parent.condition !== node) ||
      ts.isParenthesizedExpression(parent) ||
      (ts.isBinaryExpression(parent) &&
        /^(&&|\|\||\?\?|\+)$/.test(parent.operatorToken.getText()) &&
        (parent.right === node || parent.operatorToken.getText() === "+"));
    if (!isChoice) return false;
  }
}

/** What a node has of text that people read, where it is one. */
function textIn(node: ts.Node): string {
  if (ts.isJsxText(node)) return node.parent.getText().startsWith("<kbd") ? "" : node.text;
  if (ts.isJsxAttribute(node))
    return SHOWN.test(node.name.getText()) &&
      node.initializer !== undefined &&
      ts.isStringLiteral(node.initializer)
      ? node.initializer.text
      : "";
  if (ts.isTaggedTemplateExpression(node) && node.tag.getText() === "html")
    return piecesOf(node.template)
      .join("\0")
      .replace(/<style>[^<]*<\/style>|<[^>]*>/g, "");
  if (ts.isTemplateExpression(node) && isShown(node)) return piecesOf(node).join("\0");
  return ts.isStringLiteralLike(node) && isShown(node) ? node.text : "";
}

function piecesOf(template: ts.TemplateLiteral): string[] {
  return ts.isNoSubstitutionTemplateLiteral(template)
    ? [template.text]
    : [template.head.text, ...template.templateSpans.map(({ literal }) => literal.text)];
}

describe.each(SPEAKERS)("the catalogue of $folder", ({ folder, catalogue, says, wordy }) => {
  const sources = sourcesOf(folder);
  const nodes = sources.flatMap((file) => [...nodesOf(file)]);
  const uses = nodes.flatMap((node) => useIn(node, says) ?? []);
  const messages = new Map<string, string>(
    Object.entries(catalogue).flatMap(([feature, value]) =>
      Object.entries(value).map(([name, message]) => [`${feature}.${name}`, message] as const),
    ),
  );

  test("has every text that is used, and none that is not", () => {
    // A table names its texts without saying them yet; what core says can also be said by the server and the pages.
    const named = new Set(
      (folder === "core" ? ["core", "contract", "server", "web"].flatMap(sourcesOf) : sources)
        .flatMap((file) => [...nodesOf(file)])
        .flatMap((node) => (ts.isStringLiteral(node) ? [node.text] : [])),
    );
    expect(uses.filter(({ id }) => !messages.has(id))).toEqual([]);
    expect([...messages.keys()].filter((id) => !named.has(id))).toEqual([]);
    expect(messages.size).toBeGreaterThan(100);
  });

  test("gives each text just the values that it has places for", () => {
    const wrong = uses.flatMap((use) => {
      const wanted = placesIn(messages.get(use.id) ?? "");
      const { values } = use;
      return values !== undefined &&
        (wanted.size !== values.length || values.some((name) => !wanted.has(name)))
        ? [{ ...use, wanted: [...wanted] }]
        : [];
    });
    expect(wrong).toEqual([]);
  });

  test("leaves no text that people read in the code", () => {
    // Names of file formats, such as SVG, are the same in every language; a single word is a value of the code.
    const WORD = folder === "web" ? /\p{Ll}{2,}/u : /[\s\0]\p{L}{2,}|\p{L}{2,}[\s\0.,;?]/u;
    const literal = nodes.flatMap((node) => {
      if (wordy?.test(relative(".", node.getSourceFile().fileName)) === true) return [];
      const text = textIn(node);
      const isMarkup = text.includes('="');
      return WORD.test(text) && !isMarkup && !messages.has(text) && text.trim() !== "amigo"
        ? [`${placeOf(node)}: ${text.trim()}`]
        : [];
    });
    expect(literal).toEqual([]);
  });
});

/** What stands in quotes in a page without being a text: brands of browsers, sizes of paper. */
const NO_TEXT = /^(Edg|Edge|Opera|Letter)$/;

/** Whether a name or word in quotes is compared with something, names a place in it, or goes to those who look after Amigo. */
function isInternal(text: ts.StringLiteral): boolean {
  const { parent } = text;
  return (
    ts.isLiteralTypeNode(parent) ||
    ts.isImportDeclaration(parent) ||
    ts.isElementAccessExpression(parent) ||
    (ts.isCallExpression(parent) && parent.expression.getText() === "fetched") ||
    (ts.isPropertyAssignment(parent) && parent.name === text) ||
    (ts.isNewExpression(parent) && parent.expression.getText() === "Error") ||
    ts.isCaseClause(parent) ||
    (ts.isBinaryExpression(parent) && /^[!=]==$/.test(parent.operatorToken.getText()))
  );
}

test("no table, tab or fault of a page has words of its own", () => {
  const wordy = sourcesOf("web").flatMap((file) =>
    [...nodesOf(file)].flatMap((node) =>
      ts.isStringLiteral(node) &&
      /^\p{Lu}\p{Ll}+(?: \p{L}+)*\p{P}?(?: |$)/u.test(node.text) &&
      !NO_TEXT.test(node.text) &&
      !isInternal(node)
        ? [`${placeOf(node)}: ${node.text}`]
        : [],
    ),
  );
  expect(wordy).toEqual([]);
});

test("no shape of the API has words of its own for what is wrong", () => {
  const wordy = sourcesOf("contract").flatMap((file) =>
    [...nodesOf(file)].flatMap((node) => {
      const of = node.parent;
      const isDescription =
        of !== undefined &&
        ts.isPropertyAssignment(of) &&
        /^(summary|description)$/.test(of.name.getText());
      return ts.isStringLiteral(node) && /^\p{Lu}.* .*\.$/su.test(node.text) && !isDescription
        ? [`${placeOf(node)}: ${node.text}`]
        : [];
    }),
  );
  expect(wordy).toEqual([]);
});

/** Calls that are made when a file is loaded, not within a function. */
function* atLoading(node: ts.Node): Generator<ts.CallExpression> {
  if (ts.isFunctionLike(node)) return;
  if (ts.isCallExpression(node)) yield node;
  for (const child of node.getChildren()) yield* atLoading(child);
}

test("no page or mail for families says a text when its file is loaded, before it is known who reads", () => {
  const files = ["web/member", "server/member", "server/leave", "server/forms", "server/texts"];
  const early = files.flatMap((folder) =>
    sourcesOf(folder).flatMap((file) =>
      [...atLoading(file)]
        .filter(({ expression }) => /^(t|say)$/.test(expression.getText()))
        .map(placeOf),
    ),
  );
  expect(early).toEqual([]);
});
