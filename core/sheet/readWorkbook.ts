import { message, type Message } from "@amigo/language/message";
import { read, type CellObject, type WorkSheet } from "@e965/xlsx";
import { zipSync } from "fflate";
import Papa from "papaparse";
import { separatorOf, withoutAnswers } from "./answers/answerColumns";
import { capRepeats } from "./capRepeats";
import { decodeText } from "./decodeText";
import { withoutApostrophe } from "./harmlessCell";
import { openArchive } from "./openArchive";
import { apartFromNeighbours } from "./shapes/sideBySide";
import {
  columnLetters,
  FILE_LIMITS,
  type FileFault,
  type FileLimits,
  type OrFileFault,
  type Sheet,
  type Workbook,
} from "./sheet";

/** What the only sheet of a text file is called, in every language: its readings are known by it. */
export const TEXT_SHEET = "Text";
/** At most this many merged ranges of a sheet are looked at. They matter for titles and for cells below each other. */
const MOST_JOINED = 50_000;

/**
 * Reads the octets of a file into sheets of text cells. Formulas give their last value, dates are
 * written `YYYY-MM-DD` (with `HH:MM:SS` where a time of day is in them), joined cells are listed. Columns
 * that Amigo itself has added to a sheet that it handed back are left out.
 *
 * @param bytes  the file: XLSX, ODS, XLS, or text with separators in UTF-8, UTF-16 or Windows-1252
 * @param limits how large the file may be, packed and unpacked
 * @returns the workbook, or one of the faults `empty-file`, `too-large`, `too-many-rows`, `too-many-cells`,
 *   `too-long-cell`, `unpacks-too-far`, `not-a-spreadsheet`, `broken-file`, `locked-file`
 */
export function readWorkbook(
  bytes: Uint8Array,
  limits: FileLimits = FILE_LIMITS,
): OrFileFault<{ workbook: Workbook }> {
  const read = readSheets(bytes, limits);
  return read.ok ? within(read.workbook, limits) : read;
}

