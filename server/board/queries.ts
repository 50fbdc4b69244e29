import { alphabetical } from "../db/alphabetical";
import type { SQL } from "drizzle-orm";
import { eq, and, or, isNull, sql, desc, gt, inArray, gte } from "drizzle-orm";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { account } from "../db/schema/accounts";
import { calendarWatch } from "../db/schema/calendars";
import { delivery } from "../db/schema/deliveries";
import { site, season } from "../db/schema/house";
import { intakeRow, intake } from "../db/schema/intakes";
import { cohort, list, listRole } from "../db/schema/lists";
import { question } from "../db/schema/people";
import { post, postList } from "../db/schema/posts";
import { request } from "../db/schema/requests";
import { source, reading, readingFault } from "../db/schema/sources";
import { memberCount } from "../membership/counts";
import { decidable } from "../membership/scope";
import { listsOf } from "../membership/queries";

/** A source that failed so often in a row needs somebody. */
export const FAILS = 3;

/** Lists the classes, teams and committees of a season, grouped by site. */
export function listCohorts(db: Queries, seasonId: number) {
  return db
    .select({
      id: cohort.id,
      key: cohort.key,
      kind: cohort.kind,
      name: cohort.name,
      coach: cohort.coach,
      site: site.name,
      code: site.code,
    })
    .from(cohort)
    .leftJoin(site, eq(site.id, cohort.siteId))
    .where(and(eq(cohort.seasonId, seasonId), isNull(cohort.goneAt)))
    .orderBy(
      sql`${site.name} nulls last`,
      sql`case ${cohort.kind} when 'class' then 0 when 'team' then 1 else 2 end`,
      cohort.name,
    );
}

/** Lists the lists of a season that somebody may see, with their counts. */
export function listBoardLists(db: Queries, seasonId: number, caller: Caller) {
  return db
    .select({
      id: list.id,
      key: list.key,
      name: list.name,
      title: list.title,
      audience: list.audience,
      cohortId: list.cohortId,
      closedAt: list.closedAt,
      count: memberCount(),
    })
    .from(list)
    .where(and(eq(list.seasonId, seasonId), listsOf(caller)))
    .orderBy(alphabetical(list.title));
}

/** Returns what was imported last and when; none before the first import. */
export async function findLastImport(db: Queries, seasonId: number) {
  const [found] = await db
    .select({ source: source.name, at: reading.readAt })
    .from(reading)
    .innerJoin(source, and(eq(source.id, reading.sourceId), eq(source.seasonId, seasonId)))
    .orderBy(desc(reading.readAt))
    .limit(1);
  return found;
}

/** Lists who leads which list of a season. */
export function listLeads(db: Queries, seasonId: number) {
  return db
    .select({ listId: listRole.listId, account: account.id, name: account.name })
    .from(listRole)
    .innerJoin(account, eq(account.id, listRole.accountId))
    .innerJoin(list, eq(list.id, listRole.listId))
    .where(and(eq(list.seasonId, seasonId), eq(listRole.role, "lead")))
    .orderBy(alphabetical(account.name));
}

/** Counts the faulty cells of some imports that nobody has corrected yet. */
export function countOpenFaults(db: Queries, readings: readonly { id: string }[]) {
  return db
    .select({ count: sql<number>`count(*)`.mapWith(Number) })
    .from(readingFault)
    .where(
      and(
        inArray(
          readingFault.readingId,
          readings.map(({ id }) => id),
        ),
        sql`${readingFault.answer} <> 'clean'`,
        isNull(readingFault.correctionId),
      ),
    );
}

/** Counts the copies of the last week that could not be delivered: of everybody's posts, or of one account's. */
export async function countFailedCopies(db: Queries, coordinator: boolean, accountId: string) {
  const [found] = await db
    .select({ count: sql<number>`count(*)`.mapWith(Number) })
    .from(delivery)
    .innerJoin(post, eq(post.id, delivery.postId))
    .where(
      and(
        eq(delivery.state, "bounced"),
        sql`${delivery.createdAt} > now() - interval '7 days'`,
        coordinator ? sql`true` : eq(post.accountId, accountId),
      ),
    );
  return found;
}

