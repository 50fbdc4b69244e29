import type { Hono } from "hono";
import { getRetention, postRetentionPreview, putRetention } from "@amigo/contract/retention";
import type { Context } from "../context";
import { route } from "../http/route";
import { showKeepTimes, previewKeepTimes, changeKeepTimes } from "./keepTimes";

/** How long everything is kept. */
export function retentionRoutes(app: Hono, context: Context): void {
  route(app, context, getRetention, showKeepTimes);
  route(app, context, postRetentionPreview, previewKeepTimes);
  route(app, context, putRetention, changeKeepTimes);
}
