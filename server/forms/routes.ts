import type { Hono } from "hono";
import {
  getAnswers,
  getForm,
  getForms,
  getMissing,
  getOlderAnswers,
  postAnswerDecision,
  postForm,
  postFormPreview,
  putForm,
} from "@amigo/contract/forms";
import type { Context } from "../context";
import { route } from "../http/route";
import { showAnswers, showOlderAnswers } from "./showAnswers";
import { listForms, showForm } from "./showForms";
import { previewForm } from "./previewForm";
import { makeForm } from "./makeForm";
import { changeForm } from "./changeForm";
import { decideOnAnswer } from "./decideAnswer";
import { showMissing } from "./showMissing";
import { FORM_FILES, sendFormFile } from "./formFiles";

/** Making forms, looking at their answers, and handing them out. */
export function formRoutes(app: Hono, context: Context): void {
  route(app, context, getForms, listForms);
  route(app, context, postFormPreview, previewForm);
  route(app, context, postForm, makeForm);
  route(app, context, getForm, showForm);
  route(app, context, putForm, changeForm);
  route(app, context, getAnswers, showAnswers);
  route(app, context, getOlderAnswers, showOlderAnswers);
  route(app, context, postAnswerDecision, decideOnAnswer);
  route(app, context, getMissing, showMissing);

  for (const [path, file] of FORM_FILES) app.get(path, (http) => sendFormFile(context, http, file));
}
