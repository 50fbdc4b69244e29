import { eq, sql, type SQL } from "drizzle-orm";
import { may } from "@amigo/core/access/may";
import type { Caller } from "../callers/caller";
import { list, listRole, request } from "../db/schema";

/** That whoever has an account finds a list when they type. */
export const foundByStaff = sql`${list.rules}->>'findable' <> 'leads'`;

/** That whoever has an account and finds a list may see who is on it. */
export const seenByStaff = sql`(${list.rules}->>'findable' <> 'leads' and ${list.rules}->>'roster' <> 'leads')`;

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

/** The lists that somebody may change: of those that they see, the ones that they lead and do not only help with. */
export function changeableBy(caller: Caller): SQL {
  if (caller.role === "coordinator") return sql`true`;
  const leads = sql`exists (select 1 from ${listRole} where ${listRole.listId} = ${list.id} and ${listRole.accountId} = ${caller.id} and ${listRole.role} = 'lead')`;
  return caller.role === "site coordinator" && caller.siteId !== null ? sql`(${eq(list.siteId, caller.siteId)} or ${leads})` : leads;
}

/** The requests on which somebody may decide: all for a coordinator, those about lists of their site for a site coordinator. */
export function decidable(caller: Caller): SQL {
  if (!may(caller.role, "decide requests")) return sql`false`;
  return caller.role === "coordinator" ? sql`true` : caller.siteId === null ? sql`false` : sql`${request.siteId} = ${caller.siteId}`;
}
