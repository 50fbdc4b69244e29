import { callerMay } from "../callers/caller";
import { and, desc, eq, gte, inArray, isNull, sql } from "drizzle-orm";
import type { Hono } from "hono";
import { getPulse } from "@amigo/contract/house";
import { getBoard, type BoardCell, type BoardList, type BoardRow } from "@amigo/contract/board";
import { listKey } from "@amigo/core/lists/listKey";
import type { FactIndex } from "@amigo/core/facts/indexFacts";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { houseIndex } from "../facts/standing";
import { route } from "../http/route";
import { memberCount, openDifferences } from "../membership/counts";
import { decidable, listsOf, peopleOf } from "../membership/scope";
import { latestReadings } from "../readings/queries";
import { t } from "../texts/t";
import { season, site } from "../db/schema/house";
import { account } from "../db/schema/accounts";
import { source, reading, readingFault } from "../db/schema/sources";
import { question, fact } from "../db/schema/people";
import { cohort, list, listRole } from "../db/schema/lists";
import { request } from "../db/schema/requests";
import { round } from "../db/schema/rounds";
import { post, postList } from "../db/schema/posts";
import { delivery } from "../db/schema/deliveries";
import { intake, intakePerson, intakeRow } from "../db/schema/intakes";

/** A source that failed so often in a row needs somebody. */
const FAILS = 3;

