import { type SQL, and, sql, lt, ilike, eq, desc } from "drizzle-orm";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { journal } from "../db/schema/journal";
import { entriesOf } from "../membership/scope";

/** Lists entries of the journal that somebody may read, newest first. */
export function listJournal(
  db: Queries,
  caller: Caller,
  before: number | undefined,
  actor: string,
  action: string,
  q: string,
  from: string | undefined,
  day: SQL<unknown>,
  to: string | undefined,
  most: number,
) {
  return db
    .select({
      id: journal.id,
      at: journal.at,
      actor: journal.actor,
      action: journal.action,
      sentence: journal.sentence,
    })
    .from(journal)
    .where(
      and(
        sql`${journal.action} <> 'members'`,
        entriesOf(caller),
        before === undefined ? undefined : lt(journal.id, before),
        actor === "" ? undefined : ilike(journal.actor, `%${escaped(actor)}%`),
        action === "" ? undefined : eq(journal.action, action),
        q === "" ? undefined : ilike(journal.sentence, `%${escaped(q)}%`),
        from === undefined ? undefined : sql`${day} >= ${from}::date`,
        to === undefined ? undefined : sql`${day} <= ${to}::date`,
      ),
    )
    .orderBy(desc(journal.id))
    .limit(most);
}

/** A text in which nothing stands for anything else in a pattern of LIKE. */
function escaped(text: string): string {
  return text.replace(/[\\%_]/g, "\\$&");
}

/** Lists the kinds of entries that somebody may read. */
export function listJournalActions(db: Queries, caller: Caller) {
  return db
    .selectDistinct({ action: journal.action })
    .from(journal)
    .where(and(sql`${journal.action} <> 'members'`, entriesOf(caller)))
    .orderBy(journal.action);
}
