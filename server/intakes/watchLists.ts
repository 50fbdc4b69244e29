import type { putWatch } from "@amigo/contract/intakes";
import { callerMay } from "../callers/caller";
import type { Context } from "../context";
import { refuse, notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { loadList } from "../membership/loadList";
import { loadIntake } from "./queries";
import { storeWatch, removeWatch } from "./intakeQueries";

/** Lets the caller be told by mail when an intake or a list gets somebody new, or ends that. */
export async function watchList(
  { db }: Context,
  { body, caller }: Request<typeof putWatch>,
): Promise<Answer<typeof putWatch>> {
  const { what, id, watching } = body;
  if (what === "list") {
    if (!callerMay(caller, "see lists")) throw notFound("list");
    refuse(await loadList(db, id, caller));
  } else refuse(await loadIntake(db, id, caller));
  if (watching) await storeWatch(db, caller.id, what, id);
  else await removeWatch(db, caller.id, what, id);
  return { watching };
}
