import * as z from "zod";
import { HOUSE_ROLES } from "@amigo/core/access/may";
import { LONGEST } from "@amigo/core/access/passwordLength";
import { SignedIn } from "./accounts";
import { endpoint } from "./endpoint";
import { wrong } from "./wrong";

const Done = z.object({ done: z.literal(true) });
const Id = z.object({ id: z.uuid() });
const Day = z.union([z.iso.date(wrong("input.writeTheDay")), z.literal("")]);
const Token = z.string().min(20).max(100);
const Password = z.string().max(LONGEST);

/** What an account is given: its role, the site or sources that go with it, and its last day. */
const Role = z.object({
  role: z.enum(HOUSE_ROLES),
  site: z.string().max(200).default(""),
  sources: z.array(z.uuid()).max(100).default([]),
  lastDay: Day.default(""),
});

export const AccountLine = z
  .object({
    id: z.string(),
    name: z.string(),
    email: z.string(),
    role: z.enum(HOUSE_ROLES),
    site: z.string(),
    sources: z.array(z.object({ id: z.string(), name: z.string() })),
    leads: z.number().int(),
    lastDay: z.string(),
    /** Whether they have chosen a password, or only been invited; whether the account has ended. */
    state: z.enum(["in use", "invited", "ended"]),
    /** Whether they sign in with two steps. */
    twoStep: z.boolean(),
    mine: z.boolean(),
    mayChange: z.boolean(),
  })
  .meta({ id: "AccountLine" });
export type AccountLine = z.output<typeof AccountLine>;

export const SessionLine = z
  .object({
    id: z.string(),
    browser: z.string(),
    since: z.string(),
    lastSeen: z.string(),
    mine: z.boolean(),
  })
  .meta({ id: "SessionLine" });
export type SessionLine = z.output<typeof SessionLine>;

export const getAccounts = endpoint({
  method: "get",
  path: "/api/accounts",
  summary: "Accounts of the house, or of the asker's site",
  who: "see accounts",
  answer: z.object({
    accounts: z.array(AccountLine),
    sites: z.array(z.string()),
    sources: z.array(z.object({ id: z.string(), name: z.string() })),
    roles: z.array(z.enum(HOUSE_ROLES)),
  }),
});
export const postAccount = endpoint({
  method: "post",
  path: "/api/accounts",
  summary: "Invite somebody by mail",
  who: "manage accounts",
  body: Role.extend({
    name: z.string().trim().min(1, wrong("input.giveTheirName")).max(120),
    email: z.email(wrong("input.thisIsntAnEmailAddress")).trim().toLowerCase().max(254),
  }),
  answer: z.object({ id: z.string() }),
});
export const putAccount = endpoint({
  method: "put",
  path: "/api/accounts/{id}",
  summary: "Change what an account may do and until when",
  who: "manage accounts",
  params: Id,
  body: Role,
  answer: Done,
});
export const postEndAccount = endpoint({
  method: "post",
  path: "/api/accounts/{id}/end",
  summary: "End an account at once, or restore it",
  who: "manage accounts",
  params: Id,
  body: z.object({ ended: z.boolean() }),
  answer: Done,
});
export const postInviteAgain = endpoint({
  method: "post",
  path: "/api/accounts/{id}/invite",
  summary: "Mail the invitation once more; the older link stops working",
  who: "manage accounts",
  params: Id,
  answer: Done,
});

export const getOwnSessions = endpoint({
  method: "get",
  path: "/api/account/sessions",
  summary: "Where the asker is signed in",
  who: "manage own account",
  answer: z.array(SessionLine),
});
export const deleteSession = endpoint({
  method: "delete",
  path: "/api/account/sessions/{id}",
  summary: "End one of the asker's sessions",
  who: "manage own account",
  params: Id,
  answer: Done,
});
export const postEndOthers = endpoint({
  method: "post",
  path: "/api/account/sessions/end-others",
  summary: "End all of the asker's sessions but this one",
  who: "manage own account",
  answer: z.object({ ended: z.number().int() }),
});
export const postPassword = endpoint({
  method: "post",
  path: "/api/account/password",
  summary: "Change the asker's password; their other sessions end",
  who: "manage own account",
  body: z.object({ current: Password, password: Password }),
  answer: Done,
});

export const postOwnMemberPage = endpoint({
  method: "post",
  path: "/api/account/member-page",
  summary: "Open the page of the lists that the asker's own address is on, in this browser",
  who: "manage own account",
  answer: Done,
});

export const postMailLink = endpoint({
  method: "post",
  path: "/api/sign-in/link",
  summary:
    "Mail a link by which an account signs in, or chooses a new password; answered alike whether there is one",
  who: "anybody",
  body: z.object({
    email: z.string().trim().toLowerCase().min(3, wrong("input.typeYourAddress")).max(254),
    what: z.enum(["sign-in", "new password"]),
  }),
  answer: Done,
});
export const postSignInByLink = endpoint({
  method: "post",
  path: "/api/sign-in/by-link",
  summary: "Sign in by a mailed link, once",
  who: "anybody",
  body: z.object({ token: Token }),
  answer: SignedIn,
});
export const postLookAtLink = endpoint({
  method: "post",
  path: "/api/sign-in/look",
  summary: "Whose invitation or new password a link is for, without using it up",
  who: "anybody",
  body: z.object({ token: Token }),
  answer: z.object({
    name: z.string(),
    email: z.string(),
    house: z.string(),
    what: z.enum(["invitation", "new password"]),
  }),
});
export const postChoosePassword = endpoint({
  method: "post",
  path: "/api/sign-in/password",
  summary: "Choose a password by a mailed link, once, and sign in; other sessions end",
  who: "anybody",
  body: z.object({ token: Token, password: Password }),
  answer: SignedIn,
});
