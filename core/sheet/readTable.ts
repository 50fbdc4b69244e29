import { dateOrder, type ColumnOrder } from "../dates/dateOrder";
import type { DateOrder } from "../dates/readMoment";
import { fold } from "../text/fold";
import { whyNoIdentity } from "./countsRows";
import { findHeader, headerAt, headerOfPlainAddresses, type FoundHeader } from "./findHeader";
import { meaningOf } from "./meanings/allMeanings";
import { profileColumn } from "./profileColumn";
import { proposeMeanings, titleSureness, type ColumnMeaning } from "./proposeMeanings";
import type { FileFault, OrFileFault, Sheet, Workbook } from "./sheet";

/** A column of the table. `index` counts from 0. */
export interface TableColumn extends ColumnMeaning {
  index: number;
  title: string;
  group: string;
  /** In a column of dates, whether the day or the month comes first. */
  order?: ColumnOrder;
}

/** Why a row below the header is not read. */
export type AsideReason = "blank" | "total" | "remark" | "repeated header";

/** A sheet taken apart into its header, its data rows and what is set aside. Rows count from 0. */
export interface Table {
  sheet: string;
  headerRow: number;
  columns: TableColumn[];
  rows: number[];
  aside: { row: number; why: AsideReason }[];
  /** What a person should know about how its columns were taken, in sentences. */
  notes: string[];
}

/** What a person settled about a source: which sheet, which row is the header, what each column holds. */
export interface ReadingPlan {
  sheet: string;
  headerRow: number;
  columns: {
    title: string;
    meaning: ColumnMeaning["meaning"];
    slot: number;
    /** Which comes first in a column of dates, where somebody has said. */
    order?: DateOrder | undefined;
  }[];
  /** Further sheets that are read along, with the same columns: one sheet for each class. */
  others?: string[];
}

/**
 * Takes a workbook apart into a table. Without a plan it chooses the sheet with most understood
 * titles and rows, finds the header and proposes the meanings; with one it follows the plan.
 *
 * @returns the table, or the fault `empty-sheet`, `no-header` or `no-such-sheet`
 */
export function readTable(
  workbook: Workbook,
  plan?: ReadingPlan,
): OrFileFault<{ table: Table; sheet: Sheet }> {
  const sheet =
    plan === undefined
      ? chooseSheet(workbook)
      : workbook.sheets.find((candidate) => candidate.name === plan.sheet);
  if (sheet === undefined) {
    const names = workbook.sheets.map(({ name }) => `"${name}"`).join(", ");
    return fault(
      "no-such-sheet",
      `The sheet "${plan?.sheet ?? ""}" is not in this file. It has ${names}. Choose one of them.`,
    );
  }
  if (sheet.rows.every((row) => row.every((cell) => cell.trim() === "")))
    return fault(
      "empty-sheet",
      `The sheet "${sheet.name}" is empty. Choose another sheet of this file, or another file.`,
    );
  const header =
    plan === undefined
      ? (findHeader(sheet) ?? headerOfPlainAddresses(sheet))
      : headerAt(sheet, plan.headerRow);
  if (header === undefined)
    return fault(
      "no-header",
      `The sheet "${sheet.name}" has no row of titles that Amigo understands (such as Surname, Class, Email). Choose another sheet, or put a row of titles above the names.`,
    );
  return { ok: true, sheet, table: takeApart(sheet, header, plan) };
}

/** A table with the sheet that it stands in. */
export interface TableInSheet {
  table: Table;
  sheet: Sheet;
}

/**
 * Takes a workbook apart that may have a sheet for each class: all visible sheets with the very same
 * titles as the best one are read, each as a table of its own; otherwise just the best one.
 */
export function readTables(
  workbook: Workbook,
  plan?: ReadingPlan,
): OrFileFault<{ tables: TableInSheet[] }> {
  const best = readTable(workbook, plan);
  if (!best.ok) return best;
  if (plan !== undefined) return readAlong(workbook, plan, best);
  const titles = titlesOf(best.table);
  const alike = workbook.sheets
    .filter((sheet) => !sheet.hidden)
    .flatMap((sheet): TableInSheet[] => {
      const found = readTable({ ...workbook, sheets: [sheet] });
      return found.ok && titlesOf(found.table) === titles ? [found] : [];
    });
  return { ok: true, tables: withoutRowCounts(alike.length > 1 ? alike : [best]) };
}

