import { inStaffLanguage } from "../texts/inLanguage";
import type { JournalAction } from "@amigo/core/journal/journalAction";
import type { Queries } from "../db/connect";
import { journal } from "../db/schema/journal";

/** One thing that was done. `sentence` tells it to people; before and after hold what changed. */
export interface JournalEntry {
  actorId?: string | null;
  actor: string;
  action: JournalAction;
  /** Made in the language of the house, whoever did it. */
  sentence: () => string;
  listId?: string | null;
  before?: unknown;
  after?: unknown;
}

/** Adds to the journal. Call it in the same transaction as the thing itself. */
export async function record(db: Queries, ...entries: JournalEntry[]): Promise<void> {
  if (entries.length > 0)
    await db.insert(journal).values(
      entries.map((entry) => ({
        actorId: null,
        listId: null,
        before: null,
        after: null,
        ...entry,
        sentence: inStaffLanguage(entry.sentence),
      })),
    );
}
