import { kindOf } from "@amigo/core/facts/kinds/allKinds";
import { and, asc, eq, gt, isNull, lte, or, sql, type SQL } from "drizzle-orm";
import { factKey, sameValue, type Fact, type Facts } from "@amigo/core/facts/fact";
import { packOrigin } from "@amigo/core/facts/packFacts";
import type { PersonLink } from "@amigo/core/identity/personLink";
import type { SettledByHand } from "@amigo/core/identity/question";
import type { Queries } from "../db/connect";
import { copyInto, type CopyValue } from "../db/copyInto";
import { season } from "../db/schema/house";
import { byHand, fact } from "../db/schema/people";

export const factColumns = {
  subject: fact.subject,
  kind: fact.kind,
  ref: fact.ref,
  value: fact.value,
  origin: fact.origin,
};

/** Once this many rows have changed, PostgreSQL measures the table again for its planner. */
const MANY = 500;

/** Facts that held at an instant; at none, those that hold now. */
export function heldAt(instant: Date | undefined): SQL | undefined {
  return instant === undefined
    ? isNull(fact.validUntil)
    : and(lte(fact.validFrom, instant), or(isNull(fact.validUntil), gt(fact.validUntil, instant)));
}

/** The facts that hold now in a season. */
export async function loadFacts(db: Queries, seasonId: number): Promise<Map<string, Fact>> {
  const rows = await db
    .select(factColumns)
    .from(fact)
    .where(and(eq(fact.seasonId, seasonId), isNull(fact.validUntil)));
  return new Map(rows.map((row) => [factKey(row), row as Fact]));
}

/** What a round began, or ended. */
export async function factsOfRound(
  db: Queries,
  seasonId: number,
  round: number,
): Promise<{ began: Fact[]; ended: Fact[] }> {
  const of = async (column: typeof fact.fromRound | typeof fact.untilRound): Promise<Fact[]> =>
    (await db
      .select(factColumns)
      .from(fact)
      .where(and(eq(fact.seasonId, seasonId), eq(column, round)))) as Fact[];
  return { began: await of(fact.fromRound), ended: await of(fact.untilRound) };
}

/** What people have said of who is whom, and of what holds. */
export async function loadByHand(
  db: Queries,
  seasonId: number,
): Promise<{ links: PersonLink[]; settled: SettledByHand[] }> {
  const rows = await db
    .select()
    .from(byHand)
    .where(and(eq(byHand.seasonId, seasonId), isNull(byHand.endedAt)))
    .orderBy(asc(byHand.id));
  return {
    links: rows.flatMap(({ links }) => links),
    settled: rows.flatMap(({ settled, key, by, at }) =>
      settled === null ? [] : [{ ...settled, key, by, at: at.toISOString() }],
    ),
  };
}

/** Says that something other than a reading has changed what will be derived. */
export async function raiseVersion(db: Queries, seasonId: number): Promise<void> {
  await db
    .update(season)
    .set({ version: sql`${season.version} + 1` })
    .where(eq(season.id, seasonId));
}

/** Ends the facts that no longer hold and adds those that hold from now on, each in one statement. Without a round, they change by hand. */
export async function storeFacts(
  db: Queries,
  seasonId: number,
  round: number | null,
  before: Facts,
  after: Facts,
): Promise<void> {
  const ended: { s: string; k: string; r: string }[] = [];
  for (const [key, old] of before) {
    const now = after.get(key);
    if (now === undefined || !sameValue(now.value, old.value))
      ended.push({ s: old.subject, k: old.kind, r: old.ref });
  }
  const begun: Fact[] = [];
  for (const [key, now] of after) {
    const old = before.get(key);
    if (old === undefined || !sameValue(now.value, old.value)) begun.push(now);
  }
  if (ended.length > 0) {
    // Each is looked up among the few facts of its subject. The empty texts keep the database from looking among all of its kind instead.
    await db.execute(sql`
      update fact set valid_until = now(), until_round = ${round}
      from json_to_recordset(${JSON.stringify(ended)}::json) as gone(s text, k text, r text),
        lateral (
          select id from fact as held
          where held.season_id = ${seasonId} and held.valid_until is null and held.subject = gone.s and held.kind || '' = gone.k and held.ref || '' = gone.r
          offset 0
        ) as found
      where fact.id = found.id`);
  }
  if (begun.length > 0) {
    const [{ now } = { now: "now" }] = (
      await db.execute<{ now: string }>(sql`select now()::text as now`)
    ).rows;
    function* values(): Generator<CopyValue[]> {
      for (const item of begun)
        yield [
          seasonId,
          item.subject,
          item.kind,
          item.ref,
          JSON.stringify(item.value),
          packOrigin(item.origin),
          kindOf(item).search?.(item) ?? null,
          now,
          round,
        ];
    }
    await copyInto(
      db,
      "fact (season_id, subject, kind, ref, value, origin, search, valid_from, from_round)",
      values(),
    );
  }
  await raiseVersion(db, seasonId);
  // After a change of this size the planner would otherwise work with figures of an empty table.
  const changed = begun.length + ended.length;
  if (changed > MANY && changed > before.size / 10) await db.execute(sql`analyze fact`);
}
