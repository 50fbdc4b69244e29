import {
  type getTakeBack,
  type postDecisions,
  type postStep,
  type postTakeBack,
} from "@amigo/contract/rounds";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { planTakeBack } from "./takeBack";

export async function previewTakeBack(
  { db }: Context,
  { params }: Request<typeof getTakeBack>,
): Promise<Answer<typeof getTakeBack>> {
  return planTakeBack(db, params.number);
}

export async function decideCauses(
  { desk }: Context,
  { body }: Request<typeof postDecisions>,
): Promise<Answer<typeof postDecisions>> {
  return desk.run("decide", body);
}

export async function stepNow(
  { desk }: Context,
  { body, caller, long }: Request<typeof postStep>,
): Promise<Answer<typeof postStep>> {
  return desk.run(
    "bringInStep",
    { actor: { id: caller.id, name: caller.name }, wanted: body },
    long,
  );
}

export async function undoRound(
  { desk }: Context,
  { params, body, caller, long }: Request<typeof postTakeBack>,
): Promise<Answer<typeof postTakeBack>> {
  return desk.run(
    "takeBack",
    {
      actor: { id: caller.id, name: caller.name },
      wanted: { round: params.number, passed: body.passed },
    },
    long,
  );
}
