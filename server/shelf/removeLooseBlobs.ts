import type { Context } from "../context";
import { describeFailure } from "../describeFailure";
import { listLooseBlobs, removeLooseBlob } from "./blobQueries";

/**
 * Removes octets that no version of anything has any more, and what broke off; returns how many. What can't be removed, as the store
 * is away, is told in the log and tried again the next time.
 */
export async function removeLooseBlobs(
  context: Pick<Context, "db" | "objects" | "log">,
): Promise<number> {
  let removed = 0;
  for (const { id } of await listLooseBlobs(context.db))
    try {
      if (await removeLooseBlob(context, id)) removed++;
    } catch (failure) {
      const told = { failure: describeFailure(failure), blob: id };
      context.log.error(told, "a file that nothing has any more could not be removed");
    }
  return removed;
}
