import { and, eq, inArray, isNotNull, isNull, sql } from "drizzle-orm";
import {
  INTAKE_COLUMNS,
  MOST_ROWS,
  type IntakeCells,
  type IntakeColumn,
} from "@amigo/core/intake/intake";
import type { CellChange, CellRefused } from "@amigo/contract/intakes";
import type { Caller } from "../callers/caller";
import type { Database, Queries } from "../db/connect";
import { notify } from "../events/events";
import { Refusal } from "../http/fault";
import { t } from "../texts/t";
import { intakeRow, intakeChange } from "../db/schema/intakes";

const BLANK = Object.fromEntries(INTAKE_COLUMNS.map((column) => [column, ""])) as IntakeCells;

/**
 * Writes in cells of an intake. A cell that somebody else has changed since its writer saw it stays as it is, and so does a row
 * that was carried out; both are told. A row that was approved is no longer, once it says something else.
 */
export async function writeCells(
  db: Database,
  intakeId: string,
  changes: readonly CellChange[],
  caller: Caller,
): Promise<{ changed: number; refused: CellRefused[] }> {
  return db.transaction(async (tx) => {
    const ids = [...new Set(changes.map(({ row }) => row))];
    await beginRows(tx, intakeId, ids, caller);
    const rows = new Map(
      (
        await tx
          .select()
          .from(intakeRow)
          .where(and(eq(intakeRow.intakeId, intakeId), inArray(intakeRow.id, ids)))
          .orderBy(intakeRow.id)
          .for("update")
      ).map((row) => [row.id, row]),
    );
    const refused: CellRefused[] = [];
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
      if (row === undefined)
        throw new Refusal(404, "not-found", t("intakes.thisRowBelongsToAnother"));
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
        refused.push({ row: id, column, is: cells[column], sentence });
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
      await tx.execute(sql`update intake_row set cells = new.cells, by_id = ${caller.id}, by = ${caller.name}, at = now(), version = version + 1, approved_by_id = null, approved_by = '', approved_at = null, outcome = '', sentence = '', outcome_at = null
        from json_to_recordset(${JSON.stringify([...changed].map(([id, cells]) => ({ id, cells })))}::json) as new(id uuid, cells jsonb) where intake_row.id = new.id`);
      await keepHistory(tx, written);
      await notify(tx, "intakes");
    }
    return { changed: written.filter(({ what }) => what !== "approval").length, refused };
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
    const rows = await tx
      .update(intakeRow)
      .set({
        removedAt: back ? null : sql`now()`,
        version: sql`${intakeRow.version} + 1`,
        approvedById: null,
        approvedBy: "",
        approvedAt: null,
      })
      .where(
        and(
          eq(intakeRow.intakeId, intakeId),
          inArray(intakeRow.id, [...ids]),
          inArray(intakeRow.outcome, ["", "refused"]),
          back ? isNotNull(intakeRow.removedAt) : isNull(intakeRow.removedAt),
        ),
      )
      .returning({ id: intakeRow.id });
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

/** Writes down what happened to rows. */
export async function keepHistory(
  tx: Queries,
  entries: readonly (typeof intakeChange.$inferInsert)[],
): Promise<void> {
  for (let at = 0; at < entries.length; at += 2000)
    await tx.insert(intakeChange).values(entries.slice(at, at + 2000));
}

async function beginRows(
  tx: Queries,
  intakeId: string,
  ids: readonly string[],
  caller: Caller,
): Promise<void> {
  await tx.execute(sql`select pg_advisory_xact_lock(7206, hashtext(${intakeId}))`);
  const there = new Set(
    (
      await tx
        .select({ id: intakeRow.id })
        .from(intakeRow)
        .where(inArray(intakeRow.id, [...ids]))
    ).map(({ id }) => id),
  );
  const fresh = ids.filter((id) => !there.has(id));
  if (fresh.length === 0) return;
  const [count] = await tx
    .select({ rows: sql<number>`count(*)`.mapWith(Number) })
    .from(intakeRow)
    .where(and(eq(intakeRow.intakeId, intakeId), isNull(intakeRow.removedAt)));
  if ((count?.rows ?? 0) + fresh.length > MOST_ROWS)
    throw new Refusal(
      422,
      "intake/full",
      t("intakes.aSheetTakesRowsThis", {
        most: MOST_ROWS,
        rows: count?.rows ?? 0,
      }),
    );
  await tx
    .insert(intakeRow)
    .values(fresh.map((id) => ({ id, intakeId, cells: BLANK, byId: caller.id, by: caller.name })));
}
