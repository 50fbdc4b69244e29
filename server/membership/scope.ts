import { eq, sql, type SQL } from "drizzle-orm";
import type { Caller } from "../callers/caller";
import { list, listRole } from "../db/schema";

/**
 * The lists that somebody may see and write to, as a condition on `list`:
 * every one for a coordinator, those of their site for a site coordinator, for staff those that they
 * lead or help with.
 */
export function listsOf(caller: Caller): SQL {
  if (caller.role === "coordinator") return sql`true`;
  const own = sql`exists (select 1 from ${listRole} where ${listRole.listId} = ${list.id} and ${listRole.accountId} = ${caller.id})`;
  if (caller.role === "site coordinator" && caller.siteId !== null) return sql`(${eq(list.siteId, caller.siteId)} or ${own})`;
  return own;
}
