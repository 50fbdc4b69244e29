import type { Hono } from "hono";
import {
  deleteShelfThing,
  getMemberShelf,
  getShelf,
  getShelfThing,
  postShelfFile,
  postShelfLink,
  postShelfNotice,
  postShelfRestore,
  postShelfVersion,
  putShelfThing,
} from "@amigo/contract/shelf";
import type { Context } from "../context";
import { route } from "../http/route";
import { changeThing, putVersion, restoreVersion, takeOff } from "./changeThing";
import { showMemberShelf } from "./memberShelf";
import { putFile, putLink } from "./putThings";
import { openForMember, sendVersion } from "./sendFile";
import { showShelf, showThing } from "./showShelf";
import { tellMembers } from "./tellMembers";

/** What lists share with their members, for as long as they are on them. */
export function shelfRoutes(app: Hono, context: Context): void {
  route(app, context, getShelf, showShelf);
  route(app, context, postShelfFile, putFile);
  route(app, context, postShelfLink, putLink);
  route(app, context, postShelfNotice, tellMembers);
  route(app, context, getShelfThing, showThing);
  route(app, context, putShelfThing, changeThing);
  route(app, context, postShelfVersion, putVersion);
  route(app, context, postShelfRestore, restoreVersion);
  route(app, context, deleteShelfThing, takeOff);
  app.get("/api/shelf/:id/files/:version", (http) => sendVersion(context, http));
  route(app, context, getMemberShelf, showMemberShelf);
  app.get("/api/member/shelf/:id/files/open", (http) => openForMember(context, http));
}
