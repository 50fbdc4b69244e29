import { refused, type Refused } from "../refused";
import { say } from "@amigo/language/say";
import { readIntakeRow } from "@amigo/core/intake/readIntakeRow";
import type { Caller } from "../callers/caller";
import type { Database } from "../db/connect";
import { notify } from "../events/events";
import { record } from "../events/record";
import { approvableBy, readsOf, type LoadedIntake } from "./queries";
import { t } from "../texts/t";
import { lockSeenRows, markApproved, keepHistory } from "./rowQueries";

/**
 * Approves rows just as they were seen, or takes that back. A row that has changed since, that can't be read, or whose list is
 * not the approver's to fill, is told with the reason.
 */
export async function approveRows(
  db: Database,
  intake: LoadedIntake,
  rows: readonly { id: string; version: number }[],
  approve: boolean,
  caller: Caller,
): Promise<{ done: number; refused: { row: string; sentence: string }[] } | Refused> {
  if (!intake.may.approve)
    return refused(403, "intake/approve", t("intakes.onlyACoordinatorOrWhoever"));
  return db.transaction(async (tx) => {
    const reads = await readsOf(tx, intake);
    const mine = await approvableBy(tx, caller, intake.seasonId);
    const seen = new Map(rows.map(({ id, version }) => [id, version]));
    const found = await lockSeenRows(tx, intake.id, seen);
    const refused: { row: string; sentence: string }[] = [];
    const done: string[] = [];
    for (const row of found) {
      const no = (sentence: string): void => {
        refused.push({ row: row.id, sentence });
      };
      if (row.outcome !== "") {
        no(
          row.outcome === "refused"
            ? t("intakes.thisWasNotTakenChange")
            : t("intakes.thisRowWasCarriedOut"),
        );
        continue;
      }
      if ((row.approvedAt !== null) === approve) continue;
      if (!approve) {
        done.push(row.id);
        continue;
      }
      if (row.version !== seen.get(row.id)) {
        no(t("intakes.hasChangedThisRowSince", { by: row.by }));
        continue;
      }
      const read = readIntakeRow(row.cells, reads);
      if (!read.ok) {
        no(say(read.faults[0]?.sentence ?? t("intakes.thisRowCantBeRead")));
        continue;
      }
      if (!mine.has(read.wish.target.id)) {
        no(t("intakes.youMayNotPutPeople", { title: read.wish.target.title }));
        continue;
      }
      done.push(row.id);
    }
    if (done.length > 0) {
      await markApproved(tx, approve, caller.id, caller.name, done);
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
        sentence: () =>
          t("intakes.ofTheAdditionsSheet", {
            name: caller.name,
            approved: approve,
            rows: done.length,
            sheet: intake.name,
          }),
        after: { intake: intake.id, rows: done },
      });
      await notify(tx, "intakes");
    }
    return { done: done.length, refused };
  });
}
