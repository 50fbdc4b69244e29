import { eq } from "drizzle-orm";
import type { JournalAction } from "@amigo/core/journal/journalAction";
import type { Caller } from "../callers/caller";
import type { Database } from "../db/connect";
import { postList } from "../db/schema/posts";
import { notify } from "../events/events";
import { record } from "../journal/record";
import type { ManagedPost } from "./takeBackPost";

export async function told(
  db: Database,
  own: ManagedPost,
  caller: Caller,
  action: JournalAction,
  did: string,
): Promise<void> {
  const lists = await db
    .select({ id: postList.listId })
    .from(postList)
    .where(eq(postList.postId, own.id));
  await record(
    db,
    ...(lists.length === 0 ? [{ id: null }] : lists).map(({ id: listId }) => ({
      actorId: caller.id,
      actor: caller.name,
      action,
      listId,
      sentence: `${caller.name} ${did}: "${own.subject}"`,
    })),
  );
  await notify(db, "posts", "queue");
}
