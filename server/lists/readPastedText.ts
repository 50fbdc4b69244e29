import { orRefuse } from "../http/fault";
import type { postPasted } from "@amigo/contract/members";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { loadList } from "../membership/loadList";
import { readPasted } from "./pasted";

/** Returns what becomes of each address of a pasted text, without adding any. */
export async function readPastedText(
  { db }: Context,
  { params, body, caller }: Request<typeof postPasted>,
): Promise<Answer<typeof postPasted>> {
  return readPasted(db, caller, orRefuse(await loadList(db, params.id, caller)), body.text);
}
