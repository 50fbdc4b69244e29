import type { Hono } from "hono";
import {
  deleteMemberComment,
  deleteMemberThing,
  getMemberShelf,
  getMemberThing,
  postMemberComment,
  postMemberFile,
  postMemberShelfLink,
  postMemberVersion,
  putMemberFollow,
} from "@amigo/contract/memberShelf";
import {
  deleteShelfComment,
  deleteShelfThing,
  getShelf,
  getShelfThing,
  postShelfComment,
  postShelfFile,
  postShelfLink,
  postShelfNotice,
  postShelfReminder,
  postShelfRestore,
  postShelfVersion,
  putShelfFollow,
  putShelfOpenToMembers,
  putShelfThing,
} from "@amigo/contract/shelf";
import {
  getMemberUpload,
  getUpload,
  postMemberUpload,
  postUpload,
  putMemberPiece,
  putPiece,
} from "@amigo/contract/uploads";
import { postDraftShelve } from "@amigo/contract/drafts";
import type { Context } from "../context";
import { route } from "../http/route";
import { changeThing, putVersion, restoreVersion, takeOff } from "./changeThing";
import { commentOnThing, followThing, takeCommentOut } from "./comments";
import { showMemberShelf } from "./memberShelf";
import {
  commentAsMember,
  followAsMember,
  putMemberFile,
  putMemberLink,
  putMemberVersion,
  showMemberThing,
  takeMemberThingOff,
  takeOwnCommentOut,
} from "./memberThings";
import { putFile, putLink } from "./putThings";
import { openForMember, sendVersion } from "./sendFile";
import { remindMembers } from "./remindMembers";
import { sendMemberZip, sendShelfZip } from "./sendZip";
import { shelveDraft } from "./shelveDraft";
import { openToMembers, showShelf, showThing } from "./showShelf";
import { tellMembers } from "./tellMembers";
import { addPiece, beginUpload, showUpload } from "./uploads";

/** What lists share with their members, for as long as they are on them. */
export function shelfRoutes(app: Hono, context: Context): void {
  route(app, context, getShelf, showShelf);
  route(app, context, putShelfOpenToMembers, openToMembers);
  route(app, context, postShelfFile, putFile);
  route(app, context, postShelfLink, putLink);
  route(app, context, postShelfNotice, tellMembers);
  route(app, context, getShelfThing, showThing);
  route(app, context, putShelfThing, changeThing);
  route(app, context, postShelfVersion, putVersion);
  route(app, context, postShelfRestore, restoreVersion);
  route(app, context, deleteShelfThing, takeOff);
  route(app, context, postShelfReminder, remindMembers);
  route(app, context, postShelfComment, commentOnThing);
  route(app, context, deleteShelfComment, takeCommentOut);
  route(app, context, putShelfFollow, followThing);
  app.get("/api/shelf/:id/files/:version", (http) => sendVersion(context, http));
  app.get("/api/lists/:id/shelf/files/zip", (http) => sendShelfZip(context, http));
  route(app, context, postDraftShelve, shelveDraft);
  route(app, context, postUpload, beginUpload);
  route(app, context, getUpload, showUpload);
  route(app, context, putPiece, addPiece);
}

/** What members do with the shelves of their lists, on their own page. */
export function memberShelfRoutes(app: Hono, context: Context): void {
  route(app, context, getMemberShelf, showMemberShelf);
  route(app, context, postMemberFile, putMemberFile);
  route(app, context, postMemberShelfLink, putMemberLink);
  route(app, context, getMemberThing, showMemberThing);
  route(app, context, deleteMemberThing, takeMemberThingOff);
  route(app, context, postMemberVersion, putMemberVersion);
  route(app, context, postMemberComment, commentAsMember);
  route(app, context, deleteMemberComment, takeOwnCommentOut);
  route(app, context, putMemberFollow, followAsMember);
  app.get("/api/member/shelf/:id/files/open", (http) => openForMember(context, http));
  app.get("/api/member/lists/:id/shelf/files/zip", (http) => sendMemberZip(context, http));
  route(app, context, postMemberUpload, beginUpload);
  route(app, context, getMemberUpload, showUpload);
  route(app, context, putMemberPiece, addPiece);
}
