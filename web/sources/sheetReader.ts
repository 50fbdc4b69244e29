import { message, type Message } from "@amigo/language/message";
import { comparePlans, followPlan, isStrange, type PlanNote } from "@amigo/core/sheet/comparePlans";
import { showQuestion, type ShownQuestion } from "@amigo/core/sheet/columns/answerEffects";
import type { KnownWords } from "@amigo/core/sheet/columns/knownWords";
import { isUsed } from "@amigo/core/sheet/meanings/isUsed";
import { readAll, type FaultInSheet } from "@amigo/core/sheet/readAll";
import { planOf, questionsOf } from "@amigo/core/sheet/readingPlan";
import { readTables } from "@amigo/core/sheet/readTable";
import { tableFault, tableNotes } from "@amigo/core/sheet/tableNotes";
import { NO_CONTEXT, type ReadingContext } from "@amigo/core/sheet/readingContext";
import { countReading, type ReadingCounts } from "@amigo/core/sheet/readingSummary";
import { studentSample } from "@amigo/core/sheet/whichSource";
import { countStudents } from "@amigo/core/identity/countStudents";
import { claimsWhole } from "@amigo/core/sheet/claimsWhole";
import { tidyLine } from "@amigo/core/text/tidy";
import { readText, readWorkbook } from "@amigo/core/sheet/readWorkbook";
import type { FileFault, OrFileFault } from "@amigo/core/sheet/sheet";
import type { Table, ReadingPlan, Settled, TableInSheet } from "@amigo/core/sheet/table";
import { overlaid, type SaidOfSheet, type InHand } from "./overlaid";

/** What the page asks of the worker: to open a file, to look at another sheet, or to take what somebody says. */
export type SheetRequest =
  | {
      id: number;
      ask: "open";
      bytes: ArrayBuffer;
      last: ReadingPlan | undefined;
      /** The file's name, which may name the class. */
      file?: string;
      /** What the sheet doesn't say itself; the house's own. */
      context?: ReadingContext;
      known?: KnownWords | undefined;
    }
  | { id: number; ask: "paste"; text: string; last: ReadingPlan | undefined }
  | { id: number; ask: "say"; said: SaidOfSheet }
  | { id: number; ask: "sheet"; sheet: string }
  | { id: number; ask: "all" };

/** A sheet understood: what the page shows. */
export interface OpenedSheet {
  sheets: { name: string; rows: number; hidden: boolean }[];
  table: Table;
  /** The plan by which it is imported as it is understood now. */
  plan: ReadingPlan;
  /** What somebody has to say about its columns, the weightiest first. */
  questions: ShownQuestion[];
  /** The sheets that are read: the one of the table first, then those that are read along. */
  read: { name: string; headerRow: number; rows: string[][]; aside: number[] }[];
  /** Sheets with nearly the same titles, the table's own among them; more than one where every class has its sheet. */
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
  remarks: Message[];
  /** A column of dates of which it can't be told whether the day or the month comes first, with a date of it. */
  unsureDates: { column: number; title: string; sample: string } | undefined;
  /** Whether it probably claims to be whole. */
  whole: boolean;
  /** Its students as name keys, by which its source is found; where there are very many, every second, third or further one. */
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
  let inHand: InHand | undefined;
  return (request) => {
    const { id } = request;
    if (request.ask === "open" || request.ask === "paste") {
      const read =
        request.ask === "open"
          ? readWorkbook(new Uint8Array(request.bytes))
          : readText(request.text);
      if (!read.ok) return { id, ok: false, fault: read.fault };
      inHand = {
        workbook: read.workbook,
        file: request.ask === "open" ? (request.file ?? "") : "",
        last: request.last,
        context: (request.ask === "open" ? request.context : undefined) ?? NO_CONTEXT,
        known: request.ask === "open" ? request.known : undefined,
        sheet: undefined,
        all: false,
        columns: new Map(),
        said: {},
      };
    }
    if (inHand === undefined)
      return {
        id,
        ok: false,
        fault: { code: "broken-file", sentence: message("sheet.noFileIsOpen") },
      };
    const next = nextOf(inHand, request);
    const found = understandSheet(next);
    if (!found.ok) return { id, ok: false, fault: found.fault };
    inHand = next;
    return { id, ok: true, opened: describe(next, found) };
  };
}

