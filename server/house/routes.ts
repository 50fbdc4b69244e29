import { postDemoEmpty } from "@amigo/contract/accounts";
import type { Hono } from "hono";
import {
  deleteToken,
  getFind,
  getHouse,
  getTokens,
  postToken,
  putBasics,
  putLimits,
} from "@amigo/contract/house";
import type { Context } from "../context";
import { pictureRoutes } from "./picture";
import { route } from "../http/route";
import { listTokens, makeApiToken, revokeToken } from "./apiTokens";
import { resetDemo } from "./resetDemo";
import { showHouse } from "./showHouse";
import { saveBasics, changeLimits } from "./changeSettings";
import { findAnything } from "./findAnything";

export function houseRoutes(app: Hono, context: Context): void {
  route(app, context, postDemoEmpty, resetDemo);
  route(app, context, getHouse, showHouse);

  pictureRoutes(app, context);
  route(app, context, putBasics, saveBasics);
  route(app, context, putLimits, changeLimits);
  route(app, context, getTokens, listTokens);
  route(app, context, postToken, makeApiToken);
  route(app, context, deleteToken, revokeToken);
  route(app, context, getFind, findAnything);
}
