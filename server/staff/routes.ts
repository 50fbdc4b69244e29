import type { Hono } from "hono";
import {
  deleteSession,
  getAccounts,
  getOwnSessions,
  postAccount,
  postChoosePassword,
  postEndAccount,
  postEndOthers,
  postInviteAgain,
  postLookAtLink,
  postMailLink,
  postPassword,
  postSignInByLink,
  putAccount,
} from "@amigo/contract/staff";
import { postResetTwoStep } from "@amigo/contract/twoStep";
import type { Context } from "../context";
import { route } from "../http/route";
import { inviteAgain } from "./invite";
import { sendSignInLink, signInByLink, lookAtLink } from "./signInLinks";
import { listAccounts } from "./listAccounts";
import { addAccount, saveAccount, endAccount } from "./changeAccounts";
import { resetTwoStep } from "./resetTwoStep";
import { listOwnSessions, endSession, signOutElsewhere } from "./ownSessions";
import { changePassword, choosePassword } from "./choosePassword";

export function staffRoutes(app: Hono, context: Context): void {
  route(app, context, getAccounts, listAccounts);
  route(app, context, postAccount, addAccount);
  route(app, context, putAccount, saveAccount);
  route(app, context, postEndAccount, endAccount);
  route(app, context, postInviteAgain, inviteAgain);
  route(app, context, postResetTwoStep, resetTwoStep);
  route(app, context, getOwnSessions, listOwnSessions);
  route(app, context, deleteSession, endSession);
  route(app, context, postEndOthers, signOutElsewhere);
  route(app, context, postPassword, changePassword);
  route(app, context, postMailLink, sendSignInLink);
  route(app, context, postSignInByLink, signInByLink);
  route(app, context, postLookAtLink, lookAtLink);
  route(app, context, postChoosePassword, choosePassword);
}
