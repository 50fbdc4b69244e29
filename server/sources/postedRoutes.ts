import type { Hono } from "hono";
import type { Context } from "../context";
import { takePosted } from "./takePosted";

/** Takes the answers that an outside form tool posts, as JSON or form data, at the secret address of their source. */
export function postedRoutes(app: Hono, context: Context): void {
  app.post("/in/:token", (http) => takePosted(context, http));
}
