import type { FileLimits } from "./sheet";

/** What is left of an ODS file's content when its repeats are cut down, or that it has too many cells all the same. */
export type Capped = { ok: true; content: string } | { ok: false };

/** No cell needs more spaces in a row than this. */
const MOST_SPACES = 1000;

const REPEATED =
  /((?:number-(?:columns|rows)-repeated|number-(?:columns|rows)-spanned|text:c)\s*=\s*["'])\s*(\d+)/g;

/** Tags of rows and cells with their attributes; quoted values may hold `>`, but no tag holds `<`. */
const TAG =
  /<(\/?)table:(table-row|table-cell|covered-table-cell)\b((?:[^<>"']|"[^"<]*"|'[^'<]*')*)>/g;

/**
 * Cuts down how often the content of an ODS file says that a row, a cell or a space repeats (OpenDocument 1.3, part 3,
 * sections 19.675.3, 19.677 and 19.761), before a library writes all of them out. Repeats of empty rows and cells are no
 * cells; those of filled ones count.
 */
export function capRepeats(content: string, limits: FileLimits): Capped {
  const capped = content.replace(REPEATED, (_, before: string, count: string) => {
    const most = before.startsWith("text:c")
      ? MOST_SPACES
      : (before.includes("columns") ? limits.columns : limits.rows) + 1;
    return `${before}${count.length > 9 ? most : Math.min(Number(count), most)}`;
  });
  return countCells(capped) > limits.cells ? { ok: false } : { ok: true, content: capped };
}

/** How many filled cells the content stands for when every repeat is written out. */
function countCells(content: string): number {
  let cells = 0;
  let rows = 1;
  for (const [, closing, kind, attributes = ""] of content.matchAll(TAG)) {
    if (closing !== "") continue;
    if (kind === "table-row") rows = repeats(attributes, "rows");
    else if (!attributes.endsWith("/") || attributes.includes("value"))
      cells += rows * repeats(attributes, "columns");
  }
  return cells;
}

function repeats(attributes: string, of: "rows" | "columns"): number {
  const at = attributes.indexOf(`number-${of}-repeated`);
  return at < 0 ? 1 : Number(/\d+/.exec(attributes.slice(at, at + 60))?.[0] ?? 1);
}
