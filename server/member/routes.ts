import type { Hono } from "hono";
import {
  getMember,
  getMemberArchive,
  getMemberOthers,
  getMemberPost,
  postConfirmAddress,
  postMemberEnter,
  postMemberGo,
  postMemberJoin,
  postMemberLeave,
  postMemberLink,
  postNewAddress,
  postWrong,
  putHowOften,
  putLanguage,
  putPause,
} from "@amigo/contract/member";
import { postOwnMemberPage } from "@amigo/contract/staff";
import type { Context } from "../context";
import { route } from "../http/route";
import {
  sendMemberLink,
  enterMemberPage,
  enterOwnMemberPage,
  leaveMemberPage,
} from "./openMemberPage";
import { askForNewAddress, confirmNewAddress } from "./replaceAddress";
import { reportWrong } from "./reportWrong";
import { listMemberPosts, showMemberPost, sendMemberAttachment } from "./memberArchive";
import { showMember } from "./showMember";
import { chooseHowOften, pauseMail } from "./memberDelivery";
import { leaveList } from "./memberLeaves";
import { joinList } from "./memberJoins";
import { listOtherMembers } from "./listOtherMembers";
import { chooseLanguage } from "./chooseLanguage";

/** The member page: everything that somebody on a list may do without an account. */
export function memberRoutes(app: Hono, context: Context): void {
  route(app, context, postMemberLink, sendMemberLink);
  route(app, context, postMemberEnter, enterMemberPage);
  route(app, context, postOwnMemberPage, enterOwnMemberPage);
  route(app, context, postMemberGo, leaveMemberPage);
  route(app, context, getMember, showMember);
  route(app, context, putHowOften, chooseHowOften);
  route(app, context, putPause, pauseMail);
  route(app, context, putLanguage, chooseLanguage);
  route(app, context, postMemberLeave, leaveList);
  route(app, context, postMemberJoin, joinList);
  route(app, context, postNewAddress, askForNewAddress);
  route(app, context, postConfirmAddress, confirmNewAddress);
  route(app, context, postWrong, reportWrong);
  route(app, context, getMemberArchive, listMemberPosts);
  route(app, context, getMemberPost, showMemberPost);
  app.get("/api/member/posts/:id/attachments/:index", (http) =>
    sendMemberAttachment(context, http),
  );
  route(app, context, getMemberOthers, listOtherMembers);
}
