import * as z from "zod";
import { TOKEN_SCOPE_NAMES } from "@amigo/core/access/tokenScopes";
import { TWO_STEP_FOR } from "@amigo/core/access/twoStep";
import { HouseBasics } from "./accounts";
import { RecipeShape } from "./edits";
import { endpoint } from "./endpoint";
import { wrong } from "./wrong";
import { CountedNumber } from "./countedNumber";

/** What needs somebody now. */
export const RelayAway = z
  .object({ relay: z.string(), since: z.string(), words: z.string() })
  .meta({ id: "RelayAway" });
export type RelayAway = z.output<typeof RelayAway>;

export const Pulse = z
  .object({
    outOfStep: z.number().int(),
    causes: z.number().int(),
    guards: z.number().int(),
    /** Rows of intakes that the asker could approve. */
    toApprove: z.number().int(),
    undelivered: z.number().int(),
    /** Mails that wait for the asker's decision, and requests that wait for their word. */
    held: z.number().int(),
    requests: z.number().int(),
    faults: z.number().int(),
    questions: z.number().int(),
    /** Sources that failed three times in a row, with since when. */
    failing: z.array(z.object({ id: z.string(), name: z.string(), since: z.string() })),
    /** Differences that were found at web addresses with dates that the asker watches, and wait for a review. */
    dates: z.number().int(),
    /** Those of these addresses that failed three times in a row. */
    failingDates: z.array(z.object({ id: z.string(), name: z.string(), since: z.string() })),
    /** Addresses that failed at once and wait for a coordinator's decision. */
    failedAtOnce: z.number().int(),
    /** Since when no mail goes out, as the relay can't be reached, and why; null while it answers, and for everybody but coordinators. */
    relayAway: RelayAway.nullable(),
    /** Who has paused all sending; empty while mail goes out. */
    pausedBy: z.string(),
  })
  .meta({ id: "Pulse" });
export type Pulse = z.output<typeof Pulse>;

export const LimitsShape = z
  .object({
    listShare: z.number().min(0).max(1),
    listFew: z.number().int().min(0).max(10_000),
    sourceShare: z.number().min(0).max(1),
    familiesOfAddress: z.number().int().min(1).max(1000),
  })
  .meta({ id: "Limits" });

export const House = z
  .object({
    name: z.string(),
    insideDomain: z.string(),
    listDomain: z.string(),
    timeZone: z.string(),
    kind: z.enum(["school", "club"]),
    country: z.string(),
    language: z.string(),
    studentAddress: z.string(),
    /** Domains that lists had before, until when mail to them still arrives. */
    formerDomains: z.array(
      z.object({ use: z.enum(["lists", "inside"]), domain: z.string(), lastDay: z.string() }),
    ),
    seasons: z.array(
      z.object({ label: z.string(), current: z.boolean(), lists: z.number().int() }),
    ),
    sites: z.array(z.object({ code: z.string(), name: z.string(), classes: z.number().int() })),
    recipes: z.array(
      z.object({
        id: z.number().int(),
        value: RecipeShape,
        sentence: z.string(),
        lists: z.number().int(),
        apart: z.number().int(),
        /** Lists for students that aren't made, because none of them has an address. */
        waiting: z.number().int(),
        example: z.string(),
      }),
    ),
    /** People who can lead lists. */
    staff: z.array(z.object({ id: z.string(), name: z.string() })),
    limits: LimitsShape,
    /** What the basics and the limits are now; who changes them says which they have seen. */
    versions: z.object({ basics: z.string(), limits: z.string() }),
    /** Whose sign-in needs a second step. */
    twoStep: z.enum(TWO_STEP_FOR),
    /** Whom Amigo believes where sources disagree, strongest first. */
    precedence: z.array(z.string()),
    accounts: z.array(
      z.object({ name: z.string(), email: z.string(), role: z.string(), leads: z.number().int() }),
    ),
  })
  .meta({ id: "House" });
export type House = z.output<typeof House>;

export const Token = z
  .object({
    id: z.string(),
    name: z.string(),
    by: z.string(),
    createdAt: z.string(),
    scopes: z.array(z.enum(TOKEN_SCOPE_NAMES)),
    /** The last day on which it works; null for none. */
    lastDay: z.string().nullable(),
    lastUsedAt: z.string().nullable(),
  })
  .meta({ id: "Token" });

export const JournalEntry = z
  .object({
    id: z.number().int(),
    at: z.string(),
    actor: z.string(),
    action: z.string(),
    sentence: z.string(),
  })
  .meta({ id: "JournalEntry" });

export const Found = z
  .object({
    kind: z.enum(["list", "class", "person", "source"]),
    id: z.string(),
    title: z.string(),
    detail: z.string(),
    to: z.string(),
  })
  .meta({ id: "Found" });

