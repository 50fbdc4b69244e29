import type { getIntakeHistory } from "@amigo/contract/intakes";
import type { Context } from "../context";
import { refuse, notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { loadIntake } from "./queries";
import { findIntakeOfRow, listRowHistory } from "./rowQueries";

/** Returns what happened to a row of an intake, newest first. */
export async function showIntakeHistory(
  { db }: Context,
  { params, caller }: Request<typeof getIntakeHistory>,
): Promise<Answer<typeof getIntakeHistory>> {
  const row = await findIntakeOfRow(db, params.id);
  if (row === undefined) throw notFound("row");
  refuse(await loadIntake(db, row.intakeId, caller));
  const rows = await listRowHistory(db, params.id);
  return rows.map((eachRow) => ({ ...eachRow, at: eachRow.at.toISOString() }));
}
