import type { Hono } from "hono";
import {
  getMaking,
  getNaming,
  getNextSeason,
  getAudienceWords,
  postAudienceTry,
  postEdit,
  postEditPlan,
  postNamesTry,
  postSeason,
  postSeasonPlan,
  putNaming,
} from "@amigo/contract/edits";
import type { Context } from "../context";
import { route } from "../http/route";
import { listAudienceWords, tryAudience } from "./tryAudience";
import { previewEdit, makeEdit } from "./carryOutEdits";
import { showMaking } from "./showMaking";
import { tryNames } from "./tryNames";
import { showNaming, changeNaming } from "./naming";
import { showNextSeason, previewSeason, startSeason } from "./seasons";

export function editRoutes(app: Hono, context: Context): void {
  route(app, context, postEditPlan, previewEdit);
  route(app, context, postEdit, makeEdit);
  route(app, context, getMaking, showMaking);
  route(app, context, getAudienceWords, listAudienceWords);
  route(app, context, postAudienceTry, tryAudience);
  route(app, context, postNamesTry, tryNames);
  route(app, context, getNaming, showNaming);
  route(app, context, putNaming, changeNaming);
  route(app, context, getNextSeason, showNextSeason);
  route(app, context, postSeasonPlan, previewSeason);
  route(app, context, postSeason, startSeason);
}
