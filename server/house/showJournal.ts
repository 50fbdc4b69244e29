import { and, sql } from "drizzle-orm";
import { type getJournal } from "@amigo/contract/house";
import type { Context } from "../context";
import { journal } from "../db/schema/journal";
import type { Request, Answer } from "../http/handler";
import { entriesOf } from "../membership/scope";
import { journalEntries } from "./journalEntries";

const ENTRIES_AT_ONCE = 60;

export async function showJournal(
  { db }: Context,
  { query, caller }: Request<typeof getJournal>,
): Promise<Answer<typeof getJournal>> {
  const rows = await journalEntries(db, caller, query, ENTRIES_AT_ONCE + 1);
  const actions = await db
    .selectDistinct({ action: journal.action })
    .from(journal)
    .where(and(sql`${journal.action} <> 'members'`, entriesOf(caller)))
    .orderBy(journal.action);
  return {
    entries: rows.slice(0, ENTRIES_AT_ONCE).map((row) => ({ ...row, at: row.at.toISOString() })),
    more: rows.length > ENTRIES_AT_ONCE,
    actions: actions.map(({ action }) => action),
  };
}
