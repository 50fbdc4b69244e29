import type { Hono } from "hono";
import { getJournal } from "@amigo/contract/house";
import type { Context } from "../context";
import { route } from "../http/route";
import { exportJournal } from "./exportJournal";
import { showJournal } from "./showJournal";

export function journalRoutes(app: Hono, context: Context): void {
  route(app, context, getJournal, showJournal);
  app.get("/api/journal/export", (http) => exportJournal(context, http));
}
