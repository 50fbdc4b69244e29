import { noSuch, type Refused, refused } from "../refused";
import { createHash } from "node:crypto";
import { say } from "@amigo/language/say";
import type { FaultInSheet } from "@amigo/core/sheet/readAll";
import type { Queries } from "../db/connect";
import { copyInto, type CopyValue } from "../db/copyInto";
import { raiseVersion } from "../facts/queries";
import { inStaffLanguage } from "../texts/inLanguage";
import { t } from "../texts/t";
import type { ReadingPlan, TableInSheet } from "@amigo/core/sheet/table";
import type { SourceKind } from "../db/schema/sources";
import { storeWhole, findSource, storeSource } from "./queries";
import { needCurrentSeason } from "../facts/needCurrentSeason";

/** A source by its id, or a new one. */
export type IntoSource = { id: string } | { name: string; kind: SourceKind };

/** Writes down the faulty cells of a reading, each with the correction that has put it right. */
export async function storeFaults(
  tx: Queries,
  readingId: string,
  plan: ReadingPlan,
  faults: readonly FaultInSheet[],
): Promise<void> {
  const sheets = [plan.sheet, ...(plan.others ?? [])];
  await copyInto(
    tx,
    'reading_fault (reading_id, sheet, row, "column", written, fault, answer, proposal, sentence, why, correction_id)',
    faults.map((fault): CopyValue[] => [
      readingId,
      Math.max(sheets.indexOf(fault.sheet), 0),
      fault.row,
      fault.column,
      fault.written,
      fault.fault,
      fault.answer,
      fault.proposal ?? null,
      ...inStaffLanguage(() => [say(fault.sentence), say(fault.why)]),
      fault.correction ?? null,
    ]),
  );
}

export async function setWhole(tx: Queries, sourceId: string, whole: boolean): Promise<void> {
  const changed = await storeWhole(tx, whole, sourceId);
  for (const { seasonId } of changed) await raiseVersion(tx, seasonId, new Set());
}

export async function findOrMakeSource(
  tx: Queries,
  into: IntoSource,
  whole: boolean,
): Promise<string | Refused> {
  if ("id" in into) {
    const found = await findSource(tx, into.id);
    if (found === undefined) return noSuch("source");
    return found.id;
  }
  const current = await needCurrentSeason(tx);
  const made = await storeSource(tx, into.name, into.kind, whole, current.id);
  if (made === undefined)
    return refused(
      409,
      "source/name-taken",
      t("sources.thereIsASourceCalled", { name: into.name }),
      "name",
    );
  return made.id;
}

/** One hash of everything in the sheets that are read, title lines included. */
export function hashRows(tables: readonly TableInSheet[]): string {
  const hash = createHash("sha256");
  for (const { sheet } of tables) {
    hash.update(`\u0000${sheet.name}\u0000`);
    for (const row of sheet.rows) hash.update(`${row.join("\u0001")}\u0002`);
  }
  return hash.digest("hex");
}

/** Stores the rows that hold anything. */
export async function storeRows(
  tx: Queries,
  readingId: string,
  sheet: number,
  rows: readonly string[][],
): Promise<void> {
  function* filled(): Generator<CopyValue[]> {
    for (const [at, cells] of rows.entries())
      if (cells.some((cell) => cell !== "")) yield [readingId, sheet, at + 1, cells];
  }
  await copyInto(tx, "reading_row (reading_id, sheet, row, cells)", filled());
}
