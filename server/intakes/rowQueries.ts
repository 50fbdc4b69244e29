import { and, eq, inArray, isNull, sql, isNotNull, asc, desc } from "drizzle-orm";
import { type IntakeOutcome, type IntakeCells, INTAKE_COLUMNS } from "@amigo/core/intake/intake";
import type { IntakeWish } from "@amigo/core/intake/readIntakeRow";
import { day } from "@amigo/language/message";
import type { Queries } from "../db/connect";
import { intakeRow, intakeChange } from "../db/schema/intakes";
import { t } from "../texts/t";

export interface Came {
  outcome: IntakeOutcome;
  sentence: string;
}

const BLANK = Object.fromEntries(INTAKE_COLUMNS.map((column) => [column, ""])) as IntakeCells;

/** Returns rows of an intake, locked, of which somebody has seen a version. */
export function lockSeenRows(db: Queries, intakeId: string, seen: ReadonlyMap<string, number>) {
  return db
    .select()
    .from(intakeRow)
    .where(
      and(
        eq(intakeRow.intakeId, intakeId),
        inArray(intakeRow.id, [...seen.keys()]),
        isNull(intakeRow.removedAt),
      ),
    )
    .orderBy(intakeRow.id)
    .for("update");
}

/** Marks rows as approved by somebody, or takes an approval back. */
export async function markApproved(
  db: Queries,
  approve: boolean,
  accountId: string,
  name: string,
  ids: string[],
): Promise<void> {
  await db
    .update(intakeRow)
    .set({
      version: sql`${intakeRow.version} + 1`,
      ...(approve
        ? { approvedById: accountId, approvedBy: name, approvedAt: sql`now()` }
        : { approvedById: null, approvedBy: "", approvedAt: null }),
    })
    .where(inArray(intakeRow.id, ids));
}

/** Returns the approved rows of an intake that are not carried out yet, locked. */
export function lockApprovedRows(db: Queries, intakeId: string) {
  return db
    .select()
    .from(intakeRow)
    .where(
      and(
        eq(intakeRow.intakeId, intakeId),
        isNotNull(intakeRow.approvedAt),
        eq(intakeRow.outcome, ""),
        isNull(intakeRow.removedAt),
      ),
    )
    .orderBy(asc(intakeRow.number))
    .for("update");
}

/** Stores the results of rows that were carried out. */
export async function storeOutcomes(
  db: Queries,
  now: Date,
  came: ReadonlyMap<string, Came & { wish?: IntakeWish }>,
): Promise<void> {
  await db.execute(sql`update intake_row set outcome = new.outcome, sentence = new.sentence, outcome_at = ${now.toISOString()}::timestamptz, list_id = new.list, address = new.address, until = new.until
      from json_to_recordset(${JSON.stringify([...came].map(([id, { outcome, sentence, wish }]) => ({ id, outcome, sentence, list: wish?.target.id ?? null, address: wish?.address ?? "", until: wish === undefined || wish.until === "" ? null : wish.until })))}::json) as new(id uuid, outcome text, sentence text, list uuid, address text, until date) where intake_row.id = new.id`);
}

/** Stores that rows have ended by their last day. */
export async function markEnded(
  db: Queries,
  at: Date,
  until: string,
  ids: string[],
): Promise<void> {
  await db
    .update(intakeRow)
    .set({
      outcome: "ended",
      outcomeAt: at,
      sentence: t("intakes.leftTheListAfter", { until: day(until) }),
    })
    .where(inArray(intakeRow.id, ids));
}

/** Returns to which intake a row belongs. */
export async function findIntakeOfRow(db: Queries, rowId: string) {
  const [found] = await db
    .select({ intakeId: intakeRow.intakeId })
    .from(intakeRow)
    .where(eq(intakeRow.id, rowId));
  return found;
}

/** Lists the changes of a row, the latest first. */
export function listRowHistory(db: Queries, rowId: string) {
  return db
    .select({
      at: intakeChange.at,
      by: intakeChange.by,
      what: intakeChange.what,
      before: intakeChange.before,
      after: intakeChange.after,
    })
    .from(intakeChange)
    .where(eq(intakeChange.rowId, rowId))
    .orderBy(desc(intakeChange.id))
    .limit(200);
}

/** Marks rows that end soon and of which nobody was told, and returns them. */
export function markWarned(db: Queries, at: Date, today: string, soon: string) {
  return db
    .update(intakeRow)
    .set({ warnedAt: at })
    .where(
      and(
        inArray(intakeRow.outcome, ["added", "asked", "waiting"]),
        isNull(intakeRow.warnedAt),
        sql`${intakeRow.until} between ${today} and ${soon}`,
        sql`exists (select 1 from membership where membership.list_id = ${intakeRow.listId} and membership.address = ${intakeRow.address} and membership.valid_until is null)`,
      ),
    )
    .returning();
}

/** Returns some rows of an intake, locked. */
export function lockRows(db: Queries, intakeId: string, ids: string[]) {
  return db
    .select()
    .from(intakeRow)
    .where(and(eq(intakeRow.intakeId, intakeId), inArray(intakeRow.id, ids)))
    .orderBy(intakeRow.id)
    .for("update");
}

/** Stores cells of rows, and by whom they were written; their approval ends. */
export async function storeCells(
  db: Queries,
  accountId: string,
  name: string,
  changed: ReadonlyMap<string, IntakeCells>,
): Promise<void> {
  await db.execute(sql`update intake_row set cells = new.cells, by_id = ${accountId}, by = ${name}, at = now(), version = version + 1, approved_by_id = null, approved_by = '', approved_at = null, outcome = '', sentence = '', outcome_at = null
        from json_to_recordset(${JSON.stringify([...changed].map(([id, cells]) => ({ id, cells })))}::json) as new(id uuid, cells jsonb) where intake_row.id = new.id`);
}

/** Removes rows that were not carried out, or brings them back, and returns them. */
export function markRemoved(db: Queries, back: boolean, intakeId: string, ids: readonly string[]) {
  return db
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
}

/** Makes others who add rows to an intake wait until the transaction ends. */
export async function lockIntake(db: Queries, intakeId: string): Promise<void> {
  await db.execute(sql`select pg_advisory_xact_lock(7206, hashtext(${intakeId}))`);
}

/** Lists which of some rows there are already. */
export function findRows(db: Queries, ids: readonly string[]) {
  return db
    .select({ id: intakeRow.id })
    .from(intakeRow)
    .where(inArray(intakeRow.id, [...ids]));
}

/** Counts the rows of an intake. */
export async function countRows(db: Queries, intakeId: string) {
  const [found] = await db
    .select({ rows: sql<number>`count(*)`.mapWith(Number) })
    .from(intakeRow)
    .where(and(eq(intakeRow.intakeId, intakeId), isNull(intakeRow.removedAt)));
  return found;
}

/** Makes blank rows of an intake. */
export async function storeNewRows(
  db: Queries,
  ids: string[],
  intakeId: string,
  accountId: string,
  name: string,
): Promise<void> {
  await db
    .insert(intakeRow)
    .values(ids.map((id) => ({ id, intakeId, cells: BLANK, byId: accountId, by: name })));
}

/** Writes down what happened to rows. */
export async function keepHistory(
  tx: Queries,
  entries: readonly (typeof intakeChange.$inferInsert)[],
): Promise<void> {
  for (let at = 0; at < entries.length; at += 2000)
    await tx.insert(intakeChange).values(entries.slice(at, at + 2000));
}
