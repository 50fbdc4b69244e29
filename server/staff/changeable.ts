import { eq } from "drizzle-orm";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { account } from "../db/schema/accounts";
import { notFound } from "../http/fault";
import { mayGive } from "./mayGive";

export async function changeable(
  db: Queries,
  id: string,
  caller: Caller,
): Promise<typeof account.$inferSelect> {
  const [row] = await db.select().from(account).where(eq(account.id, id));
  if (row === undefined || !mayGive(caller, row.role, row.siteId)) throw notFound("account");
  return row;
}
