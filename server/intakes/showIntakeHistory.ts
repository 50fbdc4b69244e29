import { eq, desc } from "drizzle-orm";
import { type getIntakeHistory } from "@amigo/contract/intakes";
import type { Context } from "../context";
import { intakeRow, intakeChange } from "../db/schema/intakes";
import { notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { loadIntake } from "./queries";

export async function showIntakeHistory(
  { db }: Context,
  { params, caller }: Request<typeof getIntakeHistory>,
): Promise<Answer<typeof getIntakeHistory>> {
  const [row] = await db
    .select({ intakeId: intakeRow.intakeId })
    .from(intakeRow)
    .where(eq(intakeRow.id, params.id));
  if (row === undefined) throw notFound("row");
  await loadIntake(db, row.intakeId, caller);
  const rows = await db
    .select({
      at: intakeChange.at,
      by: intakeChange.by,
      what: intakeChange.what,
      before: intakeChange.before,
      after: intakeChange.after,
    })
    .from(intakeChange)
    .where(eq(intakeChange.rowId, params.id))
    .orderBy(desc(intakeChange.id))
    .limit(200);
  return rows.map((own) => ({ ...own, at: own.at.toISOString() }));
}
