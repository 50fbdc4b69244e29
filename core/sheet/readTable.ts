import { each, message, type Message } from "@amigo/language/message";
import { fold } from "../text/fold";
import { tidyLine } from "../text/tidy";
import { whyNoIdentity } from "./countsRows";
import { findHeader, headerAt, type FoundHeader } from "./findHeader";
import { namesGroups } from "./namesGroups";
import { proposeTable } from "./proposeTable";
import { groupNamedIn, plainClassName, type GroupNamed } from "./shapes/className";
import type { FileFault, OrFileFault, Sheet, Workbook } from "./sheet";
import type { Table, ReadingPlan, SheetHints, TableInSheet } from "./table";
import { byTitle } from "./readingPlan";
import { follow } from "./followPlan";
import { chooseSheet } from "./chooseSheet";

/**
 * Takes a workbook apart into a table. Without a plan it chooses the sheet that is most like a roster, finds the header and
 * proposes the meanings; with one it follows the plan.
 *
 * @returns the table, or the fault `empty-sheet`, `no-header` or `no-such-sheet`
 */
export function readTable(
  workbook: Workbook,
  plan?: ReadingPlan,
  hints: SheetHints = {},
): OrFileFault<{ table: Table; sheet: Sheet }> {
  const wanted = plan?.sheet ?? hints.sheet;
  const sheet =
    wanted === undefined
      ? chooseSheet(workbook)
      : workbook.sheets.find((candidate) => candidate.name === wanted);
  if (sheet === undefined) {
    const names = workbook.sheets.map(({ name }) => message("sheet.quoted", { text: name }));
    return fault(
      "no-such-sheet",
      message("sheet.noSuchSheet", { sheet: wanted ?? "", names: each(names, "comma") }),
    );
  }
  if (sheet.rows.every((row) => row.every((cell) => cell.trim() === "")))
    return fault("empty-sheet", message("sheet.emptySheet", { sheet: sheet.name }));
  const row = plan?.headerRow ?? hints.headerRow;
  const header = row === undefined ? findHeader(sheet) : headerAt(sheet, row);
  if (header === undefined)
    return fault("no-header", message("sheet.noTable", { sheet: sheet.name }));
  return {
    ok: true,
    sheet,
    table:
      plan === undefined
        ? proposeTable(sheet, header, { ...hints, isNamed: workbook.format !== "text" })
        : follow(sheet, header, plan),
  };
}

/**
 * Takes a workbook apart that may have a sheet for each class: all visible sheets with nearly the same
 * titles as the best one are read, each as a table of its own; otherwise just the best one.
 */
export function readTables(
  workbook: Workbook,
  plan?: ReadingPlan,
  hints: SheetHints = {},
): OrFileFault<{ tables: TableInSheet[] }> {
  const best = readTable(workbook, plan, hints);
  if (!best.ok) return best;
  if (plan !== undefined) return readAlong(workbook, plan, best);
  const alike = workbook.sheets
    .filter((sheet) => !sheet.hidden)
    .flatMap((sheet): TableInSheet[] => {
      if (sheet === best.sheet) return [best];
      const header = findHeader(sheet);
      return header !== undefined && isAlike(header, best.table)
        ? [{ sheet, table: follow(sheet, header, byTitle(best.table, header)) }]
        : [];
    });
  return {
    ok: true,
    tables: withoutRowCounts(alike.length > 1 ? eachAClass(alike) : [best]),
  };
}

/** Whether a header has nearly the same titles as a table. */
function isAlike({ titles }: FoundHeader, { columns }: Table): boolean {
  const known = new Set(titles.map(fold).filter((title) => title !== ""));
  const wanted = columns.map(({ title }) => fold(title)).filter((title) => title !== "");
  const shared = wanted.filter((title) => known.has(title)).length;
  return (
    (wanted.length > 0 &&
      shared >= Math.max(2, wanted.length * 0.7) &&
      known.size <= wanted.length * 1.5) ||
    (wanted.length === 1 && shared === 1 && known.size === 1)
  );
}

/** Where every class has a sheet of its own and no column names it, the line above its table is the class, or the sheet's name. */
function eachAClass(tables: TableInSheet[]): TableInSheet[] {
  if (tables.some(({ table }) => namesGroups(table))) return tables;
  const lines = tables.map(({ sheet, table }) => lineAbove(sheet, table.headerRow));
  const isTold = lines.every((line) => line !== "") && new Set(lines).size === tables.length;
  return tables.map(({ sheet, table }, at) => ({
    sheet,
    table: {
      ...table,
      everyRow: nameOfGroup(isTold ? (lines[at] ?? "") : sheet.name),
    },
  }));
}

function nameOfGroup(text: string): GroupNamed {
  return { meaning: groupNamedIn(text)?.meaning ?? "classes", value: plainClassName(text) };
}

function lineAbove(sheet: Sheet, headerRow: number): string {
  const filled = (sheet.rows[headerRow - 1] ?? []).filter((cell) => cell.trim() !== "");
  return filled.length === 1 ? tidyLine(filled[0] ?? "") : "";
}

/** Takes no number for a student's that only counts rows, or stands with several names, over all sheets of the source. */
function withoutRowCounts(tables: TableInSheet[]): TableInSheet[] {
  const column = tables[0]?.table.columns.find(({ meaning }) => meaning === "student.number");
  if (column === undefined) return tables;
  const why = whyNoIdentity(tables, column.sure ?? 0);
  if (why === undefined) return tables;
  return tables.map(({ sheet, table }, at) => ({
    sheet,
    table: {
      ...table,
      notes: at === 0 ? [...table.notes, why] : table.notes,
      columns: table.columns.map((tableColumn) =>
        tableColumn.meaning === "student.number"
          ? { ...tableColumn, meaning: "unread", confidence: 1 }
          : tableColumn,
      ),
    },
  }));
}

/** Reads the further sheets of a plan: by their own header row, with the plan's columns. */
function readAlong(
  workbook: Workbook,
  plan: ReadingPlan,
  best: TableInSheet,
): OrFileFault<{ tables: TableInSheet[] }> {
  const tables: TableInSheet[] = [{ table: best.table, sheet: best.sheet }];
  for (const name of plan.others ?? []) {
    const sheet = workbook.sheets.find((candidate) => candidate.name === name);
    const header = sheet === undefined ? undefined : findHeader(sheet);
    if (sheet === undefined || header === undefined)
      return fault(
        "no-such-sheet",
        message("sheet.alongIsGone", {
          sheet: name,
          first: plan.sheet,
          isThere: String(sheet !== undefined),
        }),
      );
    tables.push({ sheet, table: follow(sheet, header, byTitle(best.table, header)) });
  }
  return { ok: true, tables: tables.length > 1 ? eachAClass(tables) : tables };
}

function fault(code: FileFault["code"], sentence: Message): { ok: false; fault: FileFault } {
  return { ok: false, fault: { code, sentence } };
}
