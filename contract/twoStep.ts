import * as z from "zod";
import { TWO_STEP_FOR } from "@amigo/core/access/twoStep";
import { PROGRAM_USES } from "@amigo/core/access/programUses";
import { endpoint } from "./endpoint";
import { wrong } from "./wrong";

const Done = z.object({ done: z.literal(true) });
const Id = z.object({ id: z.uuid() });
/** Whoever changes how an account signs in gives its password once more. */
const Password = z.object({ password: z.string().max(200) });
const RecoveryCodes = z.object({
  /** Shown this once; empty where the account has codes already. */
  recoveryCodes: z.array(z.string()),
});
/** Options and answers of WebAuthn, as its JSON has them (Web Authentication Level 3, sections 5.1.8 to 5.1.10). */
const WebAuthnJson = z.record(z.string().max(100), z.json());
const Name = z
  .string()
  .trim()
  .min(1, wrong("input.giveItAName"))
  .max(80)
  .regex(/^\P{Cc}*$/u, wrong("input.aNameIsASingleLine"));

export const TwoStep = z
  .object({
    /** Since when codes of an authenticator app are asked for; null where none is set up. */
    authenticator: z.string().nullable(),
    passkeys: z.array(
      z.object({
        id: z.string(),
        name: z.string(),
        since: z.string(),
        lastUsed: z.string().nullable(),
      }),
    ),
    /** How many recovery codes are left. */
    recoveryCodes: z.number().int(),
    /** Whether the school's settings ask this account for a second step. */
    isRequired: z.boolean(),
    /** Whether passkeys work at the address of this Amigo: they need a name and https. */
    passkeysWork: z.boolean(),
    /** Passwords of programs that send mail, or show calendars and address books. */
    mailPrograms: z.array(
      z.object({
        id: z.string(),
        name: z.string(),
        uses: z.array(z.enum(PROGRAM_USES)),
        since: z.string(),
        lastUsed: z.string().nullable(),
        lastDay: z.string(),
      }),
    ),
  })
  .meta({ id: "TwoStep" });
export type TwoStep = z.output<typeof TwoStep>;

/** By what the second step of a sign-in can be done. */
export const SECOND_STEPS = ["code", "passkey", "recovery code"] as const;

export const getTwoStep = endpoint({
  method: "get",
  path: "/api/account/two-step",
  summary: "How the asker's sign-in is protected",
  who: "manage own account",
  answer: TwoStep,
});
export const postAuthenticator = endpoint({
  method: "post",
  path: "/api/account/two-step/authenticator",
  summary:
    "Begin to set up an authenticator app: its secret, which counts once a code of it is given",
  who: "manage own account",
  body: Password,
  answer: z.object({
    secret: z.string(),
    /** The secret as an `otpauth:` address, and that as a QR code in SVG. */
    uri: z.string(),
    picture: z.string(),
  }),
});
export const postConfirmAuthenticator = endpoint({
  method: "post",
  path: "/api/account/two-step/authenticator/confirm",
  summary:
    "Give a first code of the authenticator app; from then on codes are asked for at sign-in",
  who: "manage own account",
  body: z.object({ code: z.string().max(40) }),
  answer: RecoveryCodes,
});
export const postRemoveAuthenticator = endpoint({
  method: "post",
  path: "/api/account/two-step/authenticator/remove",
  summary: "Ask for no codes of the authenticator app any more",
  who: "manage own account",
  body: Password,
  answer: Done,
});
export const postRecoveryCodes = endpoint({
  method: "post",
  path: "/api/account/two-step/recovery-codes",
  summary: "Make new recovery codes; the old ones stop working",
  who: "manage own account",
  body: Password,
  answer: RecoveryCodes,
});
export const postPasskeyOptions = endpoint({
  method: "post",
  path: "/api/account/two-step/passkeys/options",
  summary: "Begin to add a passkey: what the browser is to be asked for",
  who: "manage own account",
  body: Password,
  answer: z.object({ options: WebAuthnJson }),
});
export const postPasskey = endpoint({
  method: "post",
  path: "/api/account/two-step/passkeys",
  summary: "Add a passkey by the browser's answer",
  who: "manage own account",
  body: z.object({ name: Name, answer: WebAuthnJson }),
  answer: RecoveryCodes,
});
export const postRemovePasskey = endpoint({
  method: "post",
  path: "/api/account/two-step/passkeys/{id}/remove",
  summary: "Remove a passkey",
  who: "manage own account",
  params: Id,
  body: Password,
  answer: Done,
});
export const postMailProgram = endpoint({
  method: "post",
  path: "/api/account/mail-programs",
  summary:
    "Make a password for one program, for mail or for calendars and address books; it is shown this once",
  who: "manage own account",
  body: Password.extend({
    name: Name,
    uses: z.array(z.enum(PROGRAM_USES)).min(1).max(PROGRAM_USES.length).default(["mail"]),
  }),
  answer: z.object({ password: z.string() }),
});
export const deleteMailProgram = endpoint({
  method: "delete",
  path: "/api/account/mail-programs/{id}",
  summary: "End the password of a program",
  who: "manage own account",
  params: Id,
  answer: Done,
});

export const postSignInCode = endpoint({
  method: "post",
  path: "/api/sign-in/code",
  summary: "Finish a sign-in by a code of the authenticator app, or a recovery code",
  who: "anybody",
  body: z.object({ code: z.string().max(40) }),
  answer: Done,
});
export const postSignInPasskeyOptions = endpoint({
  method: "post",
  path: "/api/sign-in/passkey/options",
  summary: "Begin to sign in by a passkey, or to finish a sign-in by one",
  who: "anybody",
  answer: z.object({ options: WebAuthnJson }),
});
export const postSignInPasskey = endpoint({
  method: "post",
  path: "/api/sign-in/passkey",
  summary: "Sign in by a passkey, or finish a sign-in by one",
  who: "anybody",
  body: z.object({ answer: WebAuthnJson }),
  answer: Done,
});
export const postSignInCancel = endpoint({
  method: "post",
  path: "/api/sign-in/cancel",
  summary: "Give up a sign-in that waits for its second step",
  who: "anybody",
  answer: Done,
});

export const postResetTwoStep = endpoint({
  method: "post",
  path: "/api/accounts/{id}/two-step/reset",
  summary: "Remove somebody's authenticator app, passkeys and recovery codes, after they lost them",
  who: "manage accounts",
  params: Id,
  answer: Done,
});
export const putTwoStepFor = endpoint({
  method: "put",
  path: "/api/house/two-step",
  summary: "Change whose sign-in needs a second step",
  who: "change the house",
  body: z.object({ twoStep: z.enum(TWO_STEP_FOR) }),
  answer: Done,
});
