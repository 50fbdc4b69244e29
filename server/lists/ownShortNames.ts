import { orRefuse } from "../http/fault";
import type { putOwnShort } from "@amigo/contract/lists";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { loadList } from "../membership/loadList";
import { removeShortName, storeShortName } from "./queries";

/** Changes a short name by which the caller alone finds a list; empty removes it. */
export async function changeOwnShortName(
  { db }: Context,
  { params, body, caller }: Request<typeof putOwnShort>,
): Promise<Answer<typeof putOwnShort>> {
  const found = orRefuse(await loadList(db, params.id, caller));
  await removeShortName(db, caller.id, found.id, body.short);
  if (body.short !== "") await storeShortName(db, caller.id, found.id, body.short);
  return { short: body.short };
}
