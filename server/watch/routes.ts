import type { Hono } from "hono";
import { getHealth, getHealthDetails } from "@amigo/contract/health";
import type { Context } from "../context";
import { route } from "../http/route";
import { checkHealth, showHealthDetails } from "./checkHealth";

/** How this Amigo is, for whatever watches it and for coordinators. */
export function healthRoutes(app: Hono, context: Context): void {
  route(app, context, getHealth, checkHealth);
  route(app, context, getHealthDetails, showHealthDetails);
}
