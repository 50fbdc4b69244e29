import { and, desc, eq, gte, inArray, isNull, sql } from "drizzle-orm";
import type { Hono } from "hono";
import { getPulse } from "@amigo/contract/house";
import { getBoard, type BoardRow } from "@amigo/contract/lists";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { cohort, delivery, fact, list, post, question, reading, readingFault, recipe, round, season, site, source } from "../db/schema";
import { route } from "../http/route";
import { memberCount, openDifferences } from "../membership/counts";
import { listsOf } from "../membership/scope";
import { listKey } from "../membership/recipeLists";
import { latestReadings } from "../readings/queries";

/** A source that failed so often in a row needs somebody. */
const FAILS = 3;

export function boardRoutes(app: Hono, context: Context): void {
  const { db } = context;

  route(app, context, getBoard, async ({ caller }) => {
    const [current] = await db.select().from(season).where(eq(season.current, true));
    const seasonId = current?.id ?? 0;
    const recipes = await db.select({ id: recipe.id, label: recipe.label }).from(recipe).orderBy(recipe.position);
    const cohorts = await db.select({ id: cohort.id, key: cohort.key, kind: cohort.kind, name: cohort.name, coach: cohort.coach, site: site.name, code: site.code }).from(cohort).leftJoin(site, eq(site.id, cohort.siteId)).where(and(eq(cohort.seasonId, seasonId), isNull(cohort.goneAt))).orderBy(site.name, cohort.name);
    const lists = await db.select({ id: list.id, name: list.name, recipeId: list.recipeId, cohortId: list.cohortId, count: memberCount() }).from(list).leftJoin(cohort, eq(cohort.id, list.cohortId)).where(and(eq(list.seasonId, seasonId), isNull(list.closedAt), listsOf(caller)));
    const byCell = new Map(lists.map((row) => [`${row.recipeId} ${row.cohortId}`, row]));
    const [open] = await db.select({ number: round.number, totals: round.totals }).from(round).where(eq(round.state, "open"));
    const differences = await openDifferences(db);
    const reach = new Map((await reachByCohort(db, seasonId)).map((row) => [row.key, row]));
    const rows = cohorts.flatMap((own): (BoardRow & { site: string; code: string })[] => {
      const cells = recipes.map(({ id }) => {
        const found = byCell.get(`${id} ${own.id}`);
        const difference = found === undefined ? undefined : differences.get(listKey(id, own.key));
        return { recipe: id, list: found?.id ?? null, name: found?.name ?? "", count: found?.count ?? 0, joins: difference?.joins ?? 0, leaves: difference?.leaves ?? 0 };
      });
      if (cells.every((cell) => cell.list === null)) return [];
      const reached = reach.get(own.key);
      return [{ cohort: own.id, name: own.name, kind: own.kind, coach: own.coach, levels: levels(reached), students: reached?.students ?? 0, reached: reached?.reached ?? 0, cells, site: own.site ?? "No site", code: own.code ?? "" }];
    });
    const sites = [...new Map(rows.map(({ site: name, code }) => [name, code]))].map(([name, code]) => ({ name, code, rows: rows.filter((row) => row.site === name).map(({ site: _, code: __, ...row }) => row) }));
    const [last] = await db.select({ source: source.name, at: reading.readAt }).from(reading).innerJoin(source, eq(source.id, reading.sourceId)).orderBy(desc(reading.readAt)).limit(1);
    const shown = rows.flatMap(({ cells }) => cells);
    return {
      recipes, sites, lists: lists.length, outOfStep: shown.filter(({ joins, leaves }) => joins + leaves > 0).length,
      openCauses: open === undefined ? 0 : open.totals.accepted + open.totals.held,
      lastReading: last === undefined ? null : { source: last.source, at: last.at.toISOString() }, hasRound: open !== undefined,
    };
  });

  route(app, context, getPulse, async ({ caller }) => {
    const coordinator = caller.role === "coordinator";
    const [open] = await db.select({ number: round.number, totals: round.totals, guards: round.guards }).from(round).where(eq(round.state, "open"));
    const differing = [...(await openDifferences(db)).keys()];
    const visible = coordinator ? differing.length : await visibleCount(db, caller, differing);
    const readings = coordinator ? await latestReadings(db, (await db.select({ id: season.id }).from(season).where(eq(season.current, true)))[0]?.id ?? 0) : [];
    const [faults] = readings.length === 0 ? [{ count: 0 }] : await db.select({ count: sql<number>`count(*)`.mapWith(Number) }).from(readingFault).where(and(inArray(readingFault.readingId, readings.map(({ id }) => id)), sql`${readingFault.answer} <> 'clean'`, isNull(readingFault.correctionId)));
    const [undelivered] = await db.select({ count: sql<number>`count(*)`.mapWith(Number) }).from(delivery).innerJoin(post, eq(post.id, delivery.postId)).where(and(eq(delivery.state, "bounced"), sql`${delivery.createdAt} > now() - interval '7 days'`, coordinator ? sql`true` : eq(post.accountId, caller.id)));
    const [asked] = coordinator ? await db.select({ count: sql<number>`count(*)`.mapWith(Number) }).from(question).innerJoin(season, eq(season.id, question.seasonId)).where(eq(season.current, true)) : [];
    const failing = coordinator ? await db.select({ id: source.id, name: source.name, since: source.failingSince }).from(source).innerJoin(season, eq(season.id, source.seasonId)).where(and(eq(season.current, true), gte(source.failures, FAILS))).orderBy(source.name) : [];
    return { questions: asked?.count ?? 0, failing: failing.map(({ since, ...row }) => ({ ...row, since: since?.toISOString() ?? "" })), outOfStep: visible, causes: coordinator && open !== undefined ? open.totals.accepted + open.totals.held : 0, guards: coordinator ? (open?.guards.length ?? 0) : 0, undelivered: undelivered?.count ?? 0, faults: faults?.count ?? 0 };
  });
}

