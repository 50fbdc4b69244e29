import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { record } from "../events/record";
import { tellOwner } from "./tellOwner";

/** Says what has changed at an account: `whose` is its owner's name for others, empty for the owner. */
export type Changed = (whose: string) => string;

/** Tells an account's owner by mail, and the journal, what has changed at the account. */
export async function tellChange(
  settings: Context["settings"],
  tx: Queries,
  caller: Caller,
  changed: Changed,
): Promise<void> {
  await tellOwner(tx, settings, caller, () => `${changed("")}.`);
  await record(tx, {
    actorId: caller.id,
    actor: caller.name,
    action: "change sign-in",
    sentence: () => changed(caller.name),
  });
}
