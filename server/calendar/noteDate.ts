import type { Queries } from "../db/connect";
import { record } from "../events/record";

/** Writes into the journal what somebody did with a date, for each of its lists. */
export async function noteDate(
  tx: Queries,
  by: { id?: string | undefined; name: string },
  action: "make date" | "change date" | "cancel date" | "ask again",
  lists: readonly { id: string }[],
  sentence: string,
): Promise<void> {
  await record(
    tx,
    ...lists.map(({ id }) => ({
      actorId: by.id ?? null,
      actor: by.name,
      action,
      listId: id,
      sentence,
    })),
  );
}
