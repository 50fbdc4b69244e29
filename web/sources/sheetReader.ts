import { comparePlans, followPlan, isStrange, type PlanNote } from "@amigo/core/sheet/comparePlans";
import { readRecords, type CellFault } from "@amigo/core/sheet/readRecords";
import { readTable, tableFault, type ReadingPlan, type Table } from "@amigo/core/sheet/readTable";
import { readText, readWorkbook } from "@amigo/core/sheet/readWorkbook";
import type { FileFault, Sheet, Workbook } from "@amigo/core/sheet/sheet";

/** What the page asks of the worker: to open a file, or to look at it by another plan or sheet. */
export type SheetRequest =
  | { id: number; ask: "open"; bytes: ArrayBuffer; last: ReadingPlan | undefined }
  | { id: number; ask: "paste"; text: string; last: ReadingPlan | undefined }
  | { id: number; ask: "plan"; plan: ReadingPlan }
  | { id: number; ask: "sheet"; sheet: string; last: ReadingPlan | undefined };

/** A sheet understood: what the page shows. */
export interface OpenedSheet {
  sheets: { name: string; rows: number; hidden: boolean }[];
  table: Table;
  rows: string[][];
  faults: CellFault[];
  students: number;
  guardians: number;
  /** What stands in the way of reading it, if anything. */
  obstacle: FileFault | undefined;
  notes: PlanNote[];
  /** Whether it is so unlike the source's last sheet that it is probably another source. */
  strange: boolean;
}

export type SheetAnswer = { id: number } & ({ ok: true; opened: OpenedSheet } | { ok: false; fault: FileFault });

/** A reader that holds one file open, so that another sheet or meaning is quickly looked at. */
export function makeSheetReader(): (request: SheetRequest) => SheetAnswer {
  let workbook: Workbook | undefined;
  let settled: ReadingPlan | undefined;
  return (request) => {
    const { id } = request;
    if (request.ask === "open" || request.ask === "paste") {
      const read = request.ask === "open" ? readWorkbook(new Uint8Array(request.bytes)) : readText(request.text);
      if (!read.ok) return { id, ok: false, fault: read.fault };
      workbook = read.workbook;
      settled = request.last;
    }
    if (workbook === undefined) return { id, ok: false, fault: { code: "broken-file", sentence: "No file is open. Drop it again." } };
    const only = request.ask === "sheet" ? { ...workbook, sheets: workbook.sheets.filter(({ name }) => name === request.sheet) } : workbook;
    const found = readTable(only, request.ask === "plan" ? request.plan : undefined);
    if (!found.ok) return { id, ok: false, fault: found.fault };
    const table = request.ask === "plan" || settled === undefined ? found.table : followPlan(found.table, settled);
    return { id, ok: true, opened: describe(workbook, found.sheet, table, settled) };
  };
}

function describe(book: Workbook, sheet: Sheet, table: Table, settled: ReadingPlan | undefined): OpenedSheet {
  const { records, faults } = readRecords(sheet, table);
  const notes = settled === undefined ? [] : comparePlans(table, settled);
  return {
    sheets: book.sheets.map(({ name, rows, hidden }) => ({ name, rows: rows.length, hidden })),
    table,
    rows: sheet.rows,
    faults,
    students: new Set(records.map(({ number, name }) => (number === "" ? `${name.given} ${name.family}` : number))).size,
    guardians: new Set(records.flatMap(({ guardians }) => guardians.map(({ name, address }) => `${name.given} ${name.family} ${address ?? ""}`))).size,
    obstacle: tableFault(table),
    notes,
    strange: settled !== undefined && isStrange(notes, settled),
  };
}
