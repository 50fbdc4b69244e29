import type { Hono } from "hono";
import {
  getDate,
  getDates,
  getDateTimes,
  getTerms,
  postDate,
  postDateAskAgain,
  postDateCancel,
  postDateDeclineProposal,
  postDateFile,
  postDatePreview,
  postDateRestore,
  putDate,
  putDateTime,
  putTerms,
} from "@amigo/contract/dates";
import {
  deleteFeed,
  deleteMemberFeed,
  getFeed,
  getMemberDates,
  postFeed,
  postMemberFeed,
} from "@amigo/contract/feeds";
import { postDateImport } from "@amigo/contract/dateImport";
import {
  deleteDateWatch,
  getDateWatches,
  postDateWatch,
  postDateWatchRead,
} from "@amigo/contract/dateWatches";
import type { Context } from "../context";
import { route } from "../http/route";
import { showAnswerPage, takeAnswerOfPage } from "./answerPage";
import { askAgain } from "./askAgain";
import { changeTime } from "./changeTime";
import {
  endFeed,
  endMemberFeed,
  makeFeed,
  makeMemberFeed,
  showFeed,
  showMemberDates,
} from "./feeds";
import { addDateFile, sendDateFile, sendGuestFile } from "./dateFiles";
import { declineProposal } from "./declineProposal";
import { exportGuests, printGuests } from "./guestFiles";
import { importDates } from "./importDates";
import { cancelDate, changeDate, makeDate, previewDate } from "./makeDate";
import { restoreDate } from "./restoreDate";
import { sendFeed } from "./sendFeed";
import { listDates, listTimes, showDate } from "./showDates";
import { endWatch, makeWatch, readWatch, showWatches } from "./watches";
import { changeTerms, showTerms } from "./terms";

/** Dates that lists are invited to, and the page on which those who are invited answer. */
export function dateRoutes(app: Hono, context: Context): void {
  route(app, context, getDates, listDates);
  route(app, context, getDateTimes, listTimes);
  route(app, context, getDateWatches, showWatches);
  route(app, context, postDateWatch, makeWatch);
  route(app, context, postDateWatchRead, readWatch);
  route(app, context, deleteDateWatch, endWatch);
  route(app, context, getTerms, showTerms);
  route(app, context, putTerms, changeTerms);
  route(app, context, postDatePreview, previewDate);
  route(app, context, getDate, showDate);
  route(app, context, postDateImport, importDates);
  route(app, context, postDate, makeDate);
  route(app, context, putDate, changeDate);
  route(app, context, putDateTime, changeTime);
  route(app, context, postDateCancel, cancelDate);
  route(app, context, postDateRestore, restoreDate);
  route(app, context, postDateAskAgain, askAgain);
  route(app, context, postDateDeclineProposal, declineProposal);
  route(app, context, postDateFile, addDateFile);
  app.get("/api/dates/files/:file", (http) => sendDateFile(context, http));
  app.get("/api/dates/:id/guests.csv", (http) => exportGuests(context, http));
  app.get("/api/dates/:id/guests.pdf", (http) => printGuests(context, http));
  route(app, context, getFeed, showFeed);
  route(app, context, postFeed, makeFeed);
  route(app, context, deleteFeed, endFeed);
  route(app, context, getMemberDates, showMemberDates);
  route(app, context, postMemberFeed, makeMemberFeed);
  route(app, context, deleteMemberFeed, endMemberFeed);
  app.get("/calendar/:file{[A-Za-z0-9_-]+\\.ics}", (http) => sendFeed(context, http));
  app.get("/date/:token/files/:file", (http) => sendGuestFile(context, http));
  app.get("/date/:token", (http) => showAnswerPage(context, http));
  app.post("/date/:token", (http) => takeAnswerOfPage(context, http));
}
