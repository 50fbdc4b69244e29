import type { Hono } from "hono";
import {
  getDate,
  getDates,
  postDate,
  postDateAskAgain,
  postDateCancel,
  postDatePreview,
  putDate,
  putDateTime,
} from "@amigo/contract/dates";
import type { Context } from "../context";
import { route } from "../http/route";
import { showAnswerPage, takeAnswerOfPage } from "./answerPage";
import { askAgain } from "./askAgain";
import { changeTime } from "./changeTime";
import { exportGuests, printGuests } from "./guestFiles";
import { cancelDate, changeDate, makeDate, previewDate } from "./makeDate";
import { listDates, showDate } from "./showDates";

/** Dates that lists are invited to, and the page on which those who are invited answer. */
export function dateRoutes(app: Hono, context: Context): void {
  route(app, context, getDates, listDates);
  route(app, context, postDatePreview, previewDate);
  route(app, context, getDate, showDate);
  route(app, context, postDate, makeDate);
  route(app, context, putDate, changeDate);
  route(app, context, putDateTime, changeTime);
  route(app, context, postDateCancel, cancelDate);
  route(app, context, postDateAskAgain, askAgain);
  app.get("/api/dates/:id/guests.csv", (http) => exportGuests(context, http));
  app.get("/api/dates/:id/guests.pdf", (http) => printGuests(context, http));
  app.get("/date/:token", (http) => showAnswerPage(context, http));
  app.post("/date/:token", (http) => takeAnswerOfPage(context, http));
}
