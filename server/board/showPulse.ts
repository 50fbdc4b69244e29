import { eq, sql } from "drizzle-orm";
import type { getPulse } from "@amigo/contract/house";
import { callerMay } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { loadHouse } from "../db/houseQueries";
import { season } from "../db/schema/house";
import { intake, intakePerson } from "../db/schema/intakes";
import type { Request, Answer } from "../http/handler";
import { openDifferences } from "../membership/counts";
import { peopleOf } from "../membership/scope";
import { latestReadings } from "../facts/readingQueries";
import {
  countOpenFaults,
  countFailedAtOnce,
  countFailedCopies,
  countQuestions,
  FAILS,
  listFailingSources,
  listNewsOfWatches,
  countRowsToApprove,
  listVisibleKeys,
  heldCount,
  requestCount,
} from "./queries";
import type { listsOf } from "../membership/queries";
import { relayAway } from "../relay/relayAway";
import { findOpenRound } from "../change/roundQueries";

/** Returns what needs somebody now. */
export async function showPulse(
  { db, settings }: Context,
  { caller }: Request<typeof getPulse>,
): Promise<Answer<typeof getPulse>> {
  const coordinator = caller.role === "coordinator";
  const open = await findOpenRound(db);
  const differing = [...(await openDifferences(db)).keys()];
  const visible = coordinator ? differing.length : await visibleCount(db, caller, differing);
  const readings = coordinator
    ? await latestReadings(
        db,
        (await db.select({ id: season.id }).from(season).where(eq(season.current, true)))[0]?.id ??
          0,
      )
    : [];
  const [faults] = readings.length === 0 ? [{ count: 0 }] : await countOpenFaults(db, readings);
  const undelivered = await countFailedCopies(db, coordinator, caller.id);
  const people = peopleOf(caller, sql`(select id from season where current)`);
  const [asked] = callerMay(caller, "decide on people") ? await countQuestions(db, people) : [];
  const failing = coordinator ? await listFailingSources(db) : [];
  const watched = await listNewsOfWatches(db, caller.id);
  return {
    held: await heldCount(db, caller),
    toApprove: await approvalCount(db, caller),
    requests: await requestCount(db, caller),
    questions: asked?.count ?? 0,
    failing: failing.map(sinceWhen),
    dates: watched.reduce((sum, { waiting }) => sum + waiting, 0),
    failingDates: watched
      .filter(({ failures }) => failures >= FAILS)
      .map(({ id, name, since }) => sinceWhen({ id, name, since })),
    outOfStep: visible,
    causes: coordinator && open !== undefined ? open.totals.accepted + open.totals.held : 0,
    guards: coordinator ? (open?.guards.length ?? 0) : 0,
    undelivered: undelivered?.count ?? 0,
    faults: faults?.count ?? 0,
    ...(await mailTroubles(db, settings, coordinator)),
  };
}

/** What keeps mail from arriving: that somebody has paused it, addresses that failed together, a relay that is away. */
async function mailTroubles(
  db: Queries,
  settings: Context["settings"],
  coordinator: boolean,
): Promise<Pick<Answer<typeof getPulse>, "failedAtOnce" | "relayAway" | "pausedBy">> {
  const house = await loadHouse(db);
  return {
    pausedBy: house?.queuePausedBy ?? "",
    failedAtOnce: coordinator ? await countFailedAtOnce(db) : 0,
    relayAway: coordinator ? await relayAway(db, settings) : null,
  };
}

function sinceWhen<Row extends { since: Date | null }>({ since, ...row }: Row) {
  return { ...row, since: since?.toISOString() ?? "" };
}

/** Rows of intakes that are written and wait for an approval, in the intakes that somebody approves. */
async function approvalCount(db: Queries, caller: Parameters<typeof listsOf>[0]): Promise<number> {
  const approves =
    caller.role === "coordinator"
      ? sql`true`
      : sql`(${intake.accountId} = ${caller.id} or exists (select 1 from ${intakePerson} where ${intakePerson.intakeId} = ${intake.id} and ${intakePerson.accountId} = ${caller.id} and ${intakePerson.role} = 'lead'))`;
  const waiting = await countRowsToApprove(db, approves);
  return waiting?.count ?? 0;
}

async function visibleCount(
  db: Queries,
  caller: Parameters<typeof listsOf>[0],
  keys: readonly string[],
): Promise<number> {
  if (keys.length === 0) return 0;
  const rows = await listVisibleKeys(db, caller);
  const wanted = new Set(keys);
  return rows.filter(({ key }) => wanted.has(key)).length;
}
