import { utils, write } from "@e965/xlsx";
import Papa from "papaparse";
import { readTable } from "./readTable";
import type { Sheet, Workbook } from "./sheet";
import type { TableInSheet } from "./table";

/** The sheets of a file without what is never stored, and the file itself without it. */
export interface Cleaned {
  tables: TableInSheet[];
  /** The octets to keep; undefined where nothing had to be taken out. */
  bytes: Uint8Array | undefined;
}

/**
 * Empties the cells of columns that are never stored, such as health and birth dates, in the tables and in the file that is
 * kept, in its sheets that aren't read, too. A file with such columns is written again from its cells, in its own format,
 * without styles and notes.
 */
export function withoutPrivate(workbook: Workbook, tables: readonly TableInSheet[]): Cleaned {
  const cleaned = tables.map(emptied);
  const read = new Set(tables.map(({ sheet }) => sheet.name));
  const unread = workbook.sheets.flatMap((sheet) => {
    if (read.has(sheet.name)) return [];
    // Nobody has said what its columns hold: it goes by what they would be taken for.
    const found = readTable({ ...workbook, sheets: [sheet] });
    return found.ok ? [{ before: sheet, after: emptied(found).sheet }] : [];
  });
  const changed = new Map(
    [...tables.map(({ sheet }, at) => ({ before: sheet, after: cleaned[at]?.sheet })), ...unread]
      .filter(({ before, after }) => before !== after)
      .map(({ before, after }) => [before.name, after]),
  );
  return {
    tables: cleaned,
    bytes:
      changed.size === 0
        ? undefined
        : written(
            workbook,
            workbook.sheets.map((sheet) => changed.get(sheet.name) ?? sheet),
          ),
  };
}

/** A table with its private columns empty below the titles; the very same one where it has none. */
function emptied({ sheet, table }: TableInSheet): TableInSheet {
  const columns = new Set(
    table.columns.filter(({ meaning }) => meaning === "private").map(({ index }) => index),
  );
  if (columns.size === 0) return { sheet, table };
  return {
    table,
    sheet: {
      ...sheet,
      rows: sheet.rows.map((cells, row) =>
        row <= table.headerRow
          ? cells
          : cells.map((cell, column) => (columns.has(column) ? "" : cell)),
      ),
    },
  };
}

function written({ format }: Workbook, sheets: readonly Sheet[]): Uint8Array {
  const [first] = sheets;
  if (format === "text" && sheets.length === 1 && first !== undefined)
    return new TextEncoder().encode(`\uFEFF${Papa.unparse(first.rows, { newline: "\r\n" })}`);
  const book = utils.book_new();
  for (const { name, rows, joined, hidden } of sheets) {
    const sheet = utils.aoa_to_sheet(rows);
    sheet["!merges"] = joined.map(({ firstRow, lastRow, firstColumn, lastColumn }) => ({
      s: { r: firstRow, c: firstColumn },
      e: { r: lastRow, c: lastColumn },
    }));
    utils.book_append_sheet(book, sheet, name);
    if (hidden) utils.book_set_sheet_visibility(book, name, 1);
  }
  const bookType = format === "ods" ? "ods" : format === "xls" ? "biff8" : "xlsx";
  return new Uint8Array(write(book, { type: "array", bookType, compression: true }) as ArrayBuffer);
}
