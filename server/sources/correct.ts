import { Refused, noSuch, refused } from "../refused";
import { inTransaction } from "../db/inTransaction";
import { readAddress } from "@amigo/core/address/readAddress";
import { splitAddresses } from "@amigo/core/address/splitAddresses";
import { rowKey } from "@amigo/core/sheet/corrections";
import { meaningName } from "@amigo/core/sheet/meanings/meaningName";
import { isUsed } from "@amigo/core/sheet/meanings/isUsed";
import { readAll } from "@amigo/core/sheet/readAll";
import { columnLetters } from "@amigo/core/sheet/sheet";
import { tidyLine } from "@amigo/core/text/tidy";
import type { Database, Queries } from "../db/connect";
import { notify } from "../events/events";
import { raiseVersion } from "../facts/queries";
import { record } from "../events/record";
import {
  correctionsOf,
  latestReadings,
  readingContext,
  tablesOfReading,
} from "../facts/readingQueries";
import type { Actor } from "../change/carryOut";
import { openRound } from "../change/openRound";
import { storeFaults } from "./storeReading";
import { noAddress } from "../texts/noAddress";
import { t } from "../texts/t";
import { lockRounds } from "../change/roundQueries";
import { findSeasonOfSource, findSeasonOfReading } from "./queries";
import { removeFaults } from "./readingQueries";
import { endCorrectionsOf, storeCorrection, endCorrectionRow } from "./correctionQueries";
import type { MeaningId } from "@amigo/core/sheet/meanings/meaning";
import type { Table } from "@amigo/core/sheet/table";

/** A cell of a reading, and what is to be read there. `row` counts from 1, `column` and `sheet` from 0. */
export interface WantedCorrection {
  reading: string;
  sheet: number;
  row: number;
  column: number;
  read: string;
}

/** What a correction leads to. */
export interface CorrectionOutcome {
  id: string;
  round: number | null;
  causes: number;
}

/**
 * Reads a cell otherwise than it is written, from now on and until the sheet itself changes there.
 *
 * Refused with 422 where the row names nobody, the column is not read, or an address is none; 409 where a newer reading is there.
 */
export async function makeCorrection(
  db: Database,
  { actor, wanted }: { actor: Actor; wanted: WantedCorrection },
): Promise<CorrectionOutcome | Refused> {
  return inTransaction(db, async (tx) => {
    await lockRounds(tx);
    const imported = await ownOf(tx, wanted.reading);
    if (imported instanceof Refused) return imported;
    const cell = cellToCorrect(imported, wanted);
    if (cell instanceof Refused) return cell;
    const { column, row, written, read, who, place } = cell;
    await endCorrectionsOf(tx, actor.name, imported.sourceId, row, column.meaning, column.slot);
    const made = await storeCorrection(
      tx,
      imported.sourceId,
      row,
      column.meaning,
      column.slot,
      written,
      read,
      who,
      place,
      actor.name,
      actor.id,
    );
    if (made === undefined) throw new Error("the correction was not made");
    await record(tx, {
      actorId: actor.id,
      actor: actor.name,
      action: "correct",
      sentence: () =>
        t("sources.correctedForWhereItSays", {
          name: actor.name,
          place,
          who,
          written,
          read,
        }),
      before: written,
      after: read,
    });
    return { id: made.id, ...(await readOnceMore(tx, imported)) };
  });
}

/** Finds a cell, how it is written and how it is to be read; refuses what can't be corrected. */
function cellToCorrect(imported: Own, wanted: WantedCorrection) {
  const found = imported.tables[wanted.sheet];
  const column = found?.table.columns[wanted.column];
  const cells = found?.sheet.rows[wanted.row - 1];
  if (found === undefined || column === undefined || cells === undefined) return noSuch("cell");
  if (!isUsed(column.meaning))
    return refused(
      422,
      "correction/unread",
      t("sources.columnIsntUsedSoThere", { column: columnLetters(wanted.column) }),
      "column",
    );
  const row = rowKey(cells, found.table);
  if (row === "")
    return refused(
      422,
      "correction/nobody",
      t("sources.rowNamesNoStudentSo", { row: wanted.row }),
      "row",
    );
  const written = cells[wanted.column] ?? "";
  const read = tidyLine(wanted.read);
  if (read === written)
    return refused(422, "correction/same", t("sources.thatIsWhatTheSheet"), "read");
  const wrong = ADDRESSES.has(column.meaning) && read !== "" ? refuseNoAddress(read) : undefined;
  if (wrong !== undefined) return wrong;
  const place = t("sources.sheetRowColumn", {
    source: imported.name,
    sheet: found.sheet.name,
    row: wanted.row,
    what: meaningName(column, "in a sentence"),
    column: columnLetters(wanted.column),
  });
  return { column, row, written, read, who: studentIn(cells, found.table), place };
}