/** Which entries of the journal are wanted: by who, what, a word, and days in the house's time zone. */
export const JournalWanted = z.object({
  before: CountedNumber.optional(),
  actor: z.string().max(120).optional(),
  action: z.string().max(40).optional(),
  q: z.string().max(100).optional(),
  from: z.iso.date().optional(),
  to: z.iso.date().optional(),
});
export type JournalWanted = z.output<typeof JournalWanted>;

export const getPulse = endpoint({
  method: "get",
  path: "/api/pulse",
  summary: "What needs somebody now",
  who: "see the board",
  answer: Pulse,
});
export const getHouse = endpoint({
  method: "get",
  path: "/api/house",
  summary: "The house, its seasons, sites, recipes and accounts",
  who: "see the house",
  answer: House,
});
export const putBasics = endpoint({
  method: "put",
  path: "/api/house/basics",
  summary: "Change what the house is called, where it is, its domains and the codes of its sites",
  who: "change the house",
  body: HouseBasics.extend({
    /** For how many days mail to the list domain of before still reaches lists, where it changes. */
    graceDays: z.number().int().min(0).max(1000).default(90),
    /** For how many days addresses in the inside domain of before still count as inside, where it changes. */
    insideGraceDays: z.number().int().min(0).max(1000).default(90),
    /** How students' inside addresses are made from their numbers; empty for as the sheets have them. */
    studentAddress: z
      .string()
      .trim()
      .toLowerCase()
      .max(200)
      .regex(
        /^(|[a-z0-9._-]*\{number\}[a-z0-9._-]*@[a-z0-9-]+(\.[a-z0-9-]+)+)$/,
        wrong("input.writeItAsNumberschoolexample"),
      ),
    /** The codes of sites, by their names. */
    codes: z.record(
      z.string(),
      z
        .string()
        .trim()
        .regex(/^[A-Za-z0-9]{1,6}$/, wrong("input.aSitesCodeIs1To")),
    ),
    version: z.string().max(64),
  }),
  answer: z.object({
    /** What follows from it, in sentences. */
    follows: z.array(z.string()),
    version: z.string(),
  }),
});
export const putLimits = endpoint({
  method: "put",
  path: "/api/house/limits",
  summary: "Change when a safety check stops a round",
  who: "change the house",
  body: LimitsShape.extend({ version: z.string().max(64) }),
  answer: z.object({ version: z.string() }),
});
export const getTokens = endpoint({
  method: "get",
  path: "/api/tokens",
  summary: "API tokens that are in force",
  who: "manage tokens",
  answer: z.array(Token),
});
export const postToken = endpoint({
  method: "post",
  path: "/api/tokens",
  summary: "Make an API token; it is shown this once",
  who: "manage tokens",
  body: z.object({
    name: z.string().trim().min(1, wrong("input.giveTheTokenAName")).max(80),
    scopes: z
      .array(z.enum(TOKEN_SCOPE_NAMES))
      .min(1, wrong("input.chooseWhatTheTokenMayDo"))
      .max(20),
    lastDay: z.iso.date(wrong("input.giveTheLastDayOnWhich")),
  }),
  answer: z.object({ id: z.string(), token: z.string() }),
});
export const deleteToken = endpoint({
  method: "delete",
  path: "/api/tokens/{id}",
  summary: "Revoke an API token",
  who: "manage tokens",
  params: z.object({ id: z.uuid() }),
  answer: z.object({ done: z.literal(true) }),
});
export const getJournal = endpoint({
  method: "get",
  path: "/api/journal",
  summary: "What was done, newest first",
  who: "see the journal",
  query: JournalWanted,
  answer: z.object({
    entries: z.array(JournalEntry),
    more: z.boolean(),
    actions: z.array(z.string()),
  }),
});
export const getFind = endpoint({
  method: "get",
  path: "/api/find",
  summary: "Find lists, classes, people and sources by any part of their names",
  who: "find",
  query: z.object({ q: z.string().max(100) }),
  answer: z.array(Found),
});

/** How large the picture of a house may be, in octets: enough for a crisp crest, small enough for every sign-in mail. */
export const LARGEST_PICTURE = 200 * 1024;

export const postPicture = endpoint({
  method: "post",
  path: "/api/house/picture",
  summary: "Set the picture of the school or club, for its sign-in page and sign-in mails",
  who: "change the house",
  bodyType: "form",
  most: LARGEST_PICTURE + 16 * 1024,
  body: z.object({
    file: z
      .instanceof(globalThis.File, { message: wrong("input.chooseAPicture") })
      .meta({ type: "string", format: "binary" }),
  }),
  answer: z.object({ done: z.literal(true) }),
});
export const deletePicture = endpoint({
  method: "delete",
  path: "/api/house/picture",
  summary: "Remove the picture of the school or club",
  who: "change the house",
  answer: z.object({ done: z.literal(true) }),
});