async function visibleCount(db: Queries, caller: Parameters<typeof listsOf>[0], keys: readonly string[]): Promise<number> {
  if (keys.length === 0) return 0;
  const rows = await db.select({ recipeId: list.recipeId, key: cohort.key }).from(list).innerJoin(cohort, eq(cohort.id, list.cohortId)).where(and(isNull(list.closedAt), listsOf(caller)));
  const wanted = new Set(keys);
  return rows.filter(({ recipeId, key }) => recipeId !== null && wanted.has(listKey(recipeId, key))).length;
}

interface Reach {
  key: string;
  students: number;
  reached: number;
  lowest: string | null;
  highest: string | null;
}

/** Students of each cohort, and how many of them a guardian's address reaches. */
async function reachByCohort(db: Queries, seasonId: number): Promise<Reach[]> {
  const answer = await db.execute<{ key: string; students: string; reached: string; lowest: string | null; highest: string | null }>(sql`
    with reached as materialized (
      select distinct tie.ref as student from ${fact} tie
      join ${fact} address on address.season_id = tie.season_id and address.subject = tie.subject and address.kind = 'address' and address.valid_until is null
      where tie.season_id = ${seasonId} and tie.kind = 'tie' and tie.valid_until is null)
    select enrolment.ref as key, count(*) as students, count(reached.student) as reached,
      min(level.value #>> '{}') as lowest, max(level.value #>> '{}') as highest
    from ${fact} enrolment
    left join reached on reached.student = enrolment.subject
    left join ${fact} level on level.season_id = enrolment.season_id and level.subject = enrolment.subject and level.kind = 'level' and level.valid_until is null
    where enrolment.season_id = ${seasonId} and enrolment.kind = 'enrolment' and enrolment.valid_until is null
    group by enrolment.ref`);
  return answer.rows.map((row) => ({ ...row, students: Number(row.students), reached: Number(row.reached) }));
}

function levels(reach: Reach | undefined): string {
  if (reach?.lowest == null || reach.highest === null) return "";
  return reach.lowest === reach.highest ? `level ${reach.lowest}` : `levels ${reach.lowest}–${reach.highest}`;
}