const ADDRESSES: ReadonlySet<MeaningId> = new Set([
  "guardian.address",
  "student.address",
  "coach.address",
]);

/** Returns the name of a row's student as the sheet writes it. */
function studentIn(cells: readonly string[], { columns }: Table): string {
  return columns
    .filter(
      ({ meaning }) =>
        meaning === "student.name" ||
        meaning === "student.given" ||
        meaning === "student.surname" ||
        meaning === "children",
    )
    .sort((a, b) => (a.meaning < b.meaning ? -1 : 1))
    .map(({ index }) => tidyLine(cells[index] ?? ""))
    .filter((part) => part !== "")
    .join(" ");
}

/** Ends a correction: the cell is read as it is written again. */
export async function endCorrection(
  db: Database,
  { actor, id }: { actor: Actor; id: string },
): Promise<CorrectionOutcome | Refused> {
  return inTransaction(db, async (tx) => {
    await lockRounds(tx);
    const found = await endCorrectionRow(tx, actor.name, id);
    if (found === undefined) return noSuch("correctionInForce");
    await record(tx, {
      actorId: actor.id,
      actor: actor.name,
      action: "end correction",
      sentence: () =>
        t("sources.endedTheCorrectionOfFor", {
          name: actor.name,
          place: found.place,
          who: found.who,
          written: found.written,
        }),
      before: found.read,
      after: found.written,
    });
    const { seasonId } = (await findSeasonOfSource(tx, found.sourceId)) ?? { seasonId: 0 };
    const latest = (await latestReadings(tx, seasonId)).find(
      ({ sourceId }) => sourceId === found.sourceId,
    );
    if (latest === undefined) return { id, round: null, causes: 0 };
    const imported = await ownOf(tx, latest.id);
    if (imported instanceof Refused) return imported;
    return { id, ...(await readOnceMore(tx, imported)) };
  });
}

/** A correction must not need another one: what is read in an address column is one address or several, each clean. */
function refuseNoAddress(read: string): Refused | undefined {
  const { pieces, leftOver } = splitAddresses(read);
  for (const piece of pieces.length === 0 ? [read] : [...pieces, ...leftOver]) {
    const found = readAddress(piece, new Map());
    if (found.answer !== "clean")
      return refused(422, "correction/address", noAddress(read, found), "read");
  }
}

type Own = Exclude<Awaited<ReturnType<typeof ownOf>>, Refused>;

async function ownOf(tx: Queries, readingId: string) {
  const place = await findSeasonOfReading(tx, readingId);
  const latest =
    place === undefined
      ? undefined
      : (await latestReadings(tx, place.seasonId)).find(({ id }) => id === readingId);
  if (place === undefined) return noSuch("reading");
  if (latest === undefined)
    return refused(409, "correction/older-reading", t("sources.thereIsANewerImport"));
  const found = await tablesOfReading(tx, latest);
  if (!found.ok) return refused(422, `reading/${found.fault.code}`, found.fault.sentence);
  return {
    id: readingId,
    seasonId: place.seasonId,
    sourceId: latest.sourceId,
    name: latest.sourceName,
    plan: latest.plan,
    tables: found.tables,
  };
}

/** Reads the last reading of a source again by its corrections, marks the faults that they put right, and renews the round. */
async function readOnceMore(
  tx: Queries,
  imported: Own,
): Promise<{ round: number | null; causes: number }> {
  const { records, faults } = readAll(
    imported.tables,
    await correctionsOf(tx, imported.sourceId),
    await readingContext(tx, imported.sourceId),
  );
  await removeFaults(tx, imported.id);
  await storeFaults(tx, imported.id, imported.plan, faults);
  await raiseVersion(tx, imported.seasonId, new Set());
  const round = await openRound(tx, { id: imported.id, records });
  await notify(tx, "sources", "rounds", "board");
  return { round: round.number, causes: round.causes };
}
