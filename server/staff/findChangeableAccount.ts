import { findAccount } from "../accounts/queries";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { type account } from "../db/schema/accounts";
import { notFound } from "../http/fault";
import { mayGive } from "./mayGive";

export async function findChangeableAccount(
  db: Queries,
  id: string,
  caller: Caller,
): Promise<typeof account.$inferSelect> {
  const row = await findAccount(db, id);
  if (row === undefined || !mayGive(caller, row.role, row.siteId)) throw notFound("account");
  return row;
}
