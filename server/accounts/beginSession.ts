import type { Context as HonoContext } from "hono";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { forgetSecret, keepSecret } from "../http/cookies";
import { record } from "../events/record";
import { beginStep, secondStepsOf, STEP_MINUTES } from "../twoStep/queries";
import { startSession } from "./signIn";
import { SESSION_DAYS } from "./queries";

type Around = Pick<Context, "settings"> & { db: Queries };

/** Starts a session and puts its secret into a cookie that no script reads and no other site sends along. */
export async function beginSession(
  { db, settings }: Around,
  http: HonoContext,
  accountId: string,
): Promise<void> {
  const secret = await startSession(db, accountId, http.req.header("User-Agent") ?? "");
  keepSecret(http, settings, "session", secret, SESSION_DAYS * 86_400);
  forgetSecret(http, settings, "step");
}

/**
 * Ends the first step of a sign-in, by a password or a mailed link. Returns whether that signs the account in; where it does not, its
 * second step is waited for.
 *
 * @param how what the journal says of it behind the name
 */
export async function passFirstStep(
  around: Around,
  http: HonoContext,
  who: { id: string; name: string },
  how: () => string,
): Promise<boolean> {
  const { db, settings } = around;
  const { code, passkeys } = await secondStepsOf(db, who.id);
  if (code || passkeys.length > 0) {
    const token = await beginStep(db, { accountId: who.id, purpose: "sign-in" });
    keepSecret(http, settings, "step", token, STEP_MINUTES * 60);
    return false;
  }
  await beginSession(around, http, who.id);
  await record(db, {
    actorId: who.id,
    actor: who.name,
    action: "sign in",
    sentence: () => `${who.name} ${how()}`,
  });
  return true;
}
