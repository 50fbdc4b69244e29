import type { Hono } from "hono";
import {
  deleteMailProgram,
  getTwoStep,
  postAuthenticator,
  postConfirmAuthenticator,
  postMailProgram,
  postPasskey,
  postPasskeyOptions,
  postRecoveryCodes,
  postRemoveAuthenticator,
  postRemovePasskey,
  putTwoStepFor,
} from "@amigo/contract/twoStep";
import type { Context } from "../context";
import { route } from "../http/route";
import { offerPasskey, addPasskey, removePasskey } from "./ownPasskeys";
import { addMailProgram, removeMailProgram } from "./mailPrograms";
import { beginAuthenticator, confirmAuthenticator, removeAuthenticator } from "./authenticators";
import { showTwoStep } from "./showTwoStep";
import { makeNewRecoveryCodes } from "./recoveryCodes";
import { requireTwoStep } from "./requireTwoStep";

/** How an account protects its own sign-in, and whose sign-in the school's settings protect. */
export function twoStepRoutes(app: Hono, context: Context): void {
  route(app, context, getTwoStep, showTwoStep);
  route(app, context, postAuthenticator, beginAuthenticator);
  route(app, context, postConfirmAuthenticator, confirmAuthenticator);
  route(app, context, postRemoveAuthenticator, removeAuthenticator);
  route(app, context, postRecoveryCodes, makeNewRecoveryCodes);
  route(app, context, postPasskeyOptions, offerPasskey);
  route(app, context, postPasskey, addPasskey);
  route(app, context, postRemovePasskey, removePasskey);
  route(app, context, postMailProgram, addMailProgram);
  route(app, context, deleteMailProgram, removeMailProgram);
  route(app, context, putTwoStepFor, requireTwoStep);
}
