import type { Hono } from "hono";
import type { Context } from "../context";
import { printCohort, printMembers } from "./printLists";

/** Sheets to print, as PDF. */
export function printRoutes(app: Hono, context: Context): void {
  app.get("/api/print/:key/:sheet{(class-list|team-sheet)\\.pdf}", (http) =>
    printCohort(context, http),
  );
  app.get("/api/lists/:id/members.pdf", (http) => printMembers(context, http));
}
