import { existsSync, readFileSync, readdirSync } from "node:fs";
import { dirname, join, relative } from "node:path";
import ts from "typescript";

/** What a module's name can mean as a file, in the order in which they are tried. */
const ENDINGS = [".ts", ".tsx", ".mts", ""];

/**
 * Forbids that files import each other in a circle, types included: whoever reads one of them has to read them all.
 * The whole program is read once a run, whichever files are linted.
 */
export const noImportCircles = {
  meta: {
    type: "problem",
    schema: [],
    messages: {
      circle:
        "This import closes a circle: {{ circle }}. Move what both files need to a file of its own.",
    },
  },
  create(context) {
    const circles = circlesOf(context.cwd);
    return {
      ImportDeclaration(node) {
        const from = context.filename;
        const to = fileOf(context.cwd, from, node.source.value);
        const circle = to === undefined ? undefined : circles.get(from);
        if (circle === undefined || circles.get(to) !== circle) return;
        const names = circle.map((file) => relative(context.cwd, file)).join(", ");
        context.report({ node, messageId: "circle", data: { circle: names } });
      },
    };
  },
};

/** Files of the last run by the circle that they are in. */
let known;

function circlesOf(root) {
  known ??= findCircles(readImports(root));
  return known;
}

/** Returns every file of the program with the files of ours that it imports. */
function readImports(root) {
  const imports = new Map();
  for (const file of filesUnder(root)) {
    const { importedFiles } = ts.preProcessFile(readFileSync(file, "utf8"), true, false);
    const targets = importedFiles.map(({ fileName }) => fileOf(root, file, fileName));
    imports.set(
      file,
      targets.filter((target) => target !== undefined),
    );
  }
  return imports;
}

function filesUnder(folder) {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    if (entry.name === "node_modules" || entry.name === "dist" || entry.name.startsWith("."))
      return [];
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return filesUnder(path);
    return /\.(ts|tsx|mts)$/.test(entry.name) ? [path] : [];
  });
}

function fileOf(root, from, name) {
  const bare = name.startsWith(".")
    ? join(dirname(from), name)
    : name.startsWith("@amigo/")
      ? join(root, name.slice("@amigo/".length))
      : undefined;
  const ending = ENDINGS.find((end) => bare !== undefined && isFile(bare + end));
  return ending === undefined ? undefined : bare + ending;
}

const seen = new Map();

function isFile(path) {
  if (!seen.has(path)) seen.set(path, /\.(tsx?|mts)$/.test(path) && existsSync(path));
  return seen.get(path);
}

/** Returns the files that are in a circle, each with all files of its circle: Tarjan's strongly connected components. */
function findCircles(imports) {
  const order = new Map();
  const lowest = new Map();
  const open = [];
  const found = new Map();
  const visit = (file) => {
    order.set(file, order.size);
    lowest.set(file, order.get(file));
    open.push(file);
    for (const target of imports.get(file) ?? []) {
      if (!order.has(target)) visit(target);
      if (open.includes(target)) lowest.set(file, Math.min(lowest.get(file), lowest.get(target)));
    }
    if (lowest.get(file) !== order.get(file)) return;
    const circle = open.splice(open.indexOf(file)).sort();
    if (circle.length > 1) for (const member of circle) found.set(member, circle);
  };
  for (const file of imports.keys()) if (!order.has(file)) visit(file);
  return found;
}
