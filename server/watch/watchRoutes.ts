import type { Hono } from "hono";
import type { Context } from "../context";
import { askDatabase } from "../db/askDatabase";
import type { Traffic } from "../http/traffic";

/** How long the database is waited for, in milliseconds. */
const PATIENCE = 2000;

/**
 * What a machine that watches processes asks: whether this one lives, and whether it is ready for its work. They say nothing
 * else, and need no sign-in.
 */
export function watchRoutes(app: Hono, context: Context, traffic: Traffic): void {
  app.get("/livez", (http) => http.text("ok"));
  app.get("/readyz", async (http) => {
    const why = await whyNotReady(context, traffic);
    return http.text(why ?? "ok", why === undefined ? 200 : 503);
  });
}

/** Returns why a process is not ready for what its roles do; undefined where it is. */
async function whyNotReady(
  { db, events, settings }: Context,
  traffic: Traffic,
): Promise<string | undefined> {
  if (traffic.isStopping) return "stopping";
  const late = new Promise<boolean>((resolve) => {
    setTimeout(() => resolve(false), PATIENCE).unref();
  });
  const asked = askDatabase(db).then(
    () => true,
    () => false,
  );
  if (!(await Promise.race([asked, late]))) return "the database doesn't answer";
  // Pages would not hear what others change.
  return settings.roles.has("web") && !events.isHearing() ? "changes aren't heard" : undefined;
}
