import { inArray, sql, and, eq, isNull, desc } from "drizzle-orm";
import type { MeaningId } from "@amigo/core/sheet/meanings/meaning";
import type { Queries } from "../db/connect";
import { correction, source } from "../db/schema/sources";
import { inStaffLanguage } from "../texts/inLanguage";
import { t } from "../texts/t";

/** Lists how some corrections are read. */
export function listCorrectionsAmong(db: Queries, ids: string[]) {
  return db
    .select({ id: correction.id, read: correction.read })
    .from(correction)
    .where(inArray(correction.id, ids));
}

/** Ends the correction that a cell has, because another one is made. */
export async function endCorrectionsOf(
  db: Queries,
  by: string,
  sourceId: string,
  row: string,
  meaning: MeaningId,
  slot: number,
): Promise<void> {
  await db
    .update(correction)
    .set({
      endedAt: sql`now()`,
      ended: inStaffLanguage(() => t("sources.correctedItAnew", { name: by })),
    })
    .where(
      and(
        eq(correction.sourceId, sourceId),
        eq(correction.row, row),
        eq(correction.meaning, meaning),
        eq(correction.slot, slot),
        isNull(correction.endedAt),
      ),
    );
}

/** Stores a correction, and returns its id. */
export async function storeCorrection(
  db: Queries,
  sourceId: string,
  row: string,
  meaning: MeaningId,
  slot: number,
  written: string,
  read: string,
  who: string,
  place: string,
  by: string,
  byId: string | null,
) {
  const [found] = await db
    .insert(correction)
    .values({
      sourceId,
      row,
      meaning,
      slot,
      written,
      read,
      who,
      place,
      by,
      byId,
    })
    .returning({ id: correction.id });
  return found;
}

/** Ends a correction, and returns it; undefined where it had ended. */
export async function endCorrectionRow(db: Queries, by: string, id: string) {
  const [found] = await db
    .update(correction)
    .set({
      endedAt: sql`now()`,
      ended: inStaffLanguage(() => t("sources.tookItBack", { name: by })),
    })
    .where(and(eq(correction.id, id), isNull(correction.endedAt)))
    .returning();
  return found;
}

/** Lists all corrections of the current season. */
export function listAllCorrections(db: Queries) {
  return db
    .select({
      id: correction.id,
      source: source.name,
      place: correction.place,
      who: correction.who,
      written: correction.written,
      read: correction.read,
      by: correction.by,
      at: correction.at,
      endedAt: correction.endedAt,
      ended: correction.ended,
    })
    .from(correction)
    .innerJoin(source, eq(source.id, correction.sourceId))
    .orderBy(sql`${correction.endedAt} is not null`, desc(correction.at))
    .limit(500);
}
