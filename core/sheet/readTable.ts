import { each, message, type Message } from "@amigo/language/message";
import { dateOrder } from "../dates/dateOrder";
import { fold } from "../text/fold";
import { tidyLine } from "../text/tidy";
import { askColumns, type ColumnQuestion } from "./columns/askColumns";
import { whyNoIdentity } from "./countsRows";
import { columnsIn, findHeader, headerAt, type FoundHeader } from "./findHeader";
import { meaningOf } from "./meanings/allMeanings";
import { namesGroups } from "./namesGroups";
import { proposeTable } from "./proposeTable";
import { groupNamedIn, plainClassName, type GroupNamed } from "./shapes/className";
import { sortRows } from "./shapes/sortRows";
import type { FileFault, OrFileFault, Sheet, Workbook } from "./sheet";
import type { TableColumn, Table, ReadingPlan, SheetHints, TableInSheet } from "./table";

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

/** A plan for another sheet with the titles of a table: each column by its title. */
function byTitle(table: Table, { titles, row }: FoundHeader): ReadingPlan {
  const left = [...table.columns];
  const columns = titles.map((title, index): ReadingPlan["columns"][number] => {
    const key = fold(title);
    const straight = left.findIndex(
      (tableColumn) => tableColumn.index === index && fold(tableColumn.title) === key,
    );
    const at =
      straight >= 0
        ? straight
        : left.findIndex((tableColumn) => key !== "" && fold(tableColumn.title) === key);
    const [item] = at < 0 ? [] : left.splice(at, 1);
    return item === undefined
      ? { title, meaning: "unread", slot: 0 }
      : { ...columnPlan(item), title };
  });
  return { sheet: table.sheet, headerRow: row, columns, ...manners(table) };
}

/** What of a table a plan keeps beside its columns. */
export function manners({
  twoSurnames,
  joinLevel,
}: Pick<ReadingPlan, "twoSurnames" | "joinLevel">): Pick<Table, "twoSurnames" | "joinLevel"> {
  return {
    ...(twoSurnames === undefined ? {} : { twoSurnames }),
    ...(joinLevel === undefined ? {} : { joinLevel }),
  };
}

/** A column as a plan keeps it. */
function columnPlan({ title, meaning, slot, order }: TableColumn): ReadingPlan["columns"][number] {
  return {
    title,
    meaning,
    slot,
    ...(order === undefined || order === "unsure" ? {} : { order }),
  };
}

/** Everything about a table that has to be kept so that it can be read in the same way again. */
export function planOf(table: Table, others: readonly string[] = []): ReadingPlan {
  return {
    sheet: table.sheet,
    headerRow: table.headerRow,
    columns: table.columns.map(columnPlan),
    ...(others.length === 0 ? {} : { others: [...others] }),
    ...(table.headings === undefined
      ? {}
      : {
          headings: {
            meaning: table.headings.meaning,
            rows: table.headings.lines.map(({ row }) => row),
          },
        }),
    ...(table.everyRow === undefined || others.length > 0 ? {} : { everyRow: table.everyRow }),
    ...manners(table),
  };
}

/** The questions that a table leaves to a person. */
export function questionsOf(table: Table): ColumnQuestion[] {
  return askColumns(table.columns, { isWhole: table.joinLevel === true });
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

/** Of several sheets the one that is most like a roster: titles that are known, addresses, many rows. */
function chooseSheet(workbook: Workbook): Sheet | undefined {
  const visible = workbook.sheets.filter((sheet) => !sheet.hidden);
  const scored = (visible.length > 0 ? visible : workbook.sheets).map((sheet) => {
    const header = findHeader(sheet);
    const filled = sheet.rows.filter((row) => row.filter((cell) => cell !== "").length > 1);
    const addresses = filled.filter((row) => row.some((cell) => cell.includes("@"))).length;
    return {
      sheet,
      score:
        header === undefined
          ? -1
          : Math.min(header.points, 12) +
            Math.log2(1 + filled.length) +
            (addresses * 3 > filled.length ? 4 : addresses > 0 ? 1 : 0),
    };
  });
  return scored.sort((a, b) => b.score - a.score)[0]?.sheet;
}

/** Takes a sheet apart as somebody has settled it. */
function follow(sheet: Sheet, header: FoundHeader, plan: ReadingPlan): Table {
  const sorted = sortRows(sheet, header);
  const rows =
    plan.headings === undefined || plan.sheet !== sheet.name
      ? undefined
      : new Set(plan.headings.rows);
  const lines =
    rows === undefined
      ? sorted.headings
      : [...rows].map((row) => ({
          row,
          text: tidyLine((sheet.rows[row] ?? []).find((cell) => cell.trim() !== "") ?? ""),
        }));
  const meaning = plan.headings?.meaning;
  const data =
    rows === undefined
      ? sorted.rows
      : [...sorted.rows, ...sorted.headings.map(({ row }) => row)]
          .filter((row) => !rows.has(row) && row > header.row)
          .sort((a, b) => a - b);
  const found = columnsIn(sheet, header, []);
  const isPlain =
    header.row < 0 &&
    plan.columns.every(
      ({ meaning: meaningId }) => meaningId === "guardian.address" || meaningId === "unread",
    );
  const columns = found.map(({ title, group }, index): TableColumn => {
    const column: ReadingPlan["columns"][number] = plan.columns[index] ?? {
      title,
      meaning: "unread",
      slot: 0,
    };
    const order =
      column.order ??
      (column.meaning === "answered"
        ? dateOrder(data.map((row) => sheet.rows[row]?.[index] ?? ""))
        : undefined);
    const { slotted } = meaningOf(column.meaning);
    return {
      ...(order === undefined ? {} : { order }),
      index,
      title,
      group,
      meaning: isPlain ? "guardian.address" : column.meaning,
      slot: isPlain ? index + 1 : slotted ? Math.max(column.slot, 1) : column.slot,
      confidence: 1,
    };
  });
  return {
    sheet: sheet.name,
    headerRow: header.row,
    columns,
    rows: data,
    aside:
      rows === undefined
        ? sorted.aside
        : [
            ...sorted.aside.filter(({ why, row }) => why !== "heading" && !rows.has(row)),
            ...[...rows]
              .filter((row) => row > header.row)
              .map((row) => ({ row, why: "heading" as const })),
          ],
    notes: [],
    ...(meaning === undefined || lines.length === 0 ? {} : { headings: { meaning, lines } }),
    ...(plan.everyRow === undefined || plan.sheet !== sheet.name
      ? {}
      : { everyRow: plan.everyRow }),
    ...manners(plan),
  };
}

function fault(code: FileFault["code"], sentence: Message): { ok: false; fault: FileFault } {
  return { ok: false, fault: { code, sentence } };
}
