import { STAFF_LANGUAGES } from "@amigo/language/staff";
import * as z from "zod";
import { HOUSE_ROLES } from "@amigo/core/access/may";
import { isTimeZone, LANGUAGES } from "@amigo/core/text/place";
import { endpoint } from "./endpoint";
import { SECOND_STEPS } from "./twoStep";
import { wrong } from "./wrong";

export const Me = z
  .object({
    id: z.string(),
    name: z.string(),
    email: z.string(),
    role: z.enum(HOUSE_ROLES),
    site: z.string().nullable(),
    house: z.string(),
    insideDomain: z.string(),
    listDomain: z.string(),
    season: z.string(),
    timeZone: z.string(),
    /** What people call it. */
    kind: z.enum(["school", "club"]),
    country: z.string(),
    language: z.string(),
    /** The language of the interface: chosen for the account, else the house's where it is one, else English. */
    speaks: z.enum(STAFF_LANGUAGES),
    demo: z.boolean(),
    /** Whether the account must set up two-step sign-in before it may do anything else. */
    mustSetUpTwoStep: z.boolean(),
    mailtown: z.string().nullable(),
  })
  .meta({ id: "Me" });
export type Me = z.output<typeof Me>;

export const StartPage = z
  .object({
    /** Whether setting it up from here needs the code that was printed at its start. */
    needsCode: z.boolean(),
    setUp: z.boolean(),
    house: z.string(),
    /** Where the picture of the school or club is; empty where it has none. */
    picture: z.string(),
    /** By what this browser's sign-in can be finished, where its first step is done; null where none is under way. */
    secondStep: z.array(z.enum(SECOND_STEPS)).nullable(),
    /** Whether somebody could sign in by a passkey alone. */
    passkeys: z.boolean(),
    demoAccounts: z.array(z.object({ name: z.string(), email: z.string(), what: z.string() })),
  })
  .meta({ id: "StartPage" });

/** Whether a first step signs somebody in; false where the account's second step is waited for. */
export const SignedIn = z.object({ done: z.boolean() });
const Done = z.object({ done: z.literal(true) });
const Email = z.string().trim().toLowerCase().max(254);
const NewPassword = z.string().max(200);

const Domain = (like: string) =>
  z
    .string()
    .trim()
    .toLowerCase()
    .max(253)
    .regex(/^[a-z0-9-]+(\.[a-z0-9-]+)+$/, `A domain looks like ${like}.`);

/** What a house is called, where it is and at which domains, as the set-up asks and Settings changes it. */
export const HouseBasics = z
  .object({
    house: z.string().trim().min(1, wrong("input.giveYourSchoolOrClubA")).max(120),
    kind: z.enum(["school", "club"]).default("school"),
    insideDomain: Domain("school.example"),
    listDomain: Domain("lists.school.example"),
    timeZone: z
      .string()
      .trim()
      .max(60)
      .refine(isTimeZone, wrong("input.chooseATimeZoneFromThe"))
      .default("UTC"),
    country: z
      .union([
        z.string().regex(/^[A-Z]{2}$/, wrong("input.chooseACountryFromTheList")),
        z.literal(""),
      ])
      .default(""),
    language: z.enum(LANGUAGES as [string, ...string[]]).default("en"),
  })
  .meta({ id: "HouseBasics" });
export type HouseBasics = z.output<typeof HouseBasics>;

export const SetUp = HouseBasics.extend({
  season: z
    .string()
    .trim()
    .regex(/^\d{4}-\d{2}$/, wrong("input.writeTheSeasonLike202627")),
  name: z.string().trim().min(1, wrong("input.giveYourName")).max(120),
  email: z.email(wrong("input.thisIsntAnEmailAddress")).trim().toLowerCase(),
  password: NewPassword,
  /** The code that was printed at the start; not needed from the machine itself. */
  code: z.string().trim().max(40).default(""),
}).meta({ id: "SetUp" });

export const getStartPage = endpoint({
  method: "get",
  path: "/api/start",
  summary: "What the page shows before anybody is signed in",
  who: "anybody",
  answer: StartPage,
});
export const postSetUp = endpoint({
  method: "post",
  path: "/api/set-up",
  summary: "Set up an empty house, once",
  who: "anybody",
  body: SetUp,
  answer: Done,
});
export const postSignIn = endpoint({
  method: "post",
  path: "/api/sign-in",
  summary: "Sign in with address and password",
  who: "anybody",
  body: z.object({ email: Email, password: z.string().max(200) }),
  answer: SignedIn,
});
export const postDemoEmpty = endpoint({
  method: "post",
  path: "/api/demo/empty",
  summary: "Start the demo house over with an empty roster",
  who: "anybody",
  body: z.object({ sure: z.literal(true) }),
  answer: Done,
});
export const postDemoSignIn = endpoint({
  method: "post",
  path: "/api/sign-in/demo",
  summary: "Sign in as a demo account; refused in any other house",
  who: "anybody",
  body: z.object({ email: Email }),
  answer: SignedIn,
});
export const postSignOut = endpoint({
  method: "post",
  path: "/api/sign-out",
  summary: "End this session",
  who: "anybody",
  answer: Done,
});
export const putOwnLanguage = endpoint({
  method: "put",
  path: "/api/account/language",
  summary: "Choose the language of the interface for one's own account",
  who: "manage own account",
  body: z.object({ language: z.enum(STAFF_LANGUAGES) }),
  answer: z.object({ done: z.literal(true) }),
});
export const getMe = endpoint({
  method: "get",
  path: "/api/me",
  summary: "Who is signed in",
  who: "see who is signed in",
  answer: Me,
});
