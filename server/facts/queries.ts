import { and, eq, isNull, sql } from "drizzle-orm";
import { factKey, sameValue, type Fact, type Facts } from "@amigo/core/facts/fact";
import type { Queries } from "../db/connect";
import { fact } from "../db/schema";

/** The facts that hold now in a season. */
export async function loadFacts(db: Queries, seasonId: number): Promise<Map<string, Fact>> {
  const rows = await db.select({ subject: fact.subject, kind: fact.kind, ref: fact.ref, value: fact.value, origin: fact.origin }).from(fact).where(and(eq(fact.seasonId, seasonId), isNull(fact.validUntil)));
  return new Map(rows.map((row) => [factKey(row), row as Fact]));
}

/** From so many changed rows on the table is measured anew for the planner. */
const MANY = 500;

/** Ends the facts that no longer hold and adds those that hold from now on, each in one statement. */
export async function storeFacts(db: Queries, seasonId: number, round: number, before: Facts, after: Facts): Promise<void> {
  const ended: { s: string; k: string; r: string }[] = [];
  for (const [key, old] of before) {
    const now = after.get(key);
    if (now === undefined || !sameValue(now.value, old.value)) ended.push({ s: old.subject, k: old.kind, r: old.ref });
  }
  const begun: Fact[] = [];
  for (const [key, now] of after) {
    const old = before.get(key);
    if (old === undefined || !sameValue(now.value, old.value)) begun.push(now);
  }
  if (ended.length > 0) {
    await db.execute(sql`
      update fact set valid_until = now(), until_round = ${round}
      from json_to_recordset(${JSON.stringify(ended)}::json) as gone(s text, k text, r text)
      where fact.season_id = ${seasonId} and fact.valid_until is null and fact.subject = gone.s and fact.kind = gone.k and fact.ref = gone.r`);
  }
  if (begun.length > 0) {
    await db.execute(sql`
      insert into fact (season_id, subject, kind, ref, value, origin, valid_from, from_round)
      select ${seasonId}, subject, kind, ref, value, origin, now(), ${round}
      from json_to_recordset(${JSON.stringify(begun)}::json) as new(subject text, kind text, ref text, value jsonb, origin jsonb)`);
  }
  // After a change of this size the planner would otherwise work with figures of an empty table.
  if (begun.length + ended.length > MANY) await db.execute(sql`analyze fact`);
}
