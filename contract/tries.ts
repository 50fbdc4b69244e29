import * as z from "zod";
import { PROOFS } from "@amigo/core/posting/mailToJudge";
import { endpoint } from "./endpoint";
import { wrong } from "./wrong";
import { Id } from "./lists";

const Outcome = z.enum(["goes out", "held", "returned", "dropped"]);

const Reason = z.object({ rule: z.string(), words: z.string(), sentence: z.string() });

const Sight = z.object({
  finds: z.boolean(),
  seesMembers: z.boolean(),
  readsArchive: z.boolean(),
  reasons: z.array(z.string()),
});

/** What would become of mail of an address, why, and what its owner could see. Each reason names its rule. */
export const VerdictAnswer = z
  .object({
    outcome: Outcome,
    reaches: z.enum(["members", "leads"]),
    askSender: z.boolean(),
    who: z.string(),
    reasons: z.array(Reason),
    sight: Sight,
  })
  .meta({ id: "Verdict" });

export type VerdictAnswer = z.output<typeof VerdictAnswer>;

/** The same for all lists that the asker may see, in short. */
export const VerdictLine = z
  .object({
    id: z.string(),
    title: z.string(),
    address: z.string(),
    outcome: Outcome,
    reaches: z.enum(["members", "leads"]),
    reason: z.string(),
    sight: Sight.omit({ reasons: true }),
  })
  .meta({ id: "VerdictLine" });

export type VerdictLine = z.output<typeof VerdictLine>;

const Tried = z.object({
  address: z.string().trim().min(1, wrong("input.typeAnAddress")).max(254),
  proof: z.enum(PROOFS).default("signed-in"),
});

export const postTry = endpoint({
  method: "post",
  path: "/api/lists/{id}/try",
  summary: "What would happen to mail of an address to this list",
  who: "try an address",
  params: Id,
  body: Tried,
  answer: VerdictAnswer,
});

export const postTryAll = endpoint({
  method: "post",
  path: "/api/lists/try",
  summary: "What would happen to mail of an address, list by list",
  who: "try an address",
  body: Tried,
  answer: z.object({ who: z.string(), address: z.string(), lists: z.array(VerdictLine) }),
});
