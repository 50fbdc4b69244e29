import type { Hono } from "hono";
import { deletePicture, postPicture } from "@amigo/contract/house";
import type { Context } from "../context";
import { route } from "../http/route";
import { changePicture, removePicture, sendPicture } from "./changePicture";

/** Setting, removing and showing the picture of the house. Anybody can see it: it stands on the sign-in page. */
export function pictureRoutes(app: Hono, context: Context): void {
  route(app, context, postPicture, changePicture);
  route(app, context, deletePicture, removePicture);
  app.get("/api/house/picture", (http) => sendPicture(context, http));
}
