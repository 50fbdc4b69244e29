import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { record } from "../events/record";
import { tellOwner } from "./tellOwner";

export async function tellChange(
  settings: Context["settings"],
  tx: Queries,
  caller: Caller,
  sentence: string,
): Promise<void> {
  await tellOwner(tx, settings, caller, `${sentence}.`);
  await record(tx, {
    actorId: caller.id,
    actor: caller.name,
    action: "change sign-in",
    sentence: `${sentence.replace(/your account$/, `the account of ${caller.name}`)}`,
  });
}