/** Takes no number for a student's that only counts rows, or stands with several names, over all sheets of the source. */
function withoutRowCounts(tables: TableInSheet[]): TableInSheet[] {
  const column = tables[0]?.table.columns.find(({ meaning }) => meaning === "student.number");
  if (column === undefined) return tables;
  const why = whyNoIdentity(tables, titleSureness("student.number", column));
  if (why === undefined) return tables;
  return tables.map(({ sheet, table }, at) => ({
    sheet,
    table: {
      ...table,
      notes: at === 0 ? [...table.notes, why] : table.notes,
      columns: table.columns.map((own) =>
        own.meaning === "student.number" ? { ...own, meaning: "unread", confidence: 1 } : own,
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
        `The sheet "${name}", which is read along with "${plan.sheet}", is ${sheet === undefined ? "not in this file" : "without a row of titles"}. Look at the file once more and choose its sheets again.`,
      );
    tables.push({ sheet, table: takeApart(sheet, header, plan) });
  }
  return { ok: true, tables };
}

function titlesOf(table: Table): string {
  return table.columns
    .map(({ title }) => fold(title))
    .filter((title) => title !== "")
    .join("|");
}

function chooseSheet(workbook: Workbook): Sheet | undefined {
  const visible = workbook.sheets.filter((sheet) => !sheet.hidden);
  const scored = (visible.length > 0 ? visible : workbook.sheets).map((sheet) => {
    const header = findHeader(sheet);
    const filled = sheet.rows.filter((row) => row.filter((cell) => cell !== "").length > 1).length;
    return { sheet, score: (header?.understood ?? 0) * 1000 + Math.min(filled, 999) };
  });
  return scored.sort((a, b) => b.score - a.score)[0]?.sheet;
}

function takeApart(sheet: Sheet, header: FoundHeader, plan?: ReadingPlan): Table {
  const aside: Table["aside"] = [];
  const rows: number[] = [];
  const width = sheet.rows.reduce(
    (widest, row, index) => (index >= header.row ? Math.max(widest, row.length) : widest),
    0,
  );
  const repeated = fold(header.titles.join(" "));
  const titled = header.titles.filter((title) => title !== "").length;
  for (let row = header.row + 1; row < sheet.rows.length; row++) {
    const cells = sheet.rows[row] ?? [];
    const filled = cells.filter((cell) => cell.trim() !== "");
    if (filled.length === 0) aside.push({ row, why: "blank" });
    else if (isTotal(cells, titled)) aside.push({ row, why: "total" });
    else if (
      filled.length === 1 &&
      titled > 2 &&
      !/@/.test(filled[0] ?? "") &&
      cells[0]?.trim() === filled[0]?.trim() &&
      /\s/.test((filled[0] ?? "").trim())
    )
      aside.push({ row, why: "remark" });
    else if (filled.length > 1 && fold(cells.join(" ")) === repeated)
      aside.push({ row, why: "repeated header" });
    else rows.push(row);
  }
  const found = Array.from({ length: width }, (_, index) => ({
    title: header.titles[index] ?? "",
    group: header.groups[index] ?? "",
    profile: profileColumn(rows.map((row) => sheet.rows[row]?.[index] ?? "")),
  }));
  const meanings =
    plan === undefined
      ? proposeMeanings(found)
      : found.map((_, index): ColumnMeaning => ({
          meaning: "unread",
          slot: 0,
          confidence: 1,
          ...plan.columns[index],
        }));
  const columns = found.map(({ title, group }, index): TableColumn => {
    if (header.row < 0)
      return { index, title, group, meaning: "guardian.address", slot: index + 1, confidence: 1 };
    const { meaning, slot, confidence } = meanings[index] ?? {
      meaning: "unread",
      slot: 0,
      confidence: 0,
    };
    const order =
      plan?.columns[index]?.order ??
      (meaning === "answered"
        ? dateOrder(rows.map((row) => sheet.rows[row]?.[index] ?? ""))
        : undefined);
    return {
      ...(order === undefined ? {} : { order }),
      index,
      title,
      group,
      meaning,
      slot: meaningOf(meaning).slotted ? Math.max(slot, 1) : 0,
      confidence,
    };
  });
  return { sheet: sheet.name, headerRow: header.row, columns, rows, aside, notes: [] };
}

/** A totals line starts with a word for it and leaves most of the titled columns blank. */
function isTotal(cells: readonly string[], titled: number): boolean {
  const filled = cells.filter((cell) => cell.trim() !== "");
  return (
    /^(grand |sub ?)?(totals?|sum|count|number of (students|rows))\b/.test(fold(filled[0] ?? "")) &&
    filled.length <= Math.max(2, titled / 2)
  );
}

/**
 * What stands in the way of reading a table into the house: no column that names a student, or none
 * that holds an address. Undefined when nothing does.
 */
export function tableFault(table: Table): FileFault | undefined {
  const has = new Set(table.columns.map((column) => column.meaning));
  const place = `The sheet "${table.sheet}"`;
  if (table.headerRow < 0)
    return {
      code: "plain-addresses",
      sentence: `${place} is a plain column of addresses: it says at whom mail would arrive, not who they are or where they belong. Add the students' names and classes beside them; or keep the addresses on a list, on that list's own page.`,
    };
  if (table.rows.length === 0)
    return {
      code: "no-rows",
      sentence: `${place} has titles in row ${table.headerRow + 1} but no rows below them. Choose another sheet, or fill the rows in and drop it again.`,
    };
  if (!has.has("student.name") && !has.has("student.surname") && !has.has("student.given")) {
    return {
      code: "no-name-column",
      sentence: `${place} has no column with the students' names. Say above the columns which one holds them, or choose another sheet.`,
    };
  }
  if (!has.has("guardian.address") && !has.has("student.address") && !has.has("teams")) {
    return {
      code: "no-address-column",
      sentence: `No column of the sheet "${table.sheet}" holds email addresses, so nobody could be reached from it. If one does, say so above that column; else choose another sheet or file.`,
    };
  }
  return undefined;
}

function fault(code: FileFault["code"], sentence: string): { ok: false; fault: FileFault } {
  return { ok: false, fault: { code, sentence } };
}
