import type { Hono } from "hono";
import { getMailWeeks, getTrace } from "@amigo/contract/trace";
import type { Context } from "../context";
import { route } from "../http/route";
import { showTrace } from "./showTrace";
import { showWeeks } from "./showWeeks";

/** What happened to mail. */
export function traceRoutes(app: Hono, context: Context): void {
  route(app, context, getTrace, showTrace);
  route(app, context, getMailWeeks, showWeeks);
}
