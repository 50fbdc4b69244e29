import type { Hono } from "hono";
import {
  deleteDraft,
  deleteDraftFile,
  deleteTemplate,
  getDraft,
  getDrafts,
  getTargetMembers,
  getTargets,
  getTemplates,
  postDraftFile,
  postPreview,
  postReckonDraft,
  postSendDraft,
  postTemplate,
  postUnplan,
  putDraft,
} from "@amigo/contract/drafts";
import type { Context } from "../context";
import { route } from "../http/route";
import { listDrafts, showDraft, saveDraft, deleteDraftAndFiles } from "./draftContent";
import { attachFile, removeFile, sendDraftFile } from "./draftFiles";
import { findTargets } from "./findTargets";
import { sendOrPlan, unplan } from "./sendOrPlan";
import { reckonTargets } from "./reckonTargets";
import { previewDraft } from "./previewDraft";
import { listTargetMembers } from "./listTargetMembers";
import { listTemplates, saveTemplate, removeTemplate } from "./templates";

/** The composer: drafts as they are written, whom they reach, files, previews, sending now or later. Everybody has their own. */
export function draftRoutes(app: Hono, context: Context): void {
  route(app, context, getDrafts, listDrafts);
  route(app, context, getDraft, showDraft);
  route(app, context, putDraft, saveDraft);
  route(app, context, deleteDraft, deleteDraftAndFiles);
  route(app, context, postDraftFile, attachFile);
  route(app, context, deleteDraftFile, removeFile);
  app.get("/api/drafts/:id/files/:file", (http) => sendDraftFile(context, http));
  route(app, context, postReckonDraft, reckonTargets);
  route(app, context, postPreview, previewDraft);
  route(app, context, postSendDraft, sendOrPlan);
  route(app, context, postUnplan, unplan);
  route(app, context, getTargets, findTargets);
  route(app, context, getTargetMembers, listTargetMembers);
  route(app, context, getTemplates, listTemplates);
  route(app, context, postTemplate, saveTemplate);
  route(app, context, deleteTemplate, removeTemplate);
}
