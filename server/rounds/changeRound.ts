import { orRefuse } from "../http/fault";
import type { getTakeBack, postDecisions, postStep, postTakeBack } from "@amigo/contract/rounds";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";

/** Returns what taking a round back would do today. */
export async function previewTakeBack(
  { desk }: Context,
  { params }: Request<typeof getTakeBack>,
): Promise<Answer<typeof getTakeBack>> {
  return orRefuse(await desk.run("planTakeBack", { round: params.number }));
}

/** Accepts or holds causes of the open round. */
export async function decideCauses(
  { desk }: Context,
  { body }: Request<typeof postDecisions>,
): Promise<Answer<typeof postDecisions>> {
  return orRefuse(await desk.run("decide", body));
}

/** Brings the lists in step: carries out what is accepted, in one transaction, once. */
export async function stepNow(
  { desk }: Context,
  { body, caller, long }: Request<typeof postStep>,
): Promise<Answer<typeof postStep>> {
  return orRefuse(
    await desk.run(
      "bringInStep",
      { actor: { id: caller.id, name: caller.name }, wanted: body },
      long,
    ),
  );
}

/** Takes a round back by a new round, computed against today. */
export async function undoRound(
  { desk }: Context,
  { params, body, caller, long }: Request<typeof postTakeBack>,
): Promise<Answer<typeof postTakeBack>> {
  return orRefuse(
    await desk.run(
      "takeBack",
      {
        actor: { id: caller.id, name: caller.name },
        wanted: { round: params.number, passed: body.passed },
      },
      long,
    ),
  );
}
