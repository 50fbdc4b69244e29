import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { countLists } from "./queries";

/**
 * Whether somebody may do more with a post than see it: of it as a whole, as its writer or where they lead all of its lists;
 * of their own list's copies, where they lead one.
 */
export async function mayManage(
  db: Queries,
  caller: Caller,
  { id, accountId }: { id: string; accountId: string | null },
  of: "all" | "a list",
): Promise<boolean> {
  if (accountId === caller.id || caller.role === "coordinator") return true;
  const led = await countLists(db, caller, id);
  return led !== undefined && led.own > 0 && (of === "a list" || led.own === led.lists);
}
