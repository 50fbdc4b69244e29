import type { Context as HonoContext } from "hono";
import type { Context } from "../context";
import { keepSecret } from "../http/cookies";
import { SESSION_DAYS, startSession } from "./signIn";

/** Starts a session and puts its secret into a cookie that no script reads and no other site sends along. */
export async function beginSession(
  { db, settings }: Pick<Context, "db" | "settings">,
  http: HonoContext,
  accountId: string,
): Promise<void> {
  const secret = await startSession(db, accountId, http.req.header("User-Agent") ?? "");
  keepSecret(http, settings, "session", secret, SESSION_DAYS * 86_400);
}
