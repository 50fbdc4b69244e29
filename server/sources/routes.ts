import type { Hono } from "hono";
import {
  getHelped,
  postRows,
  getReading,
  getReadingRows,
  getSamples,
  getKnownWords,
  postMatch,
  postMeanings,
  postReading,
  postSource,
} from "@amigo/contract/readings";
import { deleteCorrection, getCorrections, postCorrection } from "@amigo/contract/corrections";
import {
  getSource,
  getSources,
  getWatched,
  postLook,
  postPosted,
  postPostedAddress,
  postReadNow,
  putSource,
} from "@amigo/contract/sources";
import type { Context } from "../context";
import { route } from "../http/route";
import { showReading, showReadingRows } from "./showReading";
import { importNewSource, importAgain } from "./importSheets";
import { showSources, showSource, showHelped, listSamples } from "./showSources";
import { showKnownWords, matchSheet } from "./matchSheet";
import { changeColumns } from "./changeColumns";
import { addRowsByHand } from "./addRowsByHand";
import { changeSource } from "./changeSource";
import { listWatchedFiles, lookAtPlace, readNow } from "./lookAtPlace";
import { makePostedSource, renewPostedAddress } from "./postedSources";
import { exportAnswered } from "./exportAnswered";
import { listCorrections, correctCell, endOneCorrection } from "./corrections";

export function sourceRoutes(app: Hono, context: Context): void {
  route(app, context, getSources, showSources);
  route(app, context, getSource, showSource);
  route(app, context, postSource, importNewSource);
  route(app, context, postReading, importAgain);
  route(app, context, getKnownWords, showKnownWords);
  route(app, context, postMatch, matchSheet);
  route(app, context, postMeanings, changeColumns);
  route(app, context, getHelped, showHelped);
  route(app, context, postRows, addRowsByHand);
  route(app, context, putSource, changeSource);
  route(app, context, getWatched, listWatchedFiles);
  route(app, context, postLook, lookAtPlace);
  route(app, context, postPosted, makePostedSource);
  route(app, context, postPostedAddress, renewPostedAddress);
  app.get("/api/sources/:id/answered/:format", (http) => exportAnswered(context, http));
  route(app, context, postReadNow, readNow);
  route(app, context, getReading, showReading);
  route(app, context, getReadingRows, showReadingRows);
  route(app, context, getCorrections, listCorrections);
  route(app, context, postCorrection, correctCell);
  route(app, context, deleteCorrection, endOneCorrection);
  route(app, context, getSamples, listSamples);
}