export function boardRoutes(app: Hono, context: Context): void {
  const { db } = context;

  route(app, context, getBoard, async ({ caller }) => {
    const [current] = await db.select().from(season).where(eq(season.current, true));
    const seasonId = current?.id ?? 0;
    const columns = columnsOf(await houseIndex(db, seasonId));
    const cohorts = await db
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
    const all = await db
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
      .orderBy(list.title);
    const lists = all.filter(({ closedAt }) => closedAt === null);
    const byKey = new Map(all.map((row) => [row.key, row]));
    const [open] = await db
      .select({ number: round.number, totals: round.totals })
      .from(round)
      .where(eq(round.state, "open"));
    const differences = await openDifferences(db);
    const reach = new Map((await reachByCohort(db, seasonId)).map((row) => [row.key, row]));
    const leads = await leadsByList(db, seasonId);
    const differenceOf = (key: string): { joins: number; leaves: number } =>
      differences.get(key) ?? { joins: 0, leaves: 0 };
    const leadsOf = (id: string): { leads: string[]; mine: boolean } => {
      const own = leads.get(id) ?? [];
      return {
        leads: own.map(({ name }) => name),
        mine: own.some(({ account: lead }) => lead === caller.id),
      };
    };
    const rows = cohorts.flatMap((own): (BoardRow & { site: string; code: string })[] => {
      const reached = reach.get(own.key);
      const cells = columns.map(({ recipes }): BoardCell => {
        const keys = [...recipes]
          .sort((a, b) => Number(b.each === own.kind) - Number(a.each === own.kind))
          .map(({ id }) => listKey(id, own.key));
        const key =
          keys.find((candidate) => byKey.get(candidate)?.closedAt === null) ?? keys[0] ?? "";
        const found = byKey.get(key);
        if (found?.closedAt !== null || found === undefined)
          return {
            key,
            list: null,
            name: "",
            count: 0,
            joins: 0,
            leaves: 0,
            unreachable: 0,
            leads: [],
            mine: false,
            closed: found !== undefined,
          };
        return {
          key,
          list: found.id,
          name: found.name,
          count: found.count,
          ...differenceOf(key),
          unreachable: found.audience.startsWith("guardians")
            ? (reached?.students ?? 0) - (reached?.reached ?? 0)
            : 0,
          ...leadsOf(found.id),
          closed: false,
        };
      });
      if (caller.role !== "coordinator" && cells.every((cell) => cell.list === null)) return [];
      return [
        {
          cohort: own.id,
          name: own.name,
          kind: own.kind,
          coach: own.coach,
          levels: levels(reached),
          students: reached?.students ?? 0,
          reached: reached?.reached ?? 0,
          cells,
          site: own.site ?? t("board.noSite"),
          code: own.code ?? "",
        },
      ];
    });
    const sites = [...new Map(rows.map(({ site: name, code }) => [name, code]))].map(
      ([name, code]) => ({
        name,
        code,
        rows: rows.filter((row) => row.site === name).map(({ site: _, code: __, ...row }) => row),
      }),
    );
    const shown = new Set(rows.flatMap(({ cells }) => cells.flatMap((cell) => cell.list ?? [])));
    const others = lists
      .filter(({ id }) => !shown.has(id))
      .map(({ id, key, title, name, count }): BoardList => ({
        list: id,
        key,
        title,
        name,
        count,
        ...differenceOf(key),
        ...leadsOf(id),
      }));
    const [last] = await db
      .select({ source: source.name, at: reading.readAt })
      .from(reading)
      .innerJoin(source, and(eq(source.id, reading.sourceId), eq(source.seasonId, seasonId)))
      .orderBy(desc(reading.readAt))
      .limit(1);
    return {
      columns: columns.map(({ label }) => ({ label })),
      sites,
      others,
      lists: lists.length,
      outOfStep: lists.filter(({ key }) => {
        const { joins, leaves } = differenceOf(key);
        return joins + leaves > 0;
      }).length,
      openCauses: open === undefined ? 0 : open.totals.accepted + open.totals.held,
      lastReading: last === undefined ? null : { source: last.source, at: last.at.toISOString() },
      hasRound: open !== undefined,
    };
  });

  route(app, context, getPulse, async ({ caller }) => {
    const coordinator = caller.role === "coordinator";
    const [open] = await db
      .select({ number: round.number, totals: round.totals, guards: round.guards })
      .from(round)
      .where(eq(round.state, "open"));
    const differing = [...(await openDifferences(db)).keys()];
    const visible = coordinator ? differing.length : await visibleCount(db, caller, differing);
    const readings = coordinator
      ? await latestReadings(
          db,
          (await db.select({ id: season.id }).from(season).where(eq(season.current, true)))[0]
            ?.id ?? 0,
        )
      : [];
    const [faults] =
      readings.length === 0
        ? [{ count: 0 }]
        : await db
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
    const [undelivered] = await db
      .select({ count: sql<number>`count(*)`.mapWith(Number) })
      .from(delivery)
      .innerJoin(post, eq(post.id, delivery.postId))
      .where(
        and(
          eq(delivery.state, "bounced"),
          sql`${delivery.createdAt} > now() - interval '7 days'`,
          coordinator ? sql`true` : eq(post.accountId, caller.id),
        ),
      );
    const people = peopleOf(caller, sql`(select id from season where current)`);
    const [asked] = callerMay(caller, "decide on people")
      ? await db
          .select({ count: sql<number>`count(*)`.mapWith(Number) })
          .from(question)
          .innerJoin(season, eq(season.id, question.seasonId))
          .where(
            and(
              eq(season.current, true),
              people === undefined ? undefined : sql`${question.subject} in ${people}`,
            ),
          )
      : [];
    const failing = coordinator
      ? await db
          .select({ id: source.id, name: source.name, since: source.failingSince })
          .from(source)
          .innerJoin(season, eq(season.id, source.seasonId))
          .where(and(eq(season.current, true), gte(source.failures, FAILS)))
          .orderBy(source.name)
      : [];
    return {
      held: await heldCount(db, caller),
      toApprove: await approvalCount(db, caller),
      requests: await requestCount(db, caller),
      questions: asked?.count ?? 0,
      failing: failing.map(({ since, ...row }) => ({ ...row, since: since?.toISOString() ?? "" })),
      outOfStep: visible,
      causes: coordinator && open !== undefined ? open.totals.accepted + open.totals.held : 0,
      guards: coordinator ? (open?.guards.length ?? 0) : 0,
      undelivered: undelivered?.count ?? 0,
      faults: faults?.count ?? 0,
    };
  });
}

