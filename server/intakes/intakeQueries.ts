import { eq, and, isNull, inArray, lte, sql } from "drizzle-orm";
import type { Caller } from "../callers/caller";
import { accountInForce } from "../callers/inForce";
import type { Queries } from "../db/connect";
import { account } from "../db/schema/accounts";
import { intake, intakePerson } from "../db/schema/intakes";
import { list } from "../db/schema/lists";
import { watch } from "../db/schema/notes";
import { changeableBy } from "../membership/scope";
import { nextAt } from "./nextAt";
import type { Wanted } from "./wantedIntake";

/** Returns an intake, or undefined. */
export async function findIntake(db: Queries, id: string) {
  const [found] = await db.select().from(intake).where(eq(intake.id, id));
  return found;
}

/** Stores what an intake is, and returns its new version; none where somebody changed it meanwhile. */
export async function changeIntakeContent(
  db: Queries,
  content: Wanted["content"],
  version: number,
  id: string,
) {
  return db
    .update(intake)
    .set({
      name: content.name,
      content,
      version: version + 1,
      nextAt: await nextAt(db, content),
    })
    .where(and(eq(intake.id, id), eq(intake.version, version)))
    .returning({ version: intake.version });
}

/** Takes everybody off an intake. */
export async function removeIntakePeople(db: Queries, intakeId: string): Promise<void> {
  await db.delete(intakePerson).where(eq(intakePerson.intakeId, intakeId));
}

/** Lists the open lists of a season that somebody may change, or which of some of them. */
export function listChangeableLists(
  db: Queries,
  seasonId: number,
  caller: Caller,
  lists: string[],
) {
  return db
    .select({ id: list.id })
    .from(list)
    .where(
      and(
        eq(list.seasonId, seasonId),
        isNull(list.closedAt),
        changeableBy(caller),
        lists.length === 0 ? undefined : inArray(list.id, lists),
      ),
    );
}

/** Lists the intakes whose set time has come. */
export function listDueIntakes(db: Queries, now: Date) {
  return db
    .select({ id: intake.id, content: intake.content, nextAt: intake.nextAt })
    .from(intake)
    .where(
      and(
        lte(intake.nextAt, now),
        sql`${intake.seasonId} in (select id from season where current)`,
      ),
    );
}

/** Moves the next time of an intake on, and returns it; none where another process did. */
export function moveNextTime(
  db: Queries,
  next: Date | null,
  id: string,
  nextAt: Date | null,
  now: Date,
) {
  return db
    .update(intake)
    .set({ nextAt: next })
    .where(and(eq(intake.id, id), eq(intake.nextAt, nextAt ?? now)));
}

/** Lists the intakes without set times of which approved rows wait to be carried out. */
export function listIntakesWithWork(db: Queries, firstDays: boolean) {
  return db.execute<{
    id: string;
  }>(sql`select distinct intake.id from intake join intake_row on intake_row.intake_id = intake.id where intake.content->'times' = 'null'::jsonb and intake.season_id in (select id from season where current)
    and intake_row.approved_at is not null and intake_row.outcome = '' and intake_row.removed_at is null and (${firstDays} or intake_row.cells->>'from' = '')`);
}

/** Makes an intake, and returns its id; undefined where there is one of its name. */
export async function storeIntake(
  db: Queries,
  seasonId: number,
  accountId: string,
  content: Wanted["content"],
) {
  const [found] = await db
    .insert(intake)
    .values({
      seasonId,
      accountId,
      name: content.name,
      content,
      nextAt: await nextAt(db, content),
    })
    .onConflictDoNothing()
    .returning({ id: intake.id });
  return found;
}

/** Lists which of some people have an account that can sign in. */
export function findStaffAmong(db: Queries, people: Wanted["people"]) {
  return db
    .select({ id: account.id })
    .from(account)
    .where(
      and(
        inArray(
          account.id,
          people.map(({ account: id }) => id),
        ),
        accountInForce,
      ),
    );
}

/** Puts people on an intake, by their roles. */
export async function storeIntakePeople(
  db: Queries,
  people: Wanted["people"],
  intakeId: string,
): Promise<void> {
  await db
    .insert(intakePerson)
    .values(people.map(({ account: accountId, role }) => ({ intakeId, accountId, role })))
    .onConflictDoNothing();
}

/** Lists the names of the intakes of some rows. */
export function listIntakeNames(db: Queries, rows: readonly { intakeId: string }[]) {
  return db
    .select({ id: intake.id, name: intake.name })
    .from(intake)
    .where(
      inArray(
        intake.id,
        rows.map(({ intakeId }) => intakeId),
      ),
    );
}

/** Lets somebody be told of what happens to a list or an intake. */
export async function storeWatch(
  db: Queries,
  accountId: string,
  what: "list" | "intake",
  id: string,
): Promise<void> {
  await db.insert(watch).values({ accountId, what, about: id }).onConflictDoNothing();
}

/** Ends that somebody is told of what happens to a list or an intake. */
export async function removeWatch(
  db: Queries,
  accountId: string,
  what: "list" | "intake",
  id: string,
): Promise<void> {
  await db
    .delete(watch)
    .where(and(eq(watch.accountId, accountId), eq(watch.what, what), eq(watch.about, id)));
}
