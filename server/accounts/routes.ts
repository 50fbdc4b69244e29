import { chooseLanguage } from "./chooseLanguage";
import type { Hono } from "hono";
import {
  getMe,
  getStartPage,
  postDemoSignIn,
  postSetUp,
  postSignIn,
  postSignOut,
  putOwnLanguage,
} from "@amigo/contract/accounts";
import type { Context } from "../context";
import { route } from "../http/route";
import { showStartPage } from "./startPage";
import { setUp } from "./setUp";
import { signInByPassword, signInToDemo, signOut } from "./startSession";
import { showMe } from "./showMe";

export function accountRoutes(app: Hono, context: Context): void {
  route(app, context, getStartPage, showStartPage);
  route(app, context, postSetUp, setUp);
  route(app, context, postSignIn, signInByPassword);
  route(app, context, postDemoSignIn, signInToDemo);
  route(app, context, postSignOut, signOut);
  route(app, context, getMe, showMe);
  route(app, context, putOwnLanguage, chooseLanguage);
}
