import type { Hono } from "hono";
import {
  getRequestEffect,
  getRequests,
  postDecideRequest,
  postRequest,
  postWithdrawRequest,
} from "@amigo/contract/requests";
import type { Context } from "../context";
import { route } from "../http/route";
import { listRequests } from "./listRequests";
import { previewRequest } from "./previewRequest";
import { makeRequest } from "./makeRequest";
import { decideOnRequest, withdrawRequest } from "./endRequest";

export function requestRoutes(app: Hono, context: Context): void {
  route(app, context, getRequests, listRequests);
  route(app, context, postRequest, makeRequest);
  route(app, context, getRequestEffect, previewRequest);
  route(app, context, postDecideRequest, decideOnRequest);
  route(app, context, postWithdrawRequest, withdrawRequest);
}
