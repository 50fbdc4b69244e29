import { gzipSync } from "node:zlib";
import type { Plugin, Rolldown } from "vite";

/** How large each part of the pages may be, in octets once gzip has compressed it. */
export interface Budgets {
  /** What a browser loads before the first page, React itself aside. */
  shell: number;
  /** What one page adds to it when it opens, packages of others and the words of core aside, which all pages share. */
  place: number;
}

type Chunk = Rolldown.OutputChunk;

/**
 * Ends a build whose parts have grown too large, with the names and sizes of those that have.
 *
 * @param shell the module that everything else is fetched from
 */
export function sizeBudgets(shell: string, budgets: Budgets): Plugin {
  return {
    name: "size-budgets",
    apply: "build",
    generateBundle(_, bundle) {
      const chunks = new Map(
        Object.values(bundle).flatMap((part) =>
          part.type === "chunk" ? [[part.fileName, part] as const] : [],
        ),
      );
      const entry = [...chunks.values()].find(({ isEntry }) => isEntry);
      const house = [...chunks.values()].find(({ facadeModuleId }) =>
        facadeModuleId?.endsWith(shell),
      );
      if (entry === undefined || house === undefined)
        this.error(`no chunk begins with ${shell}, so nothing can be measured`);
      const first = new Set([...closure(entry, chunks), ...closure(house, chunks)]);
      const sizes = [
        {
          name: "the shell",
          size: sum([...first].filter(({ name }) => name !== "react").map(sizeOf)),
          most: budgets.shell,
        },
        ...[...new Set([...first].flatMap(({ dynamicImports }) => dynamicImports))]
          .flatMap((file) => chunks.get(file) ?? [])
          .map((place) => ({
            name: place.name,
            size: sum(
              [...closure(place, chunks)].filter((chunk) => !first.has(chunk)).map(ourPart),
            ),
            most: budgets.place,
          })),
      ];
      const tooLarge = sizes.filter(({ size, most }) => size > most);
      if (tooLarge.length > 0)
        this.error(
          `These parts of the pages are too large (octets after gzip):\n${tooLarge
            .map(({ name, size, most }) => `  ${name}: ${size}, at most ${most}`)
            .join("\n")}`,
        );
    },
  };
}

/** A chunk with all that a browser must have loaded before it runs. */
function closure(from: Chunk, chunks: ReadonlyMap<string, Chunk>, found = new Set<Chunk>()) {
  if (found.has(from)) return found;
  found.add(from);
  for (const file of from.imports) {
    const next = chunks.get(file);
    if (next !== undefined) closure(next, chunks, found);
  }
  return found;
}

function sizeOf({ code }: Chunk): number {
  return gzipSync(code).length;
}

/** The size of what is ours in a chunk, by its share of the chunk before it was compressed. */
function ourPart(chunk: Chunk): number {
  const parts = Object.entries(chunk.modules).map(([file, { renderedLength }]) => ({
    isOurs: !file.includes("node_modules"),
    renderedLength,
  }));
  const all = sum(parts.map(({ renderedLength }) => renderedLength));
  const ours = sum(
    parts.filter(({ isOurs }) => isOurs).map(({ renderedLength }) => renderedLength),
  );
  return all === 0 ? 0 : Math.round((sizeOf(chunk) * ours) / all);
}

function sum(numbers: readonly number[]): number {
  return numbers.reduce((total, one) => total + one, 0);
}
