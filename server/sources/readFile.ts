import { noSuch, refused, Refused } from "../refused";
import { inTransaction } from "../db/inTransaction";
import { notesOf, countGuardians } from "./readingNotes";
import {
  storeFaults,
  setWhole,
  findOrMakeSource,
  type IntoSource,
  hashRows,
  storeRows,
} from "./storeReading";
import { createHash } from "node:crypto";
import { say } from "@amigo/language/say";
import { withoutPrivate } from "@amigo/core/sheet/withoutPrivate";
import { countStudents } from "@amigo/core/identity/countStudents";
import { claimsWhole } from "@amigo/core/sheet/claimsWhole";
import { readAll } from "@amigo/core/sheet/readAll";
import { readTables } from "@amigo/core/sheet/readTable";
import { tableFault } from "@amigo/core/sheet/tableNotes";
import { countReading, readingSummary } from "@amigo/core/sheet/readingSummary";
import { seasonsNamed } from "@amigo/core/sheet/seasonsNamed";
import type { Workbook } from "@amigo/core/sheet/sheet";
import type { ReadingOutcome } from "@amigo/contract/readings";
import type { Database, Queries } from "../db/connect";
import { notify } from "../events/events";
import { record } from "../events/record";
import { correctionsOf, readingContext } from "../facts/readingQueries";
import type { Actor } from "../change/carryOut";
import { fileRefused, openBook } from "../sandbox/openBook";
import { openRound, type OnProgress } from "../change/openRound";
import { stepByItself } from "../rounds/stepByItself";
import { t } from "../texts/t";
import type { ReadingPlan, TableInSheet } from "@amigo/core/sheet/table";
import { lockRounds } from "../change/roundQueries";
import {
  findLastImport,
  findLastReading,
  endOutdated,
  storeMet,
  storeReading,
} from "./readingQueries";
import { nameOf } from "./queries";

/** A file to be read into a source, with the plan that a person agreed to. */
export interface FileToRead {
  name: string;
  bytes: Uint8Array;
  plan: ReadingPlan;
  /** When the file was last written, as an ISO instant; empty where it is not known. */
  writtenAt: string;
  /** Whether it claims to be whole, where somebody has said. */
  whole?: Whole;
}

/** Says whether a sheet claims to be whole; undefined for as it was, or as its columns tell. */
type Whole = boolean | undefined;

export interface FileRead extends ReadingOutcome {
  /** What came of it by itself, in a sentence; empty where a person is to decide. */
  byItself: string;
}

/**
 * Reads a file into a source, by its id, or into a new one of a name: keeps the reading with every
 * row as it stands, then opens or renews the round. All of it, or nothing, is kept.
 *
 * Refused with 422 and what is wrong with the file, where, and what to do.
 */
export async function readFile(
  db: Database,
  {
    actor,
    into,
    file,
    byItself = false,
  }: { actor: Actor; into: IntoSource; file: FileToRead; byItself?: boolean },
  tell: OnProgress = () => undefined,
): Promise<FileRead | Refused> {
  tell(t("sources.readingTheFile"), 0.02);
  const workbook = await openBook(file.bytes);
  if (workbook instanceof Refused) return workbook;
  return readBook(db, { actor, into, file, byItself }, workbook, tell);
}

/**
 * Imports the last file of a source once more, with other meanings of its columns.
 *
 * Refused with 404 where nothing was imported yet; 422 for the answers of forms, whose columns are the form's own.
 */
export async function changeMeanings(
  db: Database,
  { actor, source: id, plan }: { actor: Actor; source: string; plan: ReadingPlan },
  tell: OnProgress = () => undefined,
): Promise<FileRead | Refused> {
  const last = await findLastImport(db, id);
  if (last === undefined) return noSuch("import");
  if (last.kind === "form" || last.kind === "posted")
    return refused(422, "source/of-form", t("sources.theColumnsOfThisSource"));
  return readFile(
    db,
    {
      actor,
      into: { id },
      file: {
        name: last.name,
        bytes: last.bytes,
        plan,
        writtenAt: last.writtenAt?.toISOString() ?? "",
      },
    },
    tell,
  );
}

/** A file to import, taken apart, without what is never stored. */
interface OpenedFile {
  file: FileToRead;
  workbook: Workbook;
  tables: readonly TableInSheet[];
  /** The file itself, written again where something of it is never stored. */
  bytes: Uint8Array;
  sha256: string;
  rowsHash: string;
}

/** Imports a file that is taken apart already. */
export async function readBook(
  db: Database,
  {
    actor,
    into,
    file,
    byItself,
  }: { actor: Actor; into: IntoSource; file: FileToRead; byItself: boolean },
  workbook: Workbook,
  tell: OnProgress,
): Promise<FileRead | Refused> {
  const opened = openTables(file, workbook);
  if (opened instanceof Refused) return opened;
  const [first] = opened.tables;
  return inTransaction(db, async (tx) => {
    // Another import may take minutes; this one has a connection of the desk, which nobody else waits for.
    await lockRounds(tx, "5min");
    const sourceId = await findOrMakeSource(
      tx,
      into,
      file.whole ?? (first === undefined || claimsWhole(first.table, opened.tables.length > 1)),
    );
    if (sourceId instanceof Refused) return sourceId;
    if ("id" in into && file.whole !== undefined) await setWhole(tx, sourceId, file.whole);
    const last = await findLastReading(tx, sourceId);
    const read =
      last !== undefined && isUnchanged(last, opened)
        ? await readUnchanged(tx, last, tell)
        : await readChanged(tx, { actor, sourceId, last, opened }, tell);
    const done = byItself ? await stepByItself(tx, await nameOf(tx, sourceId)) : "";
    if (done instanceof Refused) return done;
    if (!read.same) await notify(tx, "sources", "rounds", "board");
    return { source: sourceId, ...read, byItself: done };
  });
}

