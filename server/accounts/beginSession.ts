import type { Context as HonoContext } from "hono";
import { setCookie } from "hono/cookie";
import type { Context } from "../context";
import { SESSION_COOKIE } from "../http/route";
import { SESSION_DAYS, startSession } from "./signIn";

/** Starts a session and puts its secret into a cookie that no script reads and no other site sends along. */
export async function beginSession(
  { db, settings }: Pick<Context, "db" | "settings">,
  http: HonoContext,
  accountId: string,
): Promise<void> {
  setCookie(
    http,
    SESSION_COOKIE,
    await startSession(db, accountId, http.req.header("User-Agent") ?? ""),
    {
      httpOnly: true,
      sameSite: "Lax",
      secure: settings.url.startsWith("https:"),
      path: "/",
      maxAge: SESSION_DAYS * 86_400,
    },
  );
}
