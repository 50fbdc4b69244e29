import * as z from "zod";
import { DateWhen } from "./dates";
import { endpoint } from "./endpoint";

/** Whose dates a calendar has: all that the asker sees, those of one list, or all of the house. */
export const FEED_KINDS = ["account", "list", "house"] as const;
const Wanted = z.object({
  kind: z.enum(FEED_KINDS),
  /** The list, where it is one's calendar. */
  list: z.union([z.literal(""), z.uuid()]).default(""),
});
const Feed = z.object({
  /** Its secret address; empty where there is none. */
  url: z.string(),
});
const Done = z.object({ done: z.literal(true) });

export const getFeed = endpoint({
  method: "get",
  path: "/api/feeds",
  summary: "The secret address of a calendar that programs read",
  who: "see dates",
  query: Wanted,
  answer: Feed,
});
export const postFeed = endpoint({
  method: "post",
  path: "/api/feeds",
  summary: "Make the secret address of a calendar, or another one in its place",
  who: "see dates",
  body: Wanted,
  answer: Feed,
});
export const deleteFeed = endpoint({
  method: "delete",
  path: "/api/feeds",
  summary: "Make the secret address of a calendar lead nowhere",
  who: "see dates",
  query: Wanted,
  answer: Done,
});

/** Of which child; empty for all that the member is invited to. */
const OfChild = z.object({ child: z.string().max(200).default("") });

export const getMemberDates = endpoint({
  method: "get",
  path: "/api/member/dates",
  summary: "The coming dates to which the member is invited, and their calendar's secret address",
  who: "member",
  answer: Feed.extend({
    /** The calendars of their children. */
    children: z.array(Feed.extend({ id: z.string(), name: z.string() })),
    dates: z.array(
      z.object({
        title: z.string(),
        place: z.string(),
        when: DateWhen,
        answer: z.enum(["yes", "no", "maybe"]).nullable(),
        isWaiting: z.boolean(),
        /** Where it is answered. */
        path: z.string(),
      }),
    ),
  }),
});
export const postMemberFeed = endpoint({
  method: "post",
  path: "/api/member/feed",
  summary: "Make the secret address of the member's calendar, or another one in its place",
  who: "member",
  body: OfChild,
  answer: Feed,
});
export const deleteMemberFeed = endpoint({
  method: "delete",
  path: "/api/member/feed",
  summary: "Make the secret address of the member's calendar lead nowhere",
  who: "member",
  query: OfChild,
  answer: Done,
});
