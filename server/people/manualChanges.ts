import { type deleteByHand, type getByHand } from "@amigo/contract/people";
import { actorOf } from "../callers/caller";
import type { Context } from "../context";
import { notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { saidOf } from "./saidOf";

/** Undoes something that was settled by hand. */
export async function endManualChange(
  { db, desk }: Context,
  { params, caller }: Request<typeof deleteByHand>,
): Promise<Answer<typeof deleteByHand>> {
  if (!(await saidOf(db, caller)).some(({ id }) => id === params.number)) throw notFound("entry");
  return desk.run("withdrawByHand", { actor: actorOf(caller), id: params.number });
}

/** Returns what was settled by hand and holds, newest first. */
export async function listManualChanges(
  { db }: Context,
  { caller }: Request<typeof getByHand>,
): Promise<Answer<typeof getByHand>> {
  return (await saidOf(db, caller)).map(({ id, sentence, by, at }) => ({
    id,
    sentence,
    by,
    at: at.toISOString(),
  }));
}
