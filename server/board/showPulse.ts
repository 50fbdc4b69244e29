import { eq, sql, and, inArray, isNull, gte } from "drizzle-orm";
import { type getPulse } from "@amigo/contract/house";
import { callerMay } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { delivery } from "../db/schema/deliveries";
import { season } from "../db/schema/house";
import { intake, intakePerson, intakeRow } from "../db/schema/intakes";
import { list } from "../db/schema/lists";
import { question } from "../db/schema/people";
import { post, postList } from "../db/schema/posts";
import { request } from "../db/schema/requests";
import { round } from "../db/schema/rounds";
import { readingFault, source } from "../db/schema/sources";
import type { Request, Answer } from "../http/handler";
import { openDifferences } from "../membership/counts";
import { peopleOf, listsOf, decidable } from "../membership/scope";
import { latestReadings } from "../readings/queries";

/** A source that failed so often in a row needs somebody. */
const FAILS = 3;

export async function showPulse(
  { db }: Context,
  { caller }: Request<typeof getPulse>,
): Promise<Answer<typeof getPulse>> {
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
        (await db.select({ id: season.id }).from(season).where(eq(season.current, true)))[0]?.id ??
          0,
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
