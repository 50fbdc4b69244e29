import { sql, and, lt, ilike, eq, desc } from "drizzle-orm";
import { type JournalWanted } from "@amigo/contract/house";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { house } from "../db/schema/house";
import { journal } from "../db/schema/journal";
import { entriesOf } from "../membership/scope";

/** Entries of the journal that somebody may read, newest first, that are by somebody, of a kind, hold a word, and are of some days. */
export async function journalEntries(
  db: Queries,
  caller: Caller,
  { before, actor = "", action = "", q = "", from, to }: JournalWanted,
  most: number,
) {
  const [own] = await db.select({ timeZone: house.timeZone }).from(house);
  const zone = own?.timeZone ?? "UTC";
  const day = sql`(${journal.at} at time zone ${zone})::date`;
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
