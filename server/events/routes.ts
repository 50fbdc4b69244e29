import type { Hono } from "hono";
import type { Context } from "../context";
import { streamEvents } from "./streamEvents";

/**
 * Tells a page what changed, as server-sent events. The page asks again for what it shows; nothing secret is told. What changed
 * between the page's own beginning (`age`, in milliseconds) and its listening, or while a connection was broken, is told first.
 */
export function eventRoutes(app: Hono, context: Context): void {
  app.get("/api/events", (http) => streamEvents(context, http));
}
