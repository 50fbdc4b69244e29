import { eq, inArray, and, isNull } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { fact } from "../db/schema/people";
import { reading, source } from "../db/schema/sources";

/** Lists the imports from which facts come, with their sources. */
export function listReadingsOf(db: Queries, origins: readonly { reading: string }[]) {
  return db
    .select({
      id: reading.id,
      sourceId: reading.sourceId,
      plan: reading.plan,
      readAt: reading.readAt,
      source: source.name,
    })
    .from(reading)
    .innerJoin(source, eq(source.id, reading.sourceId))
    .where(
      inArray(
        reading.id,
        origins.map((origin) => origin.reading),
      ),
    );
}

/** Lists the facts about a subject that hold now. */
export function listFactsAbout(db: Queries, seasonId: number, subject: string) {
  return db
    .select({
      subject: fact.subject,
      kind: fact.kind,
      ref: fact.ref,
      value: fact.value,
      origin: fact.origin,
    })
    .from(fact)
    .where(and(eq(fact.seasonId, seasonId), isNull(fact.validUntil), eq(fact.subject, subject)));
}

/** Lists the names of some people that hold now. */
export function listNameFacts(db: Queries, subjects: string[]) {
  return db
    .select({ subject: fact.subject, kind: fact.kind, value: fact.value })
    .from(fact)
    .where(and(eq(fact.kind, "name"), isNull(fact.validUntil), inArray(fact.subject, subjects)));
}
