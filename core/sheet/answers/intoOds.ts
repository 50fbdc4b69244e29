import { zipSync } from "fflate";
import { openArchive } from "../openArchive";
import type { SheetAnswers } from "./answerColumns";
import { FILE_LIMITS } from "../sheet";
import { ATTRIBUTES, attribute, toXml } from "./xml";

const CELL = new RegExp(
  `<table:(covered-)?table-cell(${ATTRIBUTES})\\s*(?:/>|>[\\s\\S]*?</table:\\1table-cell>)`,
  "g",
);
const ROW = new RegExp(
  `<table:table-row(${ATTRIBUTES})\\s*(?:/>|>([\\s\\S]*?)</table:table-row>)`,
  "g",
);
const REPEATED = /\stable:number-(?:columns|rows)-repeated\s*=\s*(?:"[^"]*"|'[^']*')/;

/**
 * Writes columns at the end of sheets of an ODS file and leaves everything else as it is. Rows and cells stand in runs
 * (OpenDocument 1.3, part 3, sections 9.1.3 and 9.1.4): a run is parted where something is written into it.
 *
 * @returns undefined where a sheet is not to be found in the file
 */
export function intoOds(
  bytes: Uint8Array,
  answers: readonly SheetAnswers[],
): Uint8Array | undefined {
  const archive = openArchive(bytes, FILE_LIMITS);
  if (!archive.ok) return undefined;
  const { parts } = archive;
  let content = new TextDecoder().decode(parts["content.xml"] ?? new Uint8Array());
  for (const answer of answers) {
    let found = false;
    content = content.replace(
      new RegExp(`<table:table(${ATTRIBUTES})\\s*>([\\s\\S]*?)</table:table>`, "g"),
      (whole, attributes: string, inside: string) => {
        const name = attribute(attributes, "table:name") ?? "";
        // The library that reads such files leaves the signs of XML in names as they are written.
        if (found || (name !== answer.sheet && toXml(name) !== answer.sheet)) return whole;
        found = true;
        return `<table:table${attributes}>${intoTable(inside, answer)}</table:table>`;
      },
    );
    if (!found) return undefined;
  }
  parts["content.xml"] = new TextEncoder().encode(content);
  // The file's kind stands first and as it is (OpenDocument 1.3, part 2, section 3.3).
  const { mimetype, ...others } = parts;
  return zipSync(
    mimetype === undefined ? others : { mimetype: [mimetype, { level: 0 }], ...others },
  );
}

function intoTable(inside: string, { column, rows }: SheetAnswers): string {
  let at = 0;
  return inside.replace(ROW, (whole, attributes: string, cells: string | undefined) => {
    const first = at;
    const run = Number(attribute(attributes, "table:number-rows-repeated") ?? 1);
    at += run;
    const indexes = [...rows.keys()]
      .filter((row) => row >= first && row < at)
      .sort((one, other) => one - other);
    if (indexes.length === 0) return whole;
    const single = attributes.replace(REPEATED, "");
    const same = (count: number): string =>
      count === 0
        ? ""
        : `<table:table-row${single}${count === 1 ? "" : ` table:number-rows-repeated="${count}"`}>${cells ?? ""}</table:table-row>`;
    let from = first;
    const pieces = indexes.map((row) => {
      const piece = `${same(row - from)}<table:table-row${single}>${intoRow(cells ?? "", column, rows.get(row) ?? [])}</table:table-row>`;
      from = row + 1;
      return piece;
    });
    return `${pieces.join("")}${same(at - from)}`;
  });
}

/** The row's own cells up to the column, empty ones where it is shorter, those of Amigo, then what stands beyond. */
function intoRow(inside: string, column: number, cells: readonly string[]): string {
  const end = column + cells.length;
  const before: string[] = [];
  const after: string[] = [];
  let at = 0;
  for (const [whole, , attributes = ""] of inside.matchAll(CELL)) {
    const run = Number(attribute(attributes, "table:number-columns-repeated") ?? 1);
    const inFront = Math.min(Math.max(column - at, 0), run);
    const behind = Math.min(Math.max(at + run - end, 0), run);
    if (inFront > 0) before.push(repeated(whole, inFront));
    if (behind > 0) after.push(repeated(whole, behind));
    at += run;
  }
  if (at < column) before.push(repeated("<table:table-cell/>", column - at));
  const foundCells = cells.map(
    (cell) =>
      `<table:table-cell office:value-type="string"><text:p>${toXml(cell.replace(/\s+/g, " "))}</text:p></table:table-cell>`,
  );
  return [...before, ...foundCells, ...after].join("");
}

function repeated(cell: string, count: number): string {
  const single = cell.replace(/^<[^>"']*(?:"[^"]*"[^>"']*|'[^']*'[^>"']*)*/, (tag) =>
    tag.replace(REPEATED, ""),
  );
  return count === 1
    ? single
    : single.replace(
        /^<(table:(?:covered-)?table-cell)/,
        `<$1 table:number-columns-repeated="${count}"`,
      );
}
