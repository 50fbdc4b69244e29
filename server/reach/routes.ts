import type { Hono } from "hono";
import {
  deleteMailKey,
  getMailHouse,
  getMailReports,
  getReach,
  postBrake,
  postHeal,
  postMailKey,
  postQueue,
  putMailKey,
  putMailSettings,
} from "@amigo/contract/mail";
import type { Context } from "../context";
import { route } from "../http/route";
import { showReach } from "./showReach";
import { healAddress } from "./healAddress";
import { showMailReports } from "./showMailReports";
import { showMailSettings, changeMailSettings } from "./mailSettings";
import { decideOnBrake } from "./decideOnBrake";
import { changeMailKey, dropMailKey, makeMailKey } from "./changeMailKeys";
import { changeQueue } from "./changeQueue";

/** How mail fares in the house: the queue and its settings, the DNS, and who is reached. */
export function reachRoutes(app: Hono, context: Context): void {
  route(app, context, getReach, showReach);
  route(app, context, postHeal, healAddress);
  route(app, context, postBrake, decideOnBrake);
  route(app, context, getMailHouse, showMailSettings);
  route(app, context, getMailReports, showMailReports);
  route(app, context, putMailSettings, changeMailSettings);
  route(app, context, postQueue, changeQueue);
  route(app, context, postMailKey, makeMailKey);
  route(app, context, putMailKey, changeMailKey);
  route(app, context, deleteMailKey, dropMailKey);
}
