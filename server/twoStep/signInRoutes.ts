import type { Hono } from "hono";
import {
  postSignInCancel,
  postSignInCode,
  postSignInPasskey,
  postSignInPasskeyOptions,
} from "@amigo/contract/twoStep";
import type { Context } from "../context";
import { route } from "../http/route";
import { signInByCode } from "./signInByCode";
import { offerSignInPasskey, signInByPasskey } from "./signInByPasskey";
import { cancelSignIn } from "./cancelSignIn";

/** How a sign-in that has passed its first step is finished, and how a passkey signs in alone. */
export function signInStepRoutes(app: Hono, context: Context): void {
  route(app, context, postSignInCode, signInByCode);
  route(app, context, postSignInPasskeyOptions, offerSignInPasskey);
  route(app, context, postSignInPasskey, signInByPasskey);
  route(app, context, postSignInCancel, cancelSignIn);
}
