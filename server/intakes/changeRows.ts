import { refuse, orRefuse } from "../http/fault";
import type {
  postIntakeCells,
  postIntakeRemove,
  postIntakeApproval,
} from "@amigo/contract/intakes";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { approveRows } from "./approve";
import { loadIntake } from "./queries";
import { writeCells, removeRows } from "./writeCells";

/** Writes in cells of an intake; each says what it was. */
export async function changeCells(
  { db }: Context,
  { params, body, caller }: Request<typeof postIntakeCells>,
): Promise<Answer<typeof postIntakeCells>> {
  return orRefuse(
    await writeCells(
      db,
      orRefuse(await loadIntake(db, params.id, caller)).id,
      body.changes,
      caller,
    ),
  );
}

/** Removes rows of an intake or, with `back`, brings them back; what was carried out stays. */
export async function deleteRows(
  { db }: Context,
  { params, body, caller }: Request<typeof postIntakeRemove>,
): Promise<Answer<typeof postIntakeRemove>> {
  return removeRows(
    db,
    orRefuse(await loadIntake(db, params.id, caller)).id,
    body.rows,
    body.back,
    caller,
  );
}

/** Approves rows as they were seen, or takes that back before they are carried out. */
export async function decideRows(
  { db, desk }: Context,
  { params, body, caller }: Request<typeof postIntakeApproval>,
): Promise<Answer<typeof postIntakeApproval>> {
  const intake = orRefuse(await loadIntake(db, params.id, caller));
  const answer = orRefuse(await approveRows(db, intake, body.rows, body.approve, caller));
  if (body.approve && answer.done > 0 && intake.content.times === null)
    refuse(await desk.run("carryOutRows", { intakeId: intake.id, now: new Date() }));
  return answer;
}
