import { Refused, refused } from "../refused";
import { inTransaction } from "../db/inTransaction";
import { MOST_ROWS, type IntakeCells, type IntakeColumn } from "@amigo/core/intake/intake";
import type { CellChange, CellRefused } from "@amigo/contract/intakes";
import type { Caller } from "../callers/caller";
import type { Database, Queries } from "../db/connect";
import { notify } from "../events/events";
import { t } from "../texts/t";
import {
  lockRows,
  storeCells,
  markRemoved,
  lockIntake,
  findRows,
  countRows,
  storeNewRows,
  keepHistory,
} from "./rowQueries";

/**
 * Writes in cells of an intake. A cell that somebody else has changed since its writer saw it stays as it is, and so does a row
 * that was carried out; both are told. A row that was approved is no longer, once it says something else.
 */
export async function writeCells(
  db: Database,
  intakeId: string,
  changes: readonly CellChange[],
  caller: Caller,
): Promise<{ changed: number; refused: CellRefused[] } | Refused> {
  return inTransaction(db, async (tx) => {
    const ids = [...new Set(changes.map(({ row }) => row))];
    const wrong = await beginRows(tx, intakeId, ids, caller);
    if (wrong instanceof Refused) return wrong;
    const rows = new Map((await lockRows(tx, intakeId, ids)).map((row) => [row.id, row]));
    const unwritten: CellRefused[] = [];
    const written: {
      rowId: string;
      by: string;
      what: IntakeColumn | "approval";
      before: string;
      after: string;
    }[] = [];
    const changed = new Map<string, IntakeCells>();
    for (const { row: id, column, was, is } of changes) {
      const row = rows.get(id);
      if (row === undefined) return refused(404, "not-found", t("intakes.thisRowBelongsToAnother"));
      const cells = changed.get(id) ?? row.cells;
      if (cells[column] === is) continue;
      const sentence =
        row.removedAt !== null
          ? t("intakes.somebodyTookThisRowOut")
          : !["", "refused"].includes(row.outcome)
            ? t("intakes.thisRowWasCarriedOut2")
            : cells[column] !== was
              ? t("intakes.wroteHereMeanwhile", { by: row.by })
              : undefined;
      if (sentence !== undefined) {
        unwritten.push({ row: id, column, is: cells[column], sentence });
        continue;
      }
      written.push({ rowId: id, by: caller.name, what: column, before: cells[column], after: is });
      changed.set(id, { ...cells, [column]: is });
    }
    for (const id of changed.keys())
      if (rows.get(id)?.approvedAt != null)
        written.push({
          rowId: id,
          by: caller.name,
          what: "approval",
          before: rows.get(id)?.approvedBy ?? "",
          after: "",
        });
    if (changed.size > 0) {
      await storeCells(tx, caller.id, caller.name, changed);
      await keepHistory(tx, written);
      await notify(tx, "intakes");
    }
    return {
      changed: written.filter(({ what }) => what !== "approval").length,
      refused: unwritten,
    };
  });
}

/** Takes rows out, or puts them in again. What was carried out stays. */
export async function removeRows(
  db: Database,
  intakeId: string,
  ids: readonly string[],
  back: boolean,
  caller: Caller,
): Promise<{ changed: number }> {
  return db.transaction(async (tx) => {
    const rows = await markRemoved(tx, back, intakeId, ids);
    await keepHistory(
      tx,
      rows.map(({ id }) => ({
        rowId: id,
        by: caller.name,
        what: "row",
        before: back ? t("intakes.takenOut") : "",
        after: back ? "" : t("intakes.takenOut"),
      })),
    );
    await notify(tx, "intakes");
    return { changed: rows.length };
  });
}

async function beginRows(
  tx: Queries,
  intakeId: string,
  ids: readonly string[],
  caller: Caller,
): Promise<Refused | undefined> {
  await lockIntake(tx, intakeId);
  const there = new Set((await findRows(tx, ids)).map(({ id }) => id));
  const fresh = ids.filter((id) => !there.has(id));
  if (fresh.length === 0) return;
  const count = await countRows(tx, intakeId);
  if ((count?.rows ?? 0) + fresh.length > MOST_ROWS)
    return refused(
      422,
      "intake/full",
      t("intakes.aSheetTakesRowsThis", {
        most: MOST_ROWS,
        rows: count?.rows ?? 0,
      }),
    );
  await storeNewRows(tx, fresh, intakeId, caller.id, caller.name);
}
