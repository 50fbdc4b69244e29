import type { Hono } from "hono";
import { getCause, getCauses, getChoices, getOutline } from "@amigo/contract/causes";
import {
  getOpenRound,
  getRound,
  getRounds,
  getTakeBack,
  postDecisions,
  postStep,
  postTakeBack,
} from "@amigo/contract/rounds";
import type { Context } from "../context";
import { route } from "../http/route";
import {
  listCausesOf,
  listRounds,
  showChoices,
  showOpenRound,
  showOutline,
  showRound,
} from "./showRounds";
import { showCause } from "./showCause";
import { previewTakeBack, decideCauses, stepNow, undoRound } from "./changeRound";

export function roundRoutes(app: Hono, context: Context): void {
  route(app, context, getRounds, listRounds);
  route(app, context, getOpenRound, showOpenRound);
  route(app, context, getRound, showRound);
  route(app, context, getChoices, showChoices);
  route(app, context, getOutline, showOutline);
  route(app, context, getCauses, listCausesOf);
  route(app, context, getCause, showCause);
  route(app, context, getTakeBack, previewTakeBack);
  route(app, context, postDecisions, decideCauses);
  route(app, context, postStep, stepNow);
  route(app, context, postTakeBack, undoRound);
}
