import type { BounceSort } from "@amigo/core/mail/bounces/form";
import { isForGood, isOfAddress } from "@amigo/core/mail/bounces/sortOf";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { record } from "../events/record";
import { lockBrakes } from "./brakeQueries";
import { isBraked } from "./brakes";
import { t } from "../texts/t";
import {
  storeBounce,
  countSoftDays,
  findTrouble,
  storeTrouble,
  cancelCopiesTo,
  removeTrouble,
} from "./bounceQueries";

/** Something that came back of a copy, or was refused at once. */
export interface CameBack {
  deliveryId: number | null;
  address: string;
  sort: BounceSort;
  form: string;
  words: string;
}

/**
 * Writes down that mail to an address came back, and what it means for the address: what is for good stops mail to it at
 * once; what is for now does so once it has come on as many days as the house has set, with no success between.
 */
export async function cameBack(
  tx: Queries,
  { deliveryId, address, sort, form, words }: CameBack,
): Promise<void> {
  // Before any row is written, so that two who see the same wave never wait for each other.
  if (isForGood(sort)) await lockBrakes(tx);
  await storeBounce(tx, deliveryId, address, sort, form, words);
  if (!isOfAddress(sort)) return;
  const { rows } = await countSoftDays(tx, address, deliveryId);
  const [counted] = rows;
  const stops = isForGood(sort) || (counted !== undefined && counted.days >= counted.limit);
  const before = await findTrouble(tx, address);
  if (before?.state === "stopped") return;
  await storeTrouble(tx, address, stops, sort, words);
  if (!stops || (isForGood(sort) && (await isBraked(tx, deliveryId, address, words)))) {
    await notify(tx, "people");
    return;
  }
  await cancelCopiesTo(tx, address);
  await record(tx, {
    actor: "Amigo",
    action: "address stopped",
    sentence: () => t("mail.mailToHasStopped", { address, words: words.slice(0, 200) }),
  });
  await notify(tx, "board", "posts", "people");
}

/** Mail goes to an address again: by a word of its owner, by a coordinator, or because it did arrive. Returns whether anything was wrong with it. */
export async function heal(
  tx: Queries,
  address: string,
  by: { id: string | null; name: string },
  why: string,
): Promise<boolean> {
  const gone = await removeTrouble(tx, address);
  if (gone?.state === "stopped")
    await record(tx, {
      actorId: by.id,
      actor: by.name,
      action: "address heals",
      sentence: () => t("mail.mailGoesToAgain", { address, why }),
    });
  if (gone !== undefined) await notify(tx, "board", "posts", "people");
  return gone !== undefined;
}
