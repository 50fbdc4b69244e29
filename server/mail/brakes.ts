import { isWave } from "@amigo/core/mail/bounces/isWave";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { record } from "../events/record";
import { refused, type Refused } from "../refused";
import { t } from "../texts/t";
import { cancelCopiesTo, removeTrouble } from "./bounceQueries";
import {
  decideBrake,
  failuresOf,
  findFailedCopy,
  findOpenBrake,
  putUnderBrake,
  stopUnderBrake,
  storeBrake,
  type Scope,
} from "./brakeQueries";

/**
 * Looks whether a failure is one of many at once, which rather a mail server is to blame for: then mail to none of these addresses
 * is stopped until somebody has decided on them together. The caller holds {@link lockBrakes}.
 *
 * @returns whether the address is under such a brake
 */
export async function isBraked(
  tx: Queries,
  deliveryId: number | null,
  address: string,
  words: string,
): Promise<boolean> {
  if (deliveryId === null) return false;
  const copy = await findFailedCopy(tx, deliveryId);
  if (copy === undefined) return false;
  const scopes: readonly [Scope, string, string | undefined][] = [
    ["domain", copy.domain, copy.domain],
    ["mail", copy.message, undefined],
  ];
  for (const [scope, about, domain] of scopes) {
    const open = await findOpenBrake(tx, scope, about);
    if (open !== undefined) {
      await putUnderBrake(tx, open, [address]);
      return true;
    }
    const failures = await failuresOf(tx, copy, scope, about, domain);
    if (!isWave(scope, failures)) continue;
    const id = await storeBrake(tx, scope, about, words.slice(0, 300));
    await putUnderBrake(tx, id, [...failures.addresses, address]);
    await record(tx, {
      actor: "Amigo",
      action: "brake",
      sentence: () =>
        t("mail.manyFailedAtOnce", {
          addresses: failures.failed,
          words: words.slice(0, 200),
        }),
    });
    await notify(tx, "board", "posts", "people", "queue");
    return true;
  }
  return false;
}

/** Decides on all addresses that failed at once: mail goes to them as before, or stops. Returns how many they are. */
export async function settleBrake(
  tx: Queries,
  id: string,
  decision: "resume" | "stop",
  by: { id: string; name: string },
): Promise<number | Refused> {
  const addresses = await decideBrake(tx, id, decision, by.name);
  if (addresses === undefined)
    return refused(409, "brake/decided", t("mail.somebodyHasDecidedOnThese"));
  if (decision === "stop") await stopUnderBrake(tx, id);
  for (const address of addresses)
    await (decision === "stop" ? cancelCopiesTo(tx, address) : removeTrouble(tx, address));
  await record(tx, {
    actorId: by.id,
    actor: by.name,
    action: "brake",
    sentence: () =>
      t("mail.decidedOnFailures", {
        name: by.name,
        addresses: addresses.length,
        decision,
      }),
  });
  await notify(tx, "board", "posts", "people");
  return addresses.length;
}
