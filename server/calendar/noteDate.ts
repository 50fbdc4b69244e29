import type { Queries } from "../db/connect";
import { record } from "../events/record";

/** Writes into the journal what somebody did with a date, for each of its lists. */
export async function noteDate(
  tx: Queries,
  by: { id?: string | undefined; name: string },
  action: "make date" | "change date" | "cancel date" | "ask again",
  lists: readonly { id: string }[],
  sentence: () => string,
): Promise<void> {
  const entry = { actorId: by.id ?? null, actor: by.name, action, sentence };
  const entries = lists.map(({ id }) => ({ ...entry, listId: id }));
  await record(tx, ...(entries.length === 0 ? [entry] : entries));
}
