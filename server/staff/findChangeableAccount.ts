import { noSuch, type Refused } from "../refused";
import { findAccount } from "../accounts/queries";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import type { account } from "../db/schema/accounts";
import { mayGive } from "./mayGive";

export async function findChangeableAccount(
  db: Queries,
  id: string,
  caller: Caller,
): Promise<typeof account.$inferSelect | Refused> {
  const row = await findAccount(db, id);
  if (row === undefined || !mayGive(caller, row.role, row.siteId)) return noSuch("account");
  return row;
}
