import * as z from "zod";
import { MAIL_RESULTS } from "@amigo/core/mail/mailResults";
import { endpoint } from "./endpoint";

/** What a mail that came in was for one of the addresses that it came to. */
const TracePart = z.object({
  recipient: z.string(),
  list: z.object({ id: z.string(), title: z.string() }).nullable(),
  result: z.enum(MAIL_RESULTS),
  reasons: z.array(z.string()),
  post: z.string().nullable(),
});

/** A mail that came in. */
const TraceIn = z.object({
  kind: z.literal("in"),
  at: z.string(),
  id: z.string(),
  from: z.string(),
  fromAddress: z.string(),
  returnPath: z.string(),
  subject: z.string(),
  size: z.number().int(),
  network: z.string(),
  helo: z.string(),
  secure: z.boolean(),
  proof: z.enum(["signed-in", "dkim", "spf", "none", "forged"]),
  answer: z.string(),
  parts: z.array(TracePart),
});

/** One mail to one address. */
const TraceCopy = z.object({
  kind: z.literal("copy"),
  at: z.string(),
  id: z.string(),
  address: z.string(),
  subject: z.string(),
  what: z.enum(["post", "digest", "note"]),
  list: z.string(),
  post: z.string().nullable(),
  state: z.enum(["queued", "sending", "deferred", "sent", "bounced", "cancelled"]),
  attempts: z.number().int(),
  nextAt: z.string().nullable(),
  reply: z.string(),
});

/** A post that was written here, with how its copies fare. */
const TracePost = z.object({
  kind: z.literal("post"),
  at: z.string(),
  id: z.string(),
  from: z.string(),
  subject: z.string(),
  lists: z.array(z.string()),
  sent: z.number().int(),
  waiting: z.number().int(),
  failed: z.number().int(),
});

export const TraceLine = z
  .discriminatedUnion("kind", [TraceIn, TraceCopy, TracePost])
  .meta({ id: "TraceLine" });
export type TraceLine = z.output<typeof TraceLine>;
export type TraceInLine = z.output<typeof TraceIn>;

export const getTrace = endpoint({
  method: "get",
  path: "/api/mail/trace",
  summary:
    "What happened to mail, the newest first: by an address, words of a subject, an id, a list, or an answer of the relay",
  who: "change the house",
  query: z.object({
    q: z.string().trim().max(300).default(""),
    before: z.iso.datetime().optional(),
  }),
  answer: z.object({
    lines: z.array(TraceLine),
    /** What to ask with for older ones; null where there are none. */
    before: z.string().nullable(),
  }),
});

const MailWeek = z.object({
  /** The Monday on which it begins. */
  week: z.string(),
  posts: z.number().int(),
  copies: z.number().int(),
  /** Copies that the relay took and that haven't come back. */
  delivered: z.number().int(),
  failed: z.number().int(),
});
export type MailWeek = z.output<typeof MailWeek>;

export const getMailWeeks = endpoint({
  method: "get",
  path: "/api/mail/weeks",
  summary: "Posts and their copies by week, for a list or for all that you may see",
  who: "see posts",
  query: z.object({ list: z.uuid().optional() }),
  answer: z.array(MailWeek),
});
