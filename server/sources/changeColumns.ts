import { orRefuse } from "../http/fault";
import type { postMeanings } from "@amigo/contract/readings";
import { actorOf } from "../callers/caller";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { planFrom } from "./planFrom";

/** Imports the last file of a source again with other column meanings. */
export async function changeColumns(
  { desk }: Context,
  { params, body, caller, long }: Request<typeof postMeanings>,
): Promise<Answer<typeof postMeanings>> {
  return orRefuse(
    await desk.run(
      "changeMeanings",
      { actor: actorOf(caller), source: params.id, plan: planFrom(body.plan) },
      long,
    ),
  );
}
