import type { Hono } from "hono";
import type { Context } from "../context";
import { showLeavePage, leaveByCopy } from "./leaveCopy";
import { showInvitation, acceptInvitation } from "./acceptInvitation";
import { showOwnMail, confirmOwnMail } from "./confirmOwnMail";
import { showLeaveRequest, confirmLeaving } from "./confirmLeaving";
import { showHeldMail, decideByLink } from "./decideByLink";

/**
 * The page behind a copy's leave link, and the one-click request of RFC 8058. Looking at the page
 * changes nothing; only the button, or the mail program's own, does.
 */
export function leaveRoutes(app: Hono, context: Context): void {
  app.get("/leave/:token", (http) => showLeavePage(context, http));
  app.get("/yes/:token", (http) => showInvitation(context, http));
  app.post("/yes/:token", (http) => acceptInvitation(context, http));
  app.get("/mine/:token", (http) => showOwnMail(context, http));
  app.post("/mine/:token", (http) => confirmOwnMail(context, http));
  app.get("/leave/yes/:token", (http) => showLeaveRequest(context, http));
  app.post("/leave/yes/:token", (http) => confirmLeaving(context, http));
  app.get("/held/:token", (http) => showHeldMail(context, http));
  app.post("/held/:token", (http) => decideByLink(context, http));
  app.post("/leave/:token", (http) => leaveByCopy(context, http));
}
