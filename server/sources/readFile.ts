import { createHash } from "node:crypto";
import { desc, eq, sql } from "drizzle-orm";
import { readRecords } from "@amigo/core/sheet/readRecords";
import { readTable, tableFault, type ReadingPlan } from "@amigo/core/sheet/readTable";
import { readWorkbook } from "@amigo/core/sheet/readWorkbook";
import type { FileFault } from "@amigo/core/sheet/sheet";
import type { ReadingOutcome } from "@amigo/contract/sources";
import type { Caller } from "../callers/caller";
import type { Database, Queries } from "../db/connect";
import { reading, readingFault, season, source } from "../db/schema";
import { notify } from "../events/events";
import { notFound, Refusal } from "../http/fault";
import { record } from "../journal/record";
import { lockRounds, openRound } from "../rounds/openRound";

/** A file to be read into a source, with the plan that a person agreed to. */
export interface FileToRead {
  name: string;
  bytes: Uint8Array;
  plan: ReadingPlan;
}

/**
 * Reads a file into a source, by its id, or into a new one of a name: keeps the reading with every
 * row as it stands, then opens or renews the round. All of it, or nothing, is kept.
 *
 * @throws Refusal 422 with what is wrong with the file, where, and what to do
 */
export async function readFile(db: Database, caller: Caller, into: { id: string } | { name: string }, file: FileToRead): Promise<ReadingOutcome> {
  const book = readWorkbook(file.bytes);
  if (!book.ok) throw fileRefusal(book.fault);
  const found = readTable(book.workbook, file.plan);
  if (!found.ok) throw fileRefusal(found.fault);
  const wrong = tableFault(found.table);
  if (wrong !== undefined) throw fileRefusal(wrong);
  const { records, faults } = readRecords(found.sheet, found.table);
  const students = new Set(records.map(({ number, name }) => (number === "" ? `${name.given} ${name.family}` : number))).size;
  const guardians = new Set(records.flatMap(({ guardians: own }) => own.map(({ name, address }) => `${name.given} ${name.family} ${address ?? ""}`))).size;
  const sha256 = createHash("sha256").update(file.bytes).digest("hex");

  return db.transaction(async (tx) => {
    await lockRounds(tx);
    const sourceId = await findSource(tx, into);
    const [last] = await tx.select({ id: reading.id, number: reading.number, sha256: reading.sha256, plan: reading.plan }).from(reading).where(eq(reading.sourceId, sourceId)).orderBy(desc(reading.number)).limit(1);
    const counts = { source: sourceId, students, guardians, faults: faults.length };
    if (last?.sha256 === sha256 && JSON.stringify(planOnly(last.plan)) === JSON.stringify(planOnly(file.plan))) {
      const round = await openRound(tx);
      return { ...counts, reading: last.id, round: round.number, causes: round.causes, same: true };
    }
    const number = (last?.number ?? 0) + 1;
    const [made] = await tx.insert(reading).values({
      sourceId, number, fileName: file.name, format: book.workbook.format, sha256, file: Buffer.from(file.bytes),
      sheets: book.workbook.sheets.map(({ name }) => name), plan: file.plan, rows: found.table.rows.length, students, readBy: caller.id,
    }).returning({ id: reading.id });
    if (made === undefined) throw new Error("the reading was not made");
    await storeRows(tx, made.id, found.sheet.rows);
    for (let at = 0; at < faults.length; at += 2000) {
      await tx.insert(readingFault).values(faults.slice(at, at + 2000).map(({ sheet: _, proposal, ...fault }) => ({ readingId: made.id, ...fault, proposal: proposal ?? null })));
    }
    const round = await openRound(tx);
    await record(tx, { actorId: caller.id, actor: caller.name, action: "read", sentence: `${caller.name} read "${file.name}", sheet "${file.plan.sheet}": ${found.table.rows.length} rows, ${students} students`, after: { source: sourceId, reading: made.id } });
    await notify(tx, "sources", "rounds", "board");
    return { ...counts, reading: made.id, round: round.number, causes: round.causes, same: false };
  });
}

/** A file that can not be read, as a refusal. */
export function fileRefusal(fault: FileFault): Refusal {
  return new Refusal(422, `reading/${fault.code}`, fault.sentence, "file");
}

async function findSource(tx: Queries, into: { id: string } | { name: string }): Promise<string> {
  if ("id" in into) {
    const [found] = await tx.select({ id: source.id }).from(source).where(eq(source.id, into.id));
    if (found === undefined) throw notFound("source");
    return found.id;
  }
  const [current] = await tx.select().from(season).where(eq(season.current, true));
  if (current === undefined) throw new Refusal(503, "not-set-up", "This house has no current season.");
  const [made] = await tx.insert(source).values({ name: into.name, seasonId: current.id }).onConflictDoNothing().returning({ id: source.id });
  if (made === undefined) throw new Refusal(409, "source/name-taken", `There is a source called "${into.name}" already. Read the file into it, or choose another name.`, "name");
  return made.id;
}

/** Stores the rows that hold anything, in statements of a bounded size. */
async function storeRows(tx: Queries, readingId: string, rows: readonly string[][]): Promise<void> {
  const filled = rows.flatMap((cells, index) => (cells.some((cell) => cell !== "") ? [{ r: index + 1, c: cells.map((cell) => cell.replace(/\u0000/g, "")) }] : []));
  for (let at = 0; at < filled.length; at += 5000) {
    await tx.execute(sql`
      insert into reading_row (reading_id, row, cells)
      select ${readingId}::uuid, r, array(select json_array_elements_text(c)) from json_to_recordset(${JSON.stringify(filled.slice(at, at + 5000))}::json) as new(r int, c json)`);
  }
}

function planOnly({ sheet, headerRow, columns }: ReadingPlan): unknown {
  return [sheet, headerRow, columns.map(({ title, meaning, slot }) => [title, meaning, slot])];
}
