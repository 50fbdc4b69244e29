import { noSuch, refused, Refused } from "../refused";
import { placeOf, newsByRow } from "./answerSheetNews";
import { utils, write } from "@e965/xlsx";
import { say } from "@amigo/language/say";
import { answerCells, type RowNews } from "@amigo/core/sheet/answers/answerCells";
import { ANSWER_TITLES, type SheetAnswers } from "@amigo/core/sheet/answers/answerColumns";
import { intoOds } from "@amigo/core/sheet/answers/intoOds";
import { intoText } from "@amigo/core/sheet/answers/intoText";
import { intoXlsx } from "@amigo/core/sheet/answers/intoXlsx";
import { harmlessCell } from "@amigo/core/sheet/harmlessCell";
import type { Workbook } from "@amigo/core/sheet/sheet";
import type { Database } from "../db/connect";
import { tablesOfReading } from "../facts/readingQueries";
import { openBook } from "../sandbox/openBook";
import { t } from "../texts/t";
import type { TableInSheet } from "@amigo/core/sheet/table";
import { findLastFile } from "./readingQueries";
import Papa from "papaparse";

export const ANSWER_FORMATS = ["xlsx", "ods", "csv"] as const;

export type AnswerFormat = (typeof ANSWER_FORMATS)[number];

/** More columns than this leave no room for those of Amigo. */
const WIDEST = 250;

export interface AnsweredSheet {
  name: string;
  format: AnswerFormat;
  bytes: Uint8Array;
}

/**
 * The newest sheet of a source with columns of Amigo's at its end: how each row stands, on which lists, what is to be done.
 * In the file's own format everything else of it stays as it is; in another one the cells are the same and nothing more.
 *
 * @param format undefined for the file's own, or XLSX where that can't be written
 * @param file   the file as it is now, where its rows are those of the newest reading; undefined for the one that was kept
 * Refused with 422 where the file can't be written in that format.
 */
export async function answerSheet(
  db: Database,
  {
    sourceId,
    format,
    file,
  }: { sourceId: string; format?: AnswerFormat | undefined; file?: Uint8Array | undefined },
): Promise<AnsweredSheet | Refused> {
  const last = await findLastFile(db, sourceId);
  if (last === undefined) return noSuch("reading");
  const bytes = file ?? last.file;
  const workbook = await openBook(bytes);
  const tables = await tablesOfReading(db, last);
  if (workbook instanceof Refused || !tables.ok)
    return refused(422, "answers/file", t("sources.theFileOfThisImport"));
  const foundFormat = workbook.format === "text" ? "csv" : workbook.format;
  const wanted = format ?? (foundFormat === "xls" ? "xlsx" : foundFormat);
  const answers = layOut(workbook, tables.tables, await newsByRow(db, last, tables.tables));
  if (answers instanceof Refused) return answers;
  if (wanted === "csv" && answers.length > 1)
    return refused(
      422,
      "answers/csv",
      t("sources.thisFileHasSheetsThat", { answers: answers.length }),
    );
  const name = t("sources.withAnswers2", { file: last.fileName.replace(/\.[^.]*$/, "") });
  const patched =
    wanted !== foundFormat
      ? undefined
      : foundFormat === "xlsx"
        ? intoXlsx(bytes, answers)
        : foundFormat === "ods"
          ? intoOds(bytes, answers)
          : answers[0] === undefined
            ? undefined
            : intoText(bytes, answers[0]);
  return { name, format: wanted, bytes: patched ?? writeAnew(workbook, answers, wanted) };
}

/** The columns of each sheet that is read, by its rows counted from 0, the header's among them. */
function layOut(
  workbook: Workbook,
  tables: readonly TableInSheet[],
  news: ReadonlyMap<string, RowNews>,
): SheetAnswers[] | Refused {
  const answers: SheetAnswers[] = [];
  for (const { sheet, table } of tables) {
    const foundSheet = workbook.sheets.find(({ name }) => name === sheet.name);
    if (foundSheet?.apart === true || table.headerRow < 0)
      return refused(
        422,
        "answers/layout",
        t("sources.theSheetSoThereIs", {
          name: sheet.name,
          hasSeveral: foundSheet?.apart === true,
        }),
      );
    const whole = foundSheet?.rows ?? sheet.rows;
    const column = whole.reduce((widest, row) => Math.max(widest, row.length), 0);
    if (column > WIDEST)
      return refused(
        422,
        "answers/wide",
        t("sources.theSheetHasColumnsSo", { name: sheet.name, column }),
      );
    const rows = new Map<number, readonly string[]>([[table.headerRow, ANSWER_TITLES]]);
    for (const row of table.rows) {
      const told = news.get(placeOf(sheet.name, row + 1));
      if (told !== undefined) rows.set(row, answerCells(told).map(say));
    }
    answers.push({ sheet: sheet.name, column, rows });
  }
  return answers;
}

/** All sheets with the added columns, written again by their cells alone. */
function writeAnew(
  workbook: Workbook,
  answers: readonly SheetAnswers[],
  format: AnswerFormat,
): Uint8Array {
  const written = workbook.sheets.map(({ name, rows }) => ({
    name,
    rows: withAnswers(
      rows,
      answers.find(({ sheet }) => sheet === name),
    ),
  }));
  if (format === "csv") {
    const rows = written.find(({ name }) => name === answers[0]?.sheet)?.rows ?? [];
    return new TextEncoder().encode(
      `\uFEFF${Papa.unparse(
        rows.map((row) => row.map(harmlessCell)),
        { newline: "\r\n" },
      )}\r\n`,
    );
  }
  const book = utils.book_new();
  for (const { name, rows } of written)
    utils.book_append_sheet(book, utils.aoa_to_sheet(rows), name);
  return new Uint8Array(write(book, { bookType: format, type: "array" }) as ArrayBuffer);
}

function withAnswers(rows: readonly string[][], answers: SheetAnswers | undefined): string[][] {
  if (answers === undefined) return rows.map((row) => [...row]);
  return rows.map((row, at) => {
    const foundRow = answers.rows.get(at);
    return foundRow === undefined
      ? [...row]
      : [...row, ...Array<string>(answers.column - row.length).fill(""), ...foundRow];
  });
}
