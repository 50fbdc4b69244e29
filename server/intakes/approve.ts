import { and, eq, inArray, isNull, sql } from "drizzle-orm";
import { readIntakeRow } from "@amigo/core/intake/readIntakeRow";
import type { Caller } from "../callers/caller";
import type { Database } from "../db/connect";
import { intakeRow } from "../db/schema";
import { notify } from "../events/events";
import { Refusal } from "../http/fault";
import { record } from "../journal/record";
import { counted } from "@amigo/core/text/sentence";
import { approvableBy, readsOf, type LoadedIntake } from "./queries";
import { keepHistory } from "./writeCells";

/**
 * Approves rows just as they were seen, or takes that back. A row that has changed since, that can not be read, or whose list is
 * not the approver's to fill, is told with the reason.
 */
export async function approveRows(
  db: Database,
  own: LoadedIntake,
  rows: readonly { id: string; version: number }[],
  approve: boolean,
  caller: Caller,
): Promise<{ done: number; refused: { row: string; sentence: string }[] }> {
  if (!own.may.approve)
    throw new Refusal(
      403,
      "intake/approve",
      "Only a coordinator, or whoever leads this sheet and the list, can approve rows.",
    );
  return db.transaction(async (tx) => {
    const reads = await readsOf(tx, own);
    const mine = await approvableBy(tx, caller, own.seasonId);
    const seen = new Map(rows.map(({ id, version }) => [id, version]));
    const found = await tx
      .select()
      .from(intakeRow)
      .where(
        and(
          eq(intakeRow.intakeId, own.id),
          inArray(intakeRow.id, [...seen.keys()]),
          isNull(intakeRow.removedAt),
        ),
      )
      .orderBy(intakeRow.id)
      .for("update");
    const refused: { row: string; sentence: string }[] = [];
    const done: string[] = [];
    for (const row of found) {
      const no = (sentence: string): void => {
        refused.push({ row: row.id, sentence });
      };
      if (row.outcome !== "") {
        no(
          row.outcome === "refused"
            ? "This was not taken. Change the row first."
            : "This row was carried out already.",
        );
        continue;
      }
      if ((row.approvedAt !== null) === approve) continue;
      if (!approve) {
        done.push(row.id);
        continue;
      }
      if (row.version !== seen.get(row.id)) {
        no(`${row.by} has changed this row since you looked. Look once more.`);
        continue;
      }
      const read = readIntakeRow(row.cells, reads);
      if (!read.ok) {
        no(read.faults[0]?.sentence ?? "This row can't be read.");
        continue;
      }
      if (!mine.has(read.wish.target.id)) {
        no(
          `You may not put people onto ${read.wish.target.title}. Its lead or a coordinator can approve this.`,
        );
        continue;
      }
      done.push(row.id);
    }
    if (done.length > 0) {
      await tx
        .update(intakeRow)
        .set({
          version: sql`${intakeRow.version} + 1`,
          ...(approve
            ? { approvedById: caller.id, approvedBy: caller.name, approvedAt: sql`now()` }
            : { approvedById: null, approvedBy: "", approvedAt: null }),
        })
        .where(inArray(intakeRow.id, done));
      await keepHistory(
        tx,
        done.map((rowId) => ({
          rowId,
          by: caller.name,
          what: "approval",
          before: approve ? "" : "approved",
          after: approve ? "approved" : "",
        })),
      );
      await record(tx, {
        actorId: caller.id,
        actor: caller.name,
        action: approve ? "approve" : "approve no longer",
        sentence: `${caller.name} ${approve ? "approved" : "took back the approval of"} ${counted(done.length, "row")} of the additions sheet "${own.name}"`,
        after: { intake: own.id, rows: done },
      });
      await notify(tx, "intakes");
    }
    return { done: done.length, refused };
  });
}
