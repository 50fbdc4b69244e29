import type { deleteByHand, getByHand } from "@amigo/contract/people";
import { actorOf } from "../callers/caller";
import type { Context } from "../context";
import { orRefuse, notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { manualChangesOf } from "./manualChangesOf";

/** Undoes something that was settled by hand. */
export async function endManualChange(
  { db, desk }: Context,
  { params, caller }: Request<typeof deleteByHand>,
): Promise<Answer<typeof deleteByHand>> {
  if (!(await manualChangesOf(db, caller)).some(({ id }) => id === params.number))
    throw notFound("entry");
  return orRefuse(await desk.run("withdrawByHand", { actor: actorOf(caller), id: params.number }));
}

/** Returns what was settled by hand and holds, newest first. */
export async function listManualChanges(
  { db }: Context,
  { caller }: Request<typeof getByHand>,
): Promise<Answer<typeof getByHand>> {
  return (await manualChangesOf(db, caller)).map(({ id, sentence, by, at }) => ({
    id,
    sentence,
    by,
    at: at.toISOString(),
  }));
}
