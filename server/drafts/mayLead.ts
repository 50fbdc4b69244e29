import { and, inArray } from "drizzle-orm";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import type { LoadedList } from "../membership/loadList";
import { changeableBy } from "../membership/scope";
import { list } from "../db/schema/lists";

/** Which of some lists somebody leads or coordinates. */
export async function mayLeadOf(
  db: Queries,
  caller: Caller,
  ids: readonly string[],
): Promise<(of: LoadedList) => boolean> {
  const led = new Set(
    ids.length === 0
      ? []
      : (
          await db
            .select({ id: list.id })
            .from(list)
            .where(and(inArray(list.id, [...ids]), changeableBy(caller)))
        ).map(({ id }) => id),
  );
  return ({ id }) => led.has(id);
}
