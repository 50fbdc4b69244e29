import type { Hono } from "hono";
import {
  deletePushDevice,
  getPush,
  postPushDevice,
  postPushTest,
  putPushTopics,
} from "@amigo/contract/push";
import type { Context } from "../context";
import { route } from "../http/route";
import { addDevice, chooseTopics, dropDevice, showPush, tryDevice } from "./devices";

/** Notices on one's own devices: which devices, of what, and a test. */
export function pushRoutes(app: Hono, context: Context): void {
  route(app, context, getPush, showPush);
  route(app, context, putPushTopics, chooseTopics);
  route(app, context, postPushDevice, addDevice);
  route(app, context, deletePushDevice, dropDevice);
  route(app, context, postPushTest, tryDevice);
}