function readSheets(bytes: Uint8Array, limits: FileLimits): OrFileFault<{ workbook: Workbook }> {
  if (bytes.length === 0) return fault("empty-file", message("sheet.emptyFile"));
  if (bytes.length > limits.bytes) {
    return fault(
      "too-large",
      message("sheet.tooLarge", {
        size: megabytes(bytes.length),
        limit: megabytes(limits.bytes),
      }),
    );
  }
  if (startsWith(bytes, [0x50, 0x4b, 0x03, 0x04])) return readPacked(bytes, limits);
  if (startsWith(bytes, [0xd0, 0xcf, 0x11, 0xe0])) return readBook(bytes, "xls", limits);
  if (startsWith(bytes, [0x25, 0x50, 0x44, 0x46])) return notASpreadsheet("pdf");
  const decoded = decodeText(bytes);
  if (decoded === undefined) return notASpreadsheet("binary");
  if (/^\s*(<!doctype|<html|<\?xml|\{\s*")/i.test(decoded.text)) return notASpreadsheet("markup");
  return readText(decoded.text, limits);
}

/** Reads pasted or decoded text with separators (comma, semicolon, tab, bar) as a single sheet. */
export function readText(
  text: string,
  limits: FileLimits = FILE_LIMITS,
): OrFileFault<{ workbook: Workbook }> {
  if (text.trim() === "") return fault("empty-file", message("sheet.onlyBlank"));
  const rows: string[][] = [];
  // Blank rows at the end don't count, so the last one that holds anything is remembered.
  let filled = 0;
  let cells = 0;
  Papa.parse<string[]>(text, {
    delimiter: separatorOf(text),
    skipEmptyLines: false,
    step: ({ data }, parser) => {
      const row = data.length > limits.columns ? data.slice(0, limits.columns) : data;
      cells += row.length;
      if (row.some((cell) => cell.trim() !== "")) filled = rows.length + 1;
      rows.push(row);
      if (rows.length > limits.rows * 2 || filled > limits.rows || cells > limits.cells * 2)
        parser.abort();
    },
  });
  if (filled > limits.rows || rows.length > limits.rows * 2) return tooManyRows(limits);
  if (cells > limits.cells * 2) return tooManyCells(limits);
  rows.length = filled;
  // In a text that Amigo handed back, formulas were made harmless; here they are what was written again.
  const answers = withoutAnswers(rows);
  return {
    ok: true,
    workbook: {
      format: "text",
      sheets: apartFromNeighbours({
        name: TEXT_SHEET,
        hidden: false,
        rows: answers === rows ? rows : answers.map((row) => row.map(withoutApostrophe)),
        joined: [],
      }),
    },
  };
}

function readPacked(bytes: Uint8Array, limits: FileLimits): OrFileFault<{ workbook: Workbook }> {
  const archive = openArchive(bytes, limits, isRead);
  if (!archive.ok) return archive;
  const { parts } = archive;
  const names = new Set(archive.names);
  // What the library gets is packed again from what was looked at here, so it can find nothing else in it.
  if (names.has("xl/workbook.xml") || names.has("xl/workbook.bin"))
    return readBook(zipSync(parts, { level: 0 }), "xlsx", limits);
  const content = parts["content.xml"];
  if (content !== undefined && !names.has("word/document.xml")) {
    const capped = capRepeats(new TextDecoder().decode(content), limits);
    if (!capped.ok) return tooManyCells(limits);
    parts["content.xml"] = new TextEncoder().encode(capped.content);
    return readBook(zipSync(parts, { level: 0 }), "ods", limits);
  }
  return notASpreadsheet(names.has("word/document.xml") ? "document" : "archive");
}

/** The parts of a packed file in which cells, names of sheets and formats stand; pictures and macros aren't opened. */
function isRead(name: string): boolean {
  return /\.(xml|rels)$|^xl\/.*\.bin$|^mimetype$/i.test(name) && !/vbaProject/i.test(name);
}

/** The workbook itself, where all of its cells together, and each alone, are within the limits. */
function within(workbook: Workbook, limits: FileLimits): OrFileFault<{ workbook: Workbook }> {
  if (workbook.sheets.length > limits.sheets)
    return fault(
      "too-many-cells",
      message("sheet.tooManySheets", { sheets: workbook.sheets.length, limit: limits.sheets }),
    );
  let cells = 0;
  let text = 0;
  for (const { name, rows } of workbook.sheets)
    for (const [row, value] of rows.entries())
      for (const [column, cell] of value.entries()) {
        if (cell === "") continue;
        cells++;
        text += cell.length;
        if (cell.length > limits.cellText)
          return fault(
            "too-long-cell",
            message("sheet.tooLongCell", {
              cell: `${columnLetters(column)}${row + 1}`,
              sheet: name,
              limit: limits.cellText,
              isText: String(workbook.format === "text"),
            }),
          );
        if (cells > limits.cells || text > limits.text) return tooManyCells(limits);
      }
  return { ok: true, workbook };
}

function readBook(
  bytes: Uint8Array,
  format: Workbook["format"],
  limits: FileLimits,
): OrFileFault<{ workbook: Workbook }> {
  try {
    const book = read(bytes, {
      type: "array",
      dense: true,
      cellDates: true,
      cellFormula: false,
      cellHTML: false,
      sheetRows: limits.rows + 1,
    });
    const sheets = book.SheetNames.flatMap((name, index) =>
      apartFromNeighbours(
        toSheet(
          name,
          (book.Workbook?.Sheets?.[index]?.Hidden ?? 0) !== 0,
          book.Sheets[name],
          limits,
        ),
      ),
    );
    const longest = Math.max(0, ...sheets.map((sheet) => sheet.rows.length));
    if (longest > limits.rows) return tooManyRows(limits);
    if (sheets.every((sheet) => sheet.rows.length === 0))
      return fault("empty-file", message("sheet.noCellFilled", { sheets: sheets.length }));
    return { ok: true, workbook: { format, sheets } };
  } catch (failure) {
    if (failure instanceof Error && /password|encrypt/i.test(failure.message)) {
      return fault("locked-file", message("sheet.lockedFile"));
    }
    if (
      failure instanceof Error &&
      /row|dimension/i.test(failure.message) &&
      /limit/i.test(failure.message)
    )
      return tooManyRows(limits);
    return fault("broken-file", message("sheet.damagedFile"));
  }
}

function toSheet(
  name: string,
  hidden: boolean,
  sheet: WorkSheet | undefined,
  limits: FileLimits,
): Sheet {
  const data: (CellObject | undefined)[][] = sheet?.["!data"] ?? [];
  const rows: string[][] = [];
  for (const cells of data) {
    const row: string[] = [];
    const width = Math.min(cells?.length ?? 0, limits.columns);
    for (let column = 0; column < width; column++) row.push(cellText(cells?.[column]));
    while (row.length > 0 && row[row.length - 1] === "") row.pop();
    rows.push(row);
  }
  while (rows.length > 0 && rows[rows.length - 1]?.length === 0) rows.pop();
  const joined = (sheet?.["!merges"] ?? []).slice(0, MOST_JOINED).map(({ s, e }) => ({
    firstRow: s.r,
    lastRow: e.r,
    firstColumn: s.c,
    lastColumn: e.c,
  }));
  return { name, hidden, rows: withoutAnswers(rows), joined };
}

function cellText(cell: CellObject | undefined): string {
  if (
    cell === undefined ||
    cell.v === undefined ||
    cell.v === null ||
    cell.t === "e" ||
    cell.t === "z"
  )
    return "";
  if (cell.v instanceof Date) {
    if (Number.isNaN(cell.v.getTime())) return cell.w ?? "";
    const iso = new Date(Math.round(cell.v.getTime() / 1000) * 1000).toISOString();
    return iso.endsWith("T00:00:00.000Z") ? iso.slice(0, 10) : iso.slice(0, 19).replace("T", " ");
  }
  if (cell.t === "n") return cell.w ?? String(cell.v);
  return String(cell.v);
}

function startsWith(bytes: Uint8Array, signature: number[]): boolean {
  return signature.every((octet, index) => bytes[index] === octet);
}

function megabytes(octets: number): string {
  return (octets / 1024 / 1024).toFixed(octets < 10 * 1024 * 1024 ? 1 : 0);
}

function fault(code: FileFault["code"], sentence: Message): { ok: false; fault: FileFault } {
  return { ok: false, fault: { code, sentence } };
}

function notASpreadsheet(what: "pdf" | "binary" | "markup" | "document" | "archive"): {
  ok: false;
  fault: FileFault;
} {
  return fault("not-a-spreadsheet", message("sheet.notASpreadsheet", { what }));
}

function tooManyCells(limits: FileLimits): { ok: false; fault: FileFault } {
  return fault("too-many-cells", message("sheet.tooManyCells", { limit: limits.cells }));
}

function tooManyRows(limits: FileLimits): { ok: false; fault: FileFault } {
  return fault("too-many-rows", message("sheet.tooManyRows", { limit: limits.rows }));
}
