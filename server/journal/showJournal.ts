import { type getJournal } from "@amigo/contract/house";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { journalEntries } from "./journalEntries";
import { listJournalActions } from "./queries";

const ENTRIES_AT_ONCE = 60;

/** Returns what was done, newest first. */
export async function showJournal(
  { db }: Context,
  { query, caller }: Request<typeof getJournal>,
): Promise<Answer<typeof getJournal>> {
  const rows = await journalEntries(db, caller, query, ENTRIES_AT_ONCE + 1);
  const actions = await listJournalActions(db, caller);
  return {
    entries: rows.slice(0, ENTRIES_AT_ONCE).map((row) => ({ ...row, at: row.at.toISOString() })),
    more: rows.length > ENTRIES_AT_ONCE,
    actions: actions.map(({ action }) => action),
  };
}
