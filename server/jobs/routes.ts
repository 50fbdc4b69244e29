import type { Hono } from "hono";
import { getJobs, postJob } from "@amigo/contract/jobs";
import type { Context } from "../context";
import { route } from "../http/route";
import { askJob, showJobs } from "./showJobs";

/** The work that comes back by itself, as coordinators see it. */
export function jobRoutes(app: Hono, context: Context): void {
  route(app, context, getJobs, showJobs);
  route(app, context, postJob, askJob);
}
