import * as z from "zod";
import { endpoint, LONG_BODY } from "./endpoint";
import { wrong } from "./wrong";

const Counts = z.object({
  waiting: z.number().int(),
  sent: z.number().int(),
  deferred: z.number().int(),
  bounced: z.number().int(),
  cancelled: z.number().int(),
  /** Members who get it in their next digest. */ digests: z.number().int(),
});

export const PostLine = z
  .object({
    id: z.string(),
    subject: z.string(),
    from: z.string(),
    lists: z.array(z.object({ id: z.string(), title: z.string() })),
    at: z.string(),
    outcome: z.enum(["goes out", "held", "returned", "dropped"]),
    reaches: z.enum(["members", "leads"]),
    /** Until then it waits and can be taken back; null once it leaves. */
    leavesAt: z.string().nullable(),
    pausedBy: z.string(),
    /** Who took it out of the archive; empty for nobody. */
    takenOutBy: z.string(),
    deliveries: Counts,
  })
  .meta({ id: "PostLine" });
export type PostLine = z.output<typeof PostLine>;

export const PostPage = PostLine.extend({
  fromAddress: z.string(),
  text: z.string(),
  reasons: z.array(z.string()),
  /** The body as HTML where it has one: sanitised, with nothing that is fetched from elsewhere. */
  html: z.string(),
  attachments: z.array(
    z.object({
      index: z.number().int(),
      name: z.string(),
      type: z.string(),
      size: z.number().int(),
    }),
  ),
  /** Whether it is kept to be read; by the rules of its lists perhaps not. */
  kept: z.boolean(),
  /** Who decided on it, where it was held. */
  decided: z.object({ by: z.string(), at: z.string() }).nullable(),
  mayDecide: z.boolean(),
  /** Whether the asker may pause, cancel and retry its copies, and take it out of the archive. */
  mayManage: z.boolean(),
  /** Whether they may pause, take back or take out of the archive the whole post, not only cancel the copies of their own list. */
  mayManageAll: z.boolean(),
  /** The posts of its thread, the oldest first, where there are several. */
  thread: z.array(
    z.object({ id: z.string(), subject: z.string(), from: z.string(), at: z.string() }),
  ),
  /** Whoever is on its lists, or was then, and got no copy, with the reason. */
  missed: z.array(
    z.object({
      address: z.string(),
      people: z.string(),
      why: z.enum([
        "joined later",
        "next digest",
        "in a digest",
        "by another list",
        "stopped",
        "paused",
        "wants none",
        "left out",
      ]),
      /** Since when, until which day, or when; as the reason has it. */
      at: z.string().nullable(),
      /** What the mail server said of an address that is stopped. */
      words: z.string(),
    }),
  ),
  recipients: z.array(
    z.object({
      /** Whether another try could help. */ retry: z.boolean(),
      address: z.string(),
      people: z.string(),
      state: z.enum(["queued", "sending", "deferred", "sent", "bounced", "cancelled"]),
      attempts: z.number().int(),
      reply: z.string(),
      at: z.string().nullable(),
      nextAt: z.string().nullable(),
    }),
  ),
}).meta({ id: "PostPage" });
export type PostPage = z.output<typeof PostPage>;

/** What a post to some lists would reach. */
export const Reckoning = z
  .object({
    addresses: z.number().int(),
    families: z.number().int(),
    unreachable: z.number().int(),
    twice: z.number().int(),
    refused: z.array(z.string()),
    /** What else is to be known: that it reaches leads alone, or is held. */ notes: z.array(
      z.string(),
    ),
  })
  .meta({ id: "Reckoning" });

/** A mail that waits for a lead's or helper's decision. */
export const HeldLine = z
  .object({
    id: z.string(),
    subject: z.string(),
    from: z.string(),
    fromAddress: z.string(),
    lists: z.array(z.object({ id: z.string(), title: z.string() })),
    at: z.string(),
    text: z.string(),
    reasons: z.array(z.string()),
    attachments: z.number().int(),
    mayDecide: z.boolean(),
  })
  .meta({ id: "HeldLine" });