/** What is in hand after a request. */
function nextOf(inHand: InHand, request: SheetRequest): InHand {
  if (request.ask === "sheet")
    return { ...inHand, sheet: request.sheet, all: false, columns: new Map(), said: {} };
  if (request.ask === "all")
    return { ...inHand, sheet: undefined, all: true, columns: new Map(), said: {} };
  if (request.ask !== "say") return inHand;
  const { columns = [], ...said } = request.said;
  // Another row of titles is another table: what was said of its columns is about others now.
  const isMoved =
    said.headerRow !== undefined &&
    said.headerRow !== inHand.said.headerRow &&
    columns.length === 0;
  return {
    ...inHand,
    columns: isMoved
      ? new Map()
      : columns.reduce(
          (all, { column, ...rest }) => settle(all, column, rest),
          new Map(inHand.columns),
        ),
    said: { ...inHand.said, ...said },
  };
}

/** Settles a column; another one that somebody gave the same meaning before is open again. */
function settle(all: Map<number, Settled>, column: number, item: Settled): Map<number, Settled> {
  for (const [other, { meaning, slot }] of all)
    if (other !== column && isUsed(item.meaning) && meaning === item.meaning && slot === item.slot)
      all.delete(other);
  return all.set(column, item);
}

/** Understands the sheet in hand: as Amigo would, then as the source's last import was settled, then as somebody says. */
function understandSheet(inHand: InHand): OrFileFault<{ tables: TableInSheet[]; alike: string[] }> {
  const { workbook, last, sheet, all, columns, said, file, known } = inHand;
  const isOne =
    sheet !== undefined || (last !== undefined && !all && (last.others ?? []).length === 0);
  const hints = { file, known, sheet, headerRow: said.headerRow, settled: columns };
  const found = readTables(workbook, undefined, hints);
  if (!found.ok) return found;
  const alike = found.tables.map((tableInSheet) => tableInSheet.sheet.name);
  const [first, ...along] = found.tables;
  if (first === undefined) return { ...found, alike };
  const followed = last === undefined ? first.table : followPlan(first.table, last);
  const table = overlaid(followed, inHand);
  const others = isOne ? [] : along.map((tableInSheet) => tableInSheet.sheet.name);
  if (others.length === 0) return { ok: true, tables: [{ sheet: first.sheet, table }], alike };
  const read = readTables(workbook, planOf(table, others));
  if (!read.ok) return read;
  return {
    ok: true,
    alike,
    tables: read.tables.map((tableInSheet, at) =>
      at === 0
        ? {
            ...tableInSheet,
            table: {
              ...table,
              ...(tableInSheet.table.everyRow === undefined
                ? {}
                : { everyRow: tableInSheet.table.everyRow }),
            },
          }
        : tableInSheet,
    ),
  };
}

function describe(
  { workbook: book, last, context, known }: InHand,
  { tables, alike }: { tables: readonly TableInSheet[]; alike: string[] },
): OpenedSheet {
  const [first] = tables;
  if (first === undefined) throw new Error("no table is read");
  const { table, sheet } = first;
  const whole = readAll(tables, [], context);
  const { records, faults } = whole;
  const students = countStudents(records);
  const oneIn = Math.ceil(students / SAMPLE);
  const notes = last === undefined ? [] : comparePlans(table, last);
  const cellsOf = (column: number): string[] =>
    table.rows.map((row) => sheet.rows[row]?.[column] ?? "");
  return {
    sheets: book.sheets.map(({ name, rows, hidden }) => ({ name, rows: rows.length, hidden })),
    table,
    plan: planOf(
      table,
      tables.slice(1).map((tableInSheet) => tableInSheet.sheet.name),
    ),
    questions: questionsOf(table).map((question) => showQuestion(question, cellsOf, known)),
    read: tables.map((tableInSheet) => ({
      name: tableInSheet.sheet.name,
      headerRow: tableInSheet.table.headerRow,
      rows: tableInSheet.sheet.rows,
      aside: tableInSheet.table.aside.map(({ row }) => row + 1),
    })),
    alike,
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
    remarks: [...tables.flatMap((tableInSheet) => tableInSheet.table.notes), ...tableNotes(first)],
    unsureDates: unsureDates(tables),
    whole: claimsWhole(table, tables.length > 1),
    names: studentSample(records, oneIn),
    oneIn,
    strange: last !== undefined && isStrange(notes, last),
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