/** Mails that wait for somebody's decision. */
async function heldCount(db: Queries, caller: Parameters<typeof listsOf>[0]): Promise<number> {
  const [held] = await db
    .select({ count: sql<number>`count(distinct ${post.id})`.mapWith(Number) })
    .from(post)
    .innerJoin(postList, eq(postList.postId, post.id))
    .innerJoin(list, eq(list.id, postList.listId))
    .where(and(eq(post.outcome, "held"), listsOf(caller)));
  return held?.count ?? 0;
}

/** Requests that wait for somebody's word. */
async function requestCount(db: Queries, caller: Parameters<typeof listsOf>[0]): Promise<number> {
  const [waiting] = await db
    .select({ count: sql<number>`count(*)`.mapWith(Number) })
    .from(request)
    .where(and(eq(request.state, "open"), decidable(caller)));
  return waiting?.count ?? 0;
}

/** Rows of intakes that are written and wait for an approval, in the intakes that somebody approves. */
async function approvalCount(db: Queries, caller: Parameters<typeof listsOf>[0]): Promise<number> {
  const approves =
    caller.role === "coordinator"
      ? sql`true`
      : sql`(${intake.accountId} = ${caller.id} or exists (select 1 from ${intakePerson} where ${intakePerson.intakeId} = ${intake.id} and ${intakePerson.accountId} = ${caller.id} and ${intakePerson.role} = 'lead'))`;
  const [waiting] = await db
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
        approves,
      ),
    );
  return waiting?.count ?? 0;
}

async function visibleCount(
  db: Queries,
  caller: Parameters<typeof listsOf>[0],
  keys: readonly string[],
): Promise<number> {
  if (keys.length === 0) return 0;
  const rows = await db
    .select({ key: list.key })
    .from(list)
    .innerJoin(season, eq(season.id, list.seasonId))
    .where(and(eq(season.current, true), isNull(list.closedAt), listsOf(caller)));
  const wanted = new Set(keys);
  return rows.filter(({ key }) => wanted.has(key)).length;
}

/** The columns of the grid: recipes for classes, teams and committees, those of one label together. */
function columnsOf(index: FactIndex): { label: string; recipes: { id: number; each: string }[] }[] {
  const columns = new Map<string, { id: number; each: string }[]>();
  for (const [id, { label, each }] of [...index.recipes].sort(
    (a, b) => a[1].position - b[1].position || a[0] - b[0],
  )) {
    if (each === "class" || each === "team" || each === "committee")
      columns.set(label, [...(columns.get(label) ?? []), { id, each }]);
  }
  return [...columns].map(([label, recipes]) => ({ label, recipes }));
}

/** Who leads each list of a season. */
async function leadsByList(
  db: Queries,
  seasonId: number,
): Promise<Map<string, { account: string; name: string }[]>> {
  const rows = await db
    .select({ listId: listRole.listId, account: account.id, name: account.name })
    .from(listRole)
    .innerJoin(account, eq(account.id, listRole.accountId))
    .innerJoin(list, eq(list.id, listRole.listId))
    .where(and(eq(list.seasonId, seasonId), eq(listRole.role, "lead")))
    .orderBy(account.name);
  const leads = new Map<string, { account: string; name: string }[]>();
  for (const { listId, ...row } of rows) leads.set(listId, [...(leads.get(listId) ?? []), row]);
  return leads;
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
  const answer = await db.execute<{
    key: string;
    students: string;
    reached: string;
    lowest: string | null;
    highest: string | null;
  }>(sql`
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
  return answer.rows.map((row) => ({
    ...row,
    students: Number(row.students),
    reached: Number(row.reached),
  }));
}

function levels(reach: Reach | undefined): string {
  if (reach?.lowest == null || reach.highest === null) return "";
  return reach.lowest === reach.highest
    ? t("board.level", { lowest: reach.lowest })
    : t("board.levels", { lowest: reach.lowest, highest: reach.highest });
}
