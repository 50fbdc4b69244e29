import type { Hono } from "hono";
import { getPulse } from "@amigo/contract/house";
import { getBoard } from "@amigo/contract/board";
import type { Context } from "../context";
import { route } from "../http/route";
import { showPulse } from "./showPulse";
import { showBoard } from "./showBoard";

export function boardRoutes(app: Hono, context: Context): void {
  route(app, context, getBoard, showBoard);
  route(app, context, getPulse, showPulse);
}
