import type { Hono } from "hono";
import { getTrace } from "@amigo/contract/trace";
import type { Context } from "../context";
import { route } from "../http/route";
import { showTrace } from "./showTrace";

/** What happened to mail. */
export function traceRoutes(app: Hono, context: Context): void {
  route(app, context, getTrace, showTrace);
}
