import { type postBrake } from "@amigo/contract/mail";
import type { Context } from "../context";
import { inTransaction } from "../db/inTransaction";
import { orRefuse } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { settleBrake } from "../mail/brakes";

/** Decides on addresses that failed at once: mail to all of them goes on, or stops. */
export async function decideOnBrake(
  { db }: Context,
  { params, body, caller }: Request<typeof postBrake>,
): Promise<Answer<typeof postBrake>> {
  const addresses = orRefuse(
    await inTransaction(db, (tx) =>
      settleBrake(tx, params.id, body.decision, { id: caller.id, name: caller.name }),
    ),
  );
  return { addresses };
}
