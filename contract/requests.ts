import * as z from "zod";
import { ADDING } from "@amigo/core/lists/recipe";
import { RULE_IDS } from "@amigo/core/posting/rules/rule";
import { EditShape } from "./edits";
import { endpoint, LONG_BODY } from "./endpoint";
import { wrong } from "./wrong";

const Day = z.union([z.iso.date(wrong("input.writeTheDay")), z.literal("")]);
const Id = z.object({ id: z.uuid() });

/** What waits for the yes and goes on by itself once it is given: the edit that was refused, or addresses to be put on. */
const Work = z.object({
  edit: z.union([EditShape, z.null()]).default(null),
  members: z
    .union([
      z.object({
        addresses: z.array(z.string().max(254)).min(1).max(5000),
        how: z.enum(ADDING),
        reason: z.string().trim().min(1).max(300),
        lastDay: Day.default(""),
      }),
      z.null(),
    ])
    .default(null),
});

export const RequestLine = z
  .object({
    id: z.string(),
    list: z.string(),
    listId: z.string().nullable(),
    title: z.string(),
    rule: z.string(),
    wanted: z.string(),
    sentence: z.string(),
    why: z.string(),
    by: z.string(),
    mine: z.boolean(),
    at: z.string(),
    state: z.enum(["open", "granted", "refused", "withdrawn"]),
    decidedBy: z.string(),
    until: z.string(),
    word: z.string(),
    /** How many addresses wait for it. */
    addresses: z.number().int(),
    mayDecide: z.boolean(),
  })
  .meta({ id: "Request" });
export type RequestLine = z.output<typeof RequestLine>;

/** What saying yes would do. */
export const RequestEffect = z
  .object({
    sentences: z.array(z.string()),
    joins: z.number().int(),
    leaves: z.number().int(),
    /** The addresses that wait for it, each with its name where the asker may know it. */
    waiting: z.array(z.object({ address: z.string(), name: z.string() })),
  })
  .meta({ id: "RequestEffect" });

export const getRequests = endpoint({
  method: "get",
  path: "/api/requests",
  summary:
    "Requests for exceptions to the house rules: the caller's own, or all that they may decide on",
  who: "see requests",
  answer: z.array(RequestLine),
});
export const postRequest = endpoint({
  method: "post",
  path: "/api/requests",
  summary: "Ask a coordinator for an exception to the house rules for one list",
  who: "ask for permission",
  most: LONG_BODY,
  body: z.object({
    list: z.string().min(1).max(300),
    rule: z.union([z.enum(RULE_IDS), z.literal("convention")]),
    wanted: z.string().min(1).max(2000),
    why: z.string().trim().min(1, wrong("input.sayInAFewWordsWhat")).max(500),
    work: Work,
  }),
  answer: z.object({ id: z.string(), asked: z.array(z.string()) }),
});
export const getRequestEffect = endpoint({
  method: "get",
  path: "/api/requests/{id}/effect",
  summary: "What approving a request would do",
  who: "decide requests",
  params: Id,
  answer: RequestEffect,
});
export const postDecideRequest = endpoint({
  method: "post",
  path: "/api/requests/{id}",
  summary: "Approve a request, also until a day, or decline it with a word",
  who: "decide requests",
  params: Id,
  body: z.object({
    yes: z.boolean(),
    until: Day.default(""),
    word: z.string().trim().max(500).default(""),
  }),
  answer: z.object({ done: z.string() }),
});
export const postWithdrawRequest = endpoint({
  method: "post",
  path: "/api/requests/{id}/withdraw",
  summary: "Withdraw one's own request",
  who: "ask for permission",
  params: Id,
  answer: z.object({ done: z.literal(true) }),
});
