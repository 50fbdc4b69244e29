import { comparePlans, followPlan, isStrange, type PlanNote } from "@amigo/core/sheet/comparePlans";
import { readAll, type FaultInSheet } from "@amigo/core/sheet/readAll";
import {
  readTable,
  readTables,
  tableFault,
  type ReadingPlan,
  type Table,
  type TableInSheet,
} from "@amigo/core/sheet/readTable";
import { NO_CONTEXT, type ReadingContext } from "@amigo/core/sheet/readRecords";
import { countReading, type ReadingCounts } from "@amigo/core/sheet/readingSummary";
import { studentSample } from "@amigo/core/sheet/whichSource";
import { countStudents } from "@amigo/core/identity/countStudents";
import { claimsWhole } from "@amigo/core/sheet/claimsWhole";
import { tidyLine } from "@amigo/core/text/tidy";
import { readText, readWorkbook } from "@amigo/core/sheet/readWorkbook";
import type { FileFault, Workbook } from "@amigo/core/sheet/sheet";

/** What the page asks of the worker: to open a file, or to look at it by another plan or sheet. */
export type SheetRequest =
  | {
      id: number;
      ask: "open";
      bytes: ArrayBuffer;
      last: ReadingPlan | undefined;
      /** What the sheet doesn't say itself; the house's own. */
      context?: ReadingContext;
    }
  | { id: number; ask: "paste"; text: string; last: ReadingPlan | undefined }
  | { id: number; ask: "plan"; plan: ReadingPlan }
  | { id: number; ask: "sheet"; sheet: string; last: ReadingPlan | undefined }
  | { id: number; ask: "all"; last: ReadingPlan | undefined };

/** A sheet understood: what the page shows. */
export interface OpenedSheet {
  sheets: { name: string; rows: number; hidden: boolean }[];
  table: Table;
  /** The sheets that are read: the one of the table first, then those that are read along. */
  read: { name: string; headerRow: number; rows: string[][]; aside: number[] }[];
  /** Sheets with the very same titles, the table's own among them; more than one where every class has its sheet. */
  alike: string[];
  faults: FaultInSheet[];
  /** What an import of it would do, counted. */
  counts: ReadingCounts;
  students: number;
  guardians: number;
  /** What stands in the way of reading it, if anything. */
  obstacle: FileFault | undefined;
  notes: PlanNote[];
  /** What a person should know about how its columns were taken. */
  remarks: string[];
  /** A column of dates of which it can't be told whether the day or the month comes first, with a date of it. */
  unsureDates: { column: number; title: string; sample: string } | undefined;
  /** Whether it probably claims to be whole. */
  whole: boolean;
  /** Its students as name keys, by which its source is told; of very many one in so many. */
  names: string[];
  oneIn: number;
  /** Whether it is so unlike the source's last sheet that it is probably another source. */
  strange: boolean;
}

export type SheetAnswer = { id: number } & (
  { ok: true; opened: OpenedSheet } | { ok: false; fault: FileFault }
);

/** A source is told by this many students at most. */
const SAMPLE = 1000;

/** A reader that holds one file open, so that another sheet or meaning is quickly looked at. */
export function makeSheetReader(): (request: SheetRequest) => SheetAnswer {
  let workbook: Workbook | undefined;
  let settled: ReadingPlan | undefined;
  let context: ReadingContext = NO_CONTEXT;
  return (request) => {
    const { id } = request;
    if (request.ask === "open" || request.ask === "paste") {
      const read =
        request.ask === "open"
          ? readWorkbook(new Uint8Array(request.bytes))
          : readText(request.text);
      if (!read.ok) return { id, ok: false, fault: read.fault };
      workbook = read.workbook;
      settled = request.last;
      if (request.ask === "open" && request.context !== undefined) context = request.context;
    }
    if (workbook === undefined)
      return {
        id,
        ok: false,
        fault: { code: "broken-file", sentence: "No file is open. Drop it again." },
      };
    const found = tablesFor(workbook, request, settled);
    if (!found.ok) return { id, ok: false, fault: found.fault };
    const [first, ...along] = found.tables;
    if (first === undefined)
      return {
        id,
        ok: false,
        fault: { code: "empty-sheet", sentence: "No sheet of this file could be read." },
      };
    const table =
      request.ask === "plan" || settled === undefined
        ? first.table
        : followPlan(first.table, settled);
    const columns = table.columns;
    return {
      id,
      ok: true,
      opened: describe(
        workbook,
        [
          { sheet: first.sheet, table },
          ...along.map((own) => ({ ...own, table: { ...own.table, columns } })),
        ],
        table,
        settled,
        context,
      ),
    };
  };
}

/** The sheets that a request asks for; without a word, all that look alike where every class has its own. */
function tablesFor(workbook: Workbook, request: SheetRequest, settled: ReadingPlan | undefined) {
  if (request.ask === "plan") return readTables(workbook, request.plan);
  if (request.ask === "sheet")
    return readTables({
      ...workbook,
      sheets: workbook.sheets.filter(({ name }) => name === request.sheet),
    });
  return readTables(
    request.ask === "all" || settled === undefined || (settled.others ?? []).length > 0
      ? workbook
      : {
          ...workbook,
          sheets: [bestSheet(workbook)].flatMap((name) =>
            workbook.sheets.filter((sheet) => sheet.name === name),
          ),
        },
  );
}

function bestSheet(workbook: Workbook): string {
  const best = readTable(workbook);
  return best.ok ? best.sheet.name : (workbook.sheets[0]?.name ?? "");
}

function describe(
  book: Workbook,
  tables: readonly TableInSheet[],
  table: Table,
  settled: ReadingPlan | undefined,
  context: ReadingContext,
): OpenedSheet {
  const whole = readAll(tables, [], context);
  const { records, faults } = whole;
  const students = countStudents(records);
  const oneIn = Math.ceil(students / SAMPLE);
  const alike = readTables(book);
  const notes = settled === undefined ? [] : comparePlans(table, settled);
  return {
    sheets: book.sheets.map(({ name, rows, hidden }) => ({ name, rows: rows.length, hidden })),
    table,
    read: tables.map((own) => ({
      name: own.sheet.name,
      headerRow: own.table.headerRow,
      rows: own.sheet.rows,
      aside: own.table.aside.map(({ row }) => row + 1),
    })),
    alike: alike.ok ? alike.tables.map((own) => own.sheet.name) : [],
    faults,
    counts: countReading(tables, whole, students),
    students,
    guardians: new Set(
      records.flatMap(({ guardians }) =>
        guardians.map(({ name, address }) => `${name.given} ${name.family} ${address ?? ""}`),
      ),
    ).size,
    obstacle: tableFault(table),
    notes,
    remarks: tables.flatMap((own) => own.table.notes),
    unsureDates: unsureDates(tables),
    whole: claimsWhole(table, tables.length > 1),
    names: studentSample(records, oneIn),
    oneIn,
    strange: settled !== undefined && isStrange(notes, settled),
  };
}

function unsureDates(tables: readonly TableInSheet[]): OpenedSheet["unsureDates"] {
  const [first] = tables;
  const column = first?.table.columns.find(({ order }) => order === "unsure");
  if (first === undefined || column === undefined) return undefined;
  const cells = first.table.rows.map((row) =>
    tidyLine(first.sheet.rows[row]?.[column.index] ?? ""),
  );
  const sample =
    cells.find((cell) => {
      const [one, other] = cell.split(/[/.-]/);
      return one !== undefined && other !== undefined && Number(one) !== Number(other);
    }) ?? "";
  return { column: column.index, title: column.title, sample };
}
