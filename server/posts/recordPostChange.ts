import type { JournalAction } from "@amigo/core/journal/journalAction";
import type { Caller } from "../callers/caller";
import type { Database } from "../db/connect";
import { notify } from "../events/events";
import { record } from "../events/record";
import { listListIds } from "./queries";
import type { ManagedPost } from "./takeBackPost";

export async function recordPostChange(
  db: Database,
  managedPost: ManagedPost,
  caller: Caller,
  action: JournalAction,
  did: () => string,
): Promise<void> {
  const lists = await listListIds(db, managedPost.id);
  await record(
    db,
    ...(lists.length === 0 ? [{ id: null }] : lists).map(({ id: listId }) => ({
      actorId: caller.id,
      actor: caller.name,
      action,
      listId,
      sentence: () => `${caller.name} ${did()}: "${managedPost.subject}"`,
    })),
  );
  await notify(db, "posts", "queue");
}
