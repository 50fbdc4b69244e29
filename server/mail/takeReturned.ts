import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { cameBack } from "./trouble";
import type { Taken } from "./incomingMail";
import { findReturnedCopy, markBounced } from "./bounceQueries";

/**
 * A mail that comes to the return path of one copy (VERP) is about that copy: it is sorted, the copy is marked where it has
 * failed for good, and the address is held to account as far as it is the address that fails. A report about other
 * addresses is ignored.
 */
export async function takeReturned(tx: Queries, token: string, { returned }: Taken): Promise<void> {
  const copy = await findReturnedCopy(tx, token);
  const read = copy === undefined ? undefined : returned.get(copy.address);
  if (copy === undefined || read === undefined) return;
  const { sort, form, words, gaveUp = false } = read;
  // What was for now has failed, too, once the sending system has given up.
  if (sort !== "not a bounce" && (sort !== "temporary" || gaveUp))
    await markBounced(tx, words, copy.id);
  await cameBack(tx, { deliveryId: copy.id, address: copy.address, sort, form, words });
  await notify(tx, "posts");
}
