import { endOtherSessions } from "../accounts/signIn";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { countRecoveryCodes, renewRecoveryCodes } from "./queries";
import { tellChange, type Changed } from "./tellChange";

/** Adds a way to do the second step, with recovery codes if it is the first; sessions elsewhere end, for they began without it. */
export function addSecondStep(
  context: Context,
  caller: Caller,
  session: string | undefined,
  add: (tx: Queries) => Promise<Changed>,
): Promise<{ recoveryCodes: string[] }> {
  const { db, settings } = context;
  return db.transaction(async (tx) => {
    const changed = await add(tx);
    const recoveryCodes =
      (await countRecoveryCodes(tx, caller.id)) === 0
        ? await renewRecoveryCodes(tx, caller.id)
        : [];
    await endOtherSessions(tx, caller.id, session ?? "");
    await tellChange(settings, tx, caller, changed);
    return { recoveryCodes };
  });
}
