import type { Hono } from "hono";
import { getMaking, postEdit, postEditPlan } from "@amigo/contract/edits";
import { getAudienceWords, postAudienceTry } from "@amigo/contract/audiences";
import { getNaming, postNamesTry, putNaming } from "@amigo/contract/naming";
import { getNextSeason, postSeason, postSeasonPlan } from "@amigo/contract/seasons";
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