export type HeldLine = z.output<typeof HeldLine>;

export const HELD_DECISIONS = ["let out", "return", "drop"] as const;

const Id = z.object({ id: z.uuid() });

export const getPosts = endpoint({
  method: "get",
  path: "/api/posts",
  summary: "Posts, newest first, 50 at a time",
  who: "see posts",
  query: z.object({
    list: z.uuid().optional(),
    before: z.string().optional(),
    q: z.string().trim().max(200).default(""),
    by: z.enum(["", "me"]).default(""),
  }),
  answer: z.array(PostLine),
});
export const getPost = endpoint({
  method: "get",
  path: "/api/posts/{id}",
  summary: "One post with its delivery to each recipient",
  who: "see posts",
  params: Id,
  answer: PostPage,
});
export const getHeld = endpoint({
  method: "get",
  path: "/api/held",
  summary: "Mail that waits for a decision, oldest first",
  who: "see posts",
  answer: z.array(HeldLine),
});
export const postHeld = endpoint({
  method: "post",
  path: "/api/held/{id}",
  summary: "Send a held mail out, return it with a word, or discard it",
  who: "see posts",
  params: Id,
  body: z.object({
    decision: z.enum(HELD_DECISIONS),
    word: z.string().trim().max(1000).default(""),
  }),
  answer: z.object({ addresses: z.number().int() }),
});
export const postTakeBack = endpoint({
  method: "post",
  path: "/api/posts/{id}/take-back",
  summary: "Take a post back that has not left yet; it is a draft again",
  who: "write to lists",
  params: Id,
  answer: z.object({ draft: z.string().nullable() }),
});
export const postPause = endpoint({
  method: "post",
  path: "/api/posts/{id}/pause",
  summary: "Pause or resume the rest of a post",
  who: "write to lists",
  params: Id,
  body: z.object({ paused: z.boolean() }),
  answer: z.object({ done: z.literal(true) }),
});
export const postCancel = endpoint({
  method: "post",
  path: "/api/posts/{id}/cancel",
  summary: "Cancel the rest of a post",
  who: "write to lists",
  params: Id,
  answer: z.object({ cancelled: z.number().int() }),
});
export const postRetry = endpoint({
  method: "post",
  path: "/api/posts/{id}/retry",
  summary: "Try a copy once more now",
  who: "write to lists",
  params: Id,
  body: z.object({ address: z.string().max(254) }),
  answer: z.object({ done: z.literal(true) }),
});
export const postTakeOut = endpoint({
  method: "post",
  path: "/api/posts/{id}/take-out",
  summary: "Remove a post from the archive, or restore it",
  who: "write to lists",
  params: Id,
  body: z.object({ out: z.boolean() }),
  answer: z.object({ done: z.literal(true) }),
});
export const postReckon = endpoint({
  method: "post",
  path: "/api/posts/reckon",
  summary: "To how many addresses and families a post to some lists would go",
  who: "write to lists",
  most: LONG_BODY,
  body: z.object({
    lists: z.array(z.uuid()).max(50),
    privately: z.array(z.uuid()).max(20).default([]),
  }),
  answer: Reckoning,
});
export const postPost = endpoint({
  method: "post",
  path: "/api/posts",
  summary: "Send a plain post to lists, from a script: it leaves at once, and once for one key",
  who: "write to lists",
  most: LONG_BODY,
  body: z.object({
    lists: z.array(z.uuid()).max(50),
    privately: z.array(z.uuid()).max(20).default([]),
    subject: z.string().trim().min(1, wrong("input.giveItASubject")).max(300),
    text: z.string().min(1, wrong("input.writeSomething")).max(500_000),
    key: z.uuid(),
  }),
  answer: z.object({
    id: z.string(),
    addresses: z.number().int(),
    outcome: z.enum(["goes out", "held"]),
  }),
});
