import type { Hono } from "hono";
import {
  getHeld,
  getPost,
  getPosts,
  postCancel,
  postHeld,
  postPause,
  postPost,
  postReckon,
  postRetry,
  postTakeBack,
  postTakeOut,
} from "@amigo/contract/posts";
import type { Context } from "../context";
import { route } from "../http/route";
import { listPosts } from "./listPosts";
import { showPost } from "./showPost";
import { sendAttachment } from "./sendAttachment";
import { listHeld, decideHeldMail } from "./heldMail";
import { reckonPost } from "./reckonPost";
import { sendPost } from "./sendPost";
import { stopPost, pausePost, cancelRest, retryCopies } from "./changeSending";
import { removeFromArchive } from "./removeFromArchive";
import { exportArchive } from "./exportArchive";

export function postRoutes(app: Hono, context: Context): void {
  route(app, context, getPosts, listPosts);
  route(app, context, getPost, showPost);
  app.get("/api/posts/:id/attachments/:index", (http) => sendAttachment(context, http));
  route(app, context, getHeld, listHeld);
  route(app, context, postHeld, decideHeldMail);
  route(app, context, postReckon, reckonPost);
  route(app, context, postPost, sendPost);
  route(app, context, postTakeBack, stopPost);
  route(app, context, postPause, pausePost);
  route(app, context, postCancel, cancelRest);
  route(app, context, postRetry, retryCopies);
  route(app, context, postTakeOut, removeFromArchive);
  app.get("/api/lists/:id/archive.mbox", (http) => exportArchive(context, http));
}
