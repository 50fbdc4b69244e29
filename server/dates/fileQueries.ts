import { and, asc, count, eq, inArray, isNull, lt, notInArray, or, sql } from "drizzle-orm";
import type { Queries } from "../db/connect";
import { calendarDateFile } from "../db/schema/dates";

/** What is said of a file of a date. */
export interface DateFileRow {
  id: string;
  name: string;
  size: number;
}

const ABOUT = {
  id: calendarDateFile.id,
  name: calendarDateFile.name,
  size: calendarDateFile.size,
};

/** Stores a file that is to go with a date; until it does, only whoever added it sees it. */
export async function storeDateFile(
  db: Queries,
  accountId: string,
  file: { name: string; content: Buffer },
): Promise<DateFileRow | undefined> {
  const [stored] = await db
    .insert(calendarDateFile)
    .values({ accountId, ...file, size: file.content.length })
    .returning(ABOUT);
  return stored;
}

/** Counts the files of an account that don't go with a date yet. */
export async function countLooseFiles(db: Queries, accountId: string): Promise<number> {
  const [found] = await db
    .select({ count: count() })
    .from(calendarDateFile)
    .where(and(eq(calendarDateFile.accountId, accountId), isNull(calendarDateFile.dateId)));
  return found?.count ?? 0;
}

/** Removes files that nobody has put on a date within a day. */
export async function removeLooseFiles(db: Queries): Promise<void> {
  await db
    .delete(calendarDateFile)
    .where(
      and(
        isNull(calendarDateFile.dateId),
        lt(calendarDateFile.addedAt, sql`now() - interval '1 day'`),
      ),
    );
}

/** Lists the files of a date by their names. */
export function listDateFiles(db: Queries, date: string): Promise<DateFileRow[]> {
  return db
    .select(ABOUT)
    .from(calendarDateFile)
    .where(eq(calendarDateFile.dateId, date))
    .orderBy(asc(calendarDateFile.name), asc(calendarDateFile.id));
}

/**
 * Makes files those of a date: those that it has and those that whoever changes it has added, and no others.
 *
 * @returns whether they are others than before
 */
export async function keepDateFiles(
  tx: Queries,
  date: string,
  accountId: string,
  wanted: readonly string[],
): Promise<boolean> {
  const gone = await tx
    .delete(calendarDateFile)
    .where(
      and(
        eq(calendarDateFile.dateId, date),
        wanted.length === 0 ? undefined : notInArray(calendarDateFile.id, [...wanted]),
      ),
    )
    .returning({ id: calendarDateFile.id });
  if (wanted.length === 0) return gone.length > 0;
  const added = await tx
    .update(calendarDateFile)
    .set({ dateId: date })
    .where(
      and(
        inArray(calendarDateFile.id, [...wanted]),
        isNull(calendarDateFile.dateId),
        eq(calendarDateFile.accountId, accountId),
      ),
    )
    .returning({ id: calendarDateFile.id });
  return gone.length + added.length > 0;
}

/** Returns a file of a date with its octets. */
export async function findDateFile(db: Queries, id: string, date: string) {
  const [found] = await db
    .select({ name: calendarDateFile.name, content: calendarDateFile.content })
    .from(calendarDateFile)
    .where(and(eq(calendarDateFile.id, id), eq(calendarDateFile.dateId, date)));
  return found;
}

/** Returns a file that an account has added, or that goes with a date that it may see. */
export async function findFileOfAccount(db: Queries, id: string, accountId: string) {
  const [found] = await db
    .select({
      dateId: calendarDateFile.dateId,
      name: calendarDateFile.name,
      content: calendarDateFile.content,
    })
    .from(calendarDateFile)
    .where(
      and(
        eq(calendarDateFile.id, id),
        or(eq(calendarDateFile.accountId, accountId), sql`${calendarDateFile.dateId} is not null`),
      ),
    );
  return found;
}
