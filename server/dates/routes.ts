import type { Hono } from "hono";
import {
  getDate,
  getDates,
  postDate,
  postDateCancel,
  postDatePreview,
  putDate,
} from "@amigo/contract/dates";
import type { Context } from "../context";
import { route } from "../http/route";
import { showAnswerPage, takeAnswerOfPage } from "./answerPage";
import { cancelDate, changeDate, makeDate, previewDate } from "./makeDate";
import { listDates, showDate } from "./showDates";

/** Dates that lists are invited to, and the page on which those who are invited answer. */
export function dateRoutes(app: Hono, context: Context): void {
  route(app, context, getDates, listDates);
  route(app, context, postDatePreview, previewDate);
  route(app, context, getDate, showDate);
  route(app, context, postDate, makeDate);
  route(app, context, putDate, changeDate);
  route(app, context, postDateCancel, cancelDate);
  app.get("/date/:token", (http) => showAnswerPage(context, http));
  app.post("/date/:token", (http) => takeAnswerOfPage(context, http));
}
