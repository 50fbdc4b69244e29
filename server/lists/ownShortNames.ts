import { and, eq, or } from "drizzle-orm";
import { type putOwnShort } from "@amigo/contract/lists";
import type { Context } from "../context";
import { ownShortName } from "../db/schema/lists";
import type { Request, Answer } from "../http/handler";
import { loadList } from "../membership/loadList";

export async function changeOwnShortName(
  { db }: Context,
  { params, body, caller }: Request<typeof putOwnShort>,
): Promise<Answer<typeof putOwnShort>> {
  const found = await loadList(db, params.id, caller);
  await db
    .delete(ownShortName)
    .where(
      and(
        eq(ownShortName.accountId, caller.id),
        or(eq(ownShortName.listId, found.id), eq(ownShortName.short, body.short)),
      ),
    );
  if (body.short !== "")
    await db
      .insert(ownShortName)
      .values({ accountId: caller.id, listId: found.id, short: body.short });
  return { short: body.short };
}