/** Counts the open questions, or those about some people. */
export function countQuestions(db: Queries, people: SQL<unknown> | undefined) {
  return db
    .select({ count: sql<number>`count(*)`.mapWith(Number) })
    .from(question)
    .innerJoin(season, eq(season.id, question.seasonId))
    .where(
      and(
        eq(season.current, true),
        people === undefined ? undefined : sql`${question.subject} in ${people}`,
      ),
    );
}

/** Lists the current sources that failed several times in a row. */
export function listFailingSources(db: Queries) {
  return db
    .select({ id: source.id, name: source.name, since: source.failingSince })
    .from(source)
    .innerJoin(season, eq(season.id, source.seasonId))
    .where(and(eq(season.current, true), gte(source.failures, FAILS)))
    .orderBy(alphabetical(source.name));
}

/** Lists the web addresses with dates that somebody watches and that have news for them, or fail. */
export function listNewsOfWatches(db: Queries, accountId: string) {
  return db
    .select({
      id: calendarWatch.id,
      name: calendarWatch.name,
      waiting: calendarWatch.waiting,
      failures: calendarWatch.failures,
      since: calendarWatch.failingSince,
    })
    .from(calendarWatch)
    .where(
      and(
        eq(calendarWatch.accountId, accountId),
        or(gt(calendarWatch.waiting, 0), gte(calendarWatch.failures, FAILS)),
      ),
    )
    .orderBy(alphabetical(calendarWatch.name));
}

/** Counts the rows of additions that somebody may approve now. */
export async function countRowsToApprove(db: Queries, mayApprove: SQL) {
  const [found] = await db
    .select({ count: sql<number>`count(*)`.mapWith(Number) })
    .from(intakeRow)
    .innerJoin(intake, eq(intake.id, intakeRow.intakeId))
    .innerJoin(season, and(eq(season.id, intake.seasonId), eq(season.current, true)))
    .where(
      and(
        isNull(intakeRow.approvedAt),
        isNull(intakeRow.removedAt),
        eq(intakeRow.outcome, ""),
        sql`${intakeRow.cells}->>'address' <> ''`,
        mayApprove,
      ),
    );
  return found;
}

/** Lists the keys of the open lists that somebody may see. */
export function listVisibleKeys(db: Queries, caller: Caller) {
  return db
    .select({ key: list.key })
    .from(list)
    .innerJoin(season, eq(season.id, list.seasonId))
    .where(and(eq(season.current, true), isNull(list.closedAt), listsOf(caller)));
}

/** Mails that wait for somebody's decision. */
export async function heldCount(
  db: Queries,
  caller: Parameters<typeof listsOf>[0],
): Promise<number> {
  const [held] = await db
    .select({ count: sql<number>`count(distinct ${post.id})`.mapWith(Number) })
    .from(post)
    .innerJoin(postList, eq(postList.postId, post.id))
    .innerJoin(list, eq(list.id, postList.listId))
    .where(and(eq(post.outcome, "held"), listsOf(caller)));
  return held?.count ?? 0;
}

/** Requests that wait for somebody's word. */
export async function requestCount(
  db: Queries,
  caller: Parameters<typeof listsOf>[0],
): Promise<number> {
  const [waiting] = await db
    .select({ count: sql<number>`count(*)`.mapWith(Number) })
    .from(request)
    .where(and(eq(request.state, "open"), decidable(caller)));
  return waiting?.count ?? 0;
}

/** Counts the addresses that failed together and wait for somebody's decision. */
export async function countFailedAtOnce(db: Queries): Promise<number> {
  const { rows } = await db.execute<{ count: number }>(
    sql`select count(*)::int as count from address_trouble join brake on brake.id = address_trouble.brake_id where brake.decided_at is null`,
  );
  return rows[0]?.count ?? 0;
}
