import { and, eq } from "drizzle-orm";
import { type putWatch } from "@amigo/contract/intakes";
import { callerMay } from "../callers/caller";
import type { Context } from "../context";
import { watch } from "../db/schema/notes";
import { notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { loadList } from "../membership/loadList";
import { loadIntake } from "./queries";

export async function watchList(
  { db }: Context,
  { body, caller }: Request<typeof putWatch>,
): Promise<Answer<typeof putWatch>> {
  const { what, id, watching } = body;
  if (what === "list") {
    if (!callerMay(caller, "see lists")) throw notFound("list");
    await loadList(db, id, caller);
  } else await loadIntake(db, id, caller);
  if (watching)
    await db.insert(watch).values({ accountId: caller.id, what, about: id }).onConflictDoNothing();
  else
    await db
      .delete(watch)
      .where(and(eq(watch.accountId, caller.id), eq(watch.what, what), eq(watch.about, id)));
  return { watching };
}