/** Finds the tables of a file, and takes out of it what is never stored: rows, faults and the kept file don't have it. */
function openTables(file: FileToRead, workbook: Workbook): OpenedFile | Refused {
  const found = readTables(workbook, file.plan);
  if (!found.ok) return fileRefused(found.fault);
  const wrong = found.tables
    .map(({ table }) => tableFault(table))
    .find((fault) => fault !== undefined);
  if (wrong !== undefined) return fileRefused(wrong);
  const { tables, bytes } = withoutPrivate(workbook, found.tables);
  return {
    file,
    workbook,
    tables,
    bytes: bytes ?? file.bytes,
    sha256: createHash("sha256").update(file.bytes).digest("hex"),
    rowsHash: hashRows(tables),
  };
}

type LastReading = NonNullable<Awaited<ReturnType<typeof findLastReading>>>;

type ReadInto = Omit<FileRead, "source" | "byItself">;

function isUnchanged(last: LastReading, { file, sha256, rowsHash }: OpenedFile): boolean {
  return (
    (last.sha256 === sha256 || last.rowsHash === rowsHash) &&
    JSON.stringify(planOnly(last.plan)) === JSON.stringify(planOnly(file.plan))
  );
}

/** Makes the open round again for a file in which nothing has changed. */
async function readUnchanged(tx: Queries, last: LastReading, tell: OnProgress): Promise<ReadInto> {
  const round = await openRound(tx, undefined, tell);
  return {
    reading: last.id,
    students: last.students,
    guardians: 0,
    faults: 0,
    round: round.number,
    causes: round.causes,
    same: true,
    summary: "This very file was imported before, and nothing of it is different.",
  };
}

/** Stores the rows of a file and its faults, and opens a round with what they change. */
async function readChanged(
  tx: Queries,
  {
    actor,
    sourceId,
    last,
    opened,
  }: { actor: Actor; sourceId: string; last: LastReading | undefined; opened: OpenedFile },
  tell: OnProgress,
): Promise<ReadInto> {
  const { file, tables } = opened;
  tell(t("sources.readingRowsAndAddresses"), 0.1);
  const whole = readAll(
    tables,
    await correctionsOf(tx, sourceId),
    await readingContext(tx, sourceId),
  );
  const { records, faults, outdated } = whole;
  const students = countStudents(records);
  const rows = tables.reduce((sum, { table }) => sum + table.rows.length, 0);
  const number = (last?.number ?? 0) + 1;
  tell(t("sources.keepingTheRows"), 0.2);
  const readingId = await storeReading(tx, {
    sourceId,
    number,
    fileName: file.name,
    format: opened.workbook.format,
    sha256: opened.sha256,
    rowsHash: opened.rowsHash,
    file: Buffer.from(opened.bytes),
    sheets: opened.workbook.sheets.map(({ name }) => name),
    plan: file.plan,
    rows,
    students,
    readBy: actor.id,
    writtenAt: file.writtenAt === "" ? null : new Date(file.writtenAt),
    seasons: whole.season === "" ? seasonsNamed(file.name, tables) : [whole.season],
    notes: notesOf(tables, last, whole),
  });
  for (const [index, { sheet }] of tables.entries())
    await storeRows(tx, readingId, index, sheet.rows);
  await storeFaults(tx, readingId, file.plan, faults);
  if (outdated.length > 0) await endOutdated(tx, number, outdated);
  const round = await openRound(tx, { id: readingId, records }, tell);
  if (round.met !== undefined) await storeMet(tx, readingId, round.met);
  await record(tx, {
    actorId: actor.id,
    actor: actor.name,
    action: "read",
    sentence: () =>
      t("sources.readSheetRowsStudents", {
        name: actor.name,
        file: file.name,
        sheet: file.plan.sheet,
        rows,
        students,
      }),
    after: { source: sourceId, reading: readingId },
  });
  return {
    reading: readingId,
    students,
    guardians: countGuardians(records),
    faults: faults.length,
    round: round.number,
    causes: round.causes,
    same: false,
    summary: say(readingSummary(countReading(tables, whole, students))),
  };
}

function planOnly({
  sheet,
  headerRow,
  columns,
  others = [],
  headings,
  everyRow,
  twoSurnames,
  joinLevel,
}: ReadingPlan): unknown {
  return [
    sheet,
    headerRow,
    columns.map(({ title, meaning, slot, order }) => [title, meaning, slot, order]),
    others,
    [headings?.meaning, headings?.rows],
    [everyRow?.meaning, everyRow?.value],
    twoSurnames,
    joinLevel,
  ];
}
