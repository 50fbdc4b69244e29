import type { Hono } from "hono";
import type { Context } from "../context";
import { takePublicAnswer } from "./takePublicAnswer";
import { showSecondGuardian, confirmSecondGuardian } from "./confirmSecondGuardian";
import { showOwnAnswers, confirmOwnAnswers } from "./ownAnswers";
import { showPublicForm } from "./showPublicForm";
import { checkAddress } from "./checkAddress";

/** The pages for families: the form behind its short address, their own answers behind their own link. */
export function formPublicRoutes(app: Hono, context: Context): void {
  app.get("/f/mine/:token", (http) => showOwnAnswers(context, http));
  app.post("/f/mine/:token", (http) => confirmOwnAnswers(context, http));
  app.get("/f/second/:token", (http) => showSecondGuardian(context, http));
  app.post("/f/second/:token", (http) => confirmSecondGuardian(context, http));
  app.get("/f/:slug", (http) => showPublicForm(context, http));
  app.post("/f/:slug/check", (http) => checkAddress(context, http));
  app.post("/f/:slug", (http) => takePublicAnswer(context, http));
}
