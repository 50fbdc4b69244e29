import * as z from "zod";
import { ADDING } from "@amigo/core/lists/recipe";
import { endpoint, LONG_BODY } from "./endpoint";
import { HowOften } from "./member";
import { wrong } from "./wrong";
import { CountedNumber } from "./countedNumber";
import { Id } from "./lists";

export const Member = z
  .object({
    address: z.string(),
    people: z.array(z.object({ name: z.string(), because: z.string(), where: z.string() })),
    since: z.string(),
    /** What they are to the list: `member`, `lead`, `helper`. */
    role: z.string(),
    /** What they are in the house: `guardian`, `student`, `staff`; empty for an address that nobody is known behind. */
    what: z.string(),
    /** Whether mail reached it last time: `reached`, `bounced` with words, or empty where none was sent yet. */
    state: z.string(),
    lastMail: z.string().nullable(),
    /** How often it gets mail, as its owner has chosen or the list has it: in words, with a pause. */
    gets: z.string(),
    /** Whether its owner gets no mail of lists for now. */
    isPaused: z.boolean(),
    /** The same as a value to choose, without a pause. */
    howOften: HowOften,
    /** That somebody keeps it on by hand, in words; empty where the audience alone decides. */
    kept: z.string(),
  })
  .meta({ id: "Member" });

/** An address that somebody keeps on or off a list, whatever the sheets say. */
export const Kept = z
  .object({
    address: z.string(),
    side: z.enum(["on", "off"]),
    reason: z.string(),
    by: z.string(),
    at: z.string(),
    lastDay: z.string(),
  })
  .meta({ id: "Kept" });

export type Kept = z.output<typeof Kept>;

export type Member = z.output<typeof Member>;

export const getMembers = endpoint({
  method: "get",
  path: "/api/lists/{id}/members",
  summary: "Members of a list with the reason each is on it",
  who: "see lists",
  params: Id,
  query: z.object({
    q: z.string().max(100).default(""),
    from: CountedNumber.default(0),
    on: z.union([z.iso.date(), z.literal("")]).default(""),
  }),
  answer: z.object({ total: z.number().int(), members: z.array(Member) }),
});

export const getKept = endpoint({
  method: "get",
  path: "/api/lists/{id}/kept",
  summary: "Addresses that are always or never on a list",
  who: "see lists",
  params: Id,
  answer: z.array(Kept),
});

export const postKept = endpoint({
  method: "post",
  path: "/api/lists/{id}/kept",
  summary: "Put an address always or never on a list, whatever the sheets say",
  who: "keep on lists",
  params: Id,
  body: z.object({
    address: z.string().trim().min(1, wrong("input.typeAnAddress")).max(254),
    side: z.enum(["on", "off"]),
    reason: z.string().trim().min(1, wrong("input.giveAReasonItIsShown")).max(300),
    lastDay: z.union([z.iso.date(wrong("input.writeTheDay")), z.literal("")]).default(""),
  }),
  answer: z.object({ address: z.string(), member: z.boolean() }),
});

export const putMemberHowOften = endpoint({
  method: "put",
  path: "/api/lists/{id}/members/how-often",
  summary: "Settle how often a member gets the mail of a list",
  who: "keep on lists",
  params: Id,
  body: z.object({ address: z.string().trim().toLowerCase().max(254), howOften: HowOften }),
  answer: z.object({ done: z.literal(true) }),
});

export const deleteKept = endpoint({
  method: "post",
  path: "/api/lists/{id}/let-go",
  summary: "End always or never: the sheets decide again",
  who: "keep on lists",
  params: Id,
  body: z.object({ address: z.string() }),
  answer: z.object({ member: z.boolean() }),
});

/** What becomes of one address out of what was pasted. */
export const PastedLine = z
  .object({
    written: z.string(),
    address: z.string(),
    outcome: z.enum([
      "to add",
      "repaired",
      "already there",
      "twice",
      "outside",
      "waits",
      "unusable",
    ]),
    /** Why, and what can be done. */
    sentence: z.string(),
    who: z.string(),
  })
  .meta({ id: "PastedLine" });

export type PastedLine = z.output<typeof PastedLine>;

export const postPasted = endpoint({
  method: "post",
  path: "/api/lists/{id}/pasted",
  summary: "How each address of a pasted text is read, without adding any",
  who: "see lists",
  params: Id,
  most: LONG_BODY,
  body: z.object({ text: z.string().max(500_000) }),
  answer: z.object({ lines: z.array(PastedLine), leftOver: z.array(z.string()) }),
});

export const postMembers = endpoint({
  method: "post",
  path: "/api/lists/{id}/members",
  summary: "Put addresses on a list by hand: quietly, with its welcome, or by asking first",
  who: "keep on lists",
  params: Id,
  most: LONG_BODY,
  body: z.object({
    addresses: z.array(z.string().max(254)).min(1, wrong("input.addAtLeastOneAddress")).max(5000),
    how: z.enum(ADDING),
    reason: z.string().trim().min(1, wrong("input.giveAReasonItIsShown")).max(300),
    lastDay: z.union([z.iso.date(wrong("input.writeTheDay")), z.literal("")]).default(""),
  }),
  answer: z.object({
    added: z.number().int(),
    asked: z.number().int(),
    already: z.number().int(),
    waiting: z.number().int(),
  }),
});

/** A welcome as somebody would get it; without a list, by the first one that the asker sees. */
export const postWelcomePreview = endpoint({
  method: "post",
  path: "/api/welcome/preview",
  summary: "A welcome as a member of a list would get it, without sending it",
  who: "keep on lists",
  body: z.object({
    text: z.string().max(5000),
    list: z.uuid().nullable(),
    as: z.string().max(254).default(""),
  }),
  answer: z.object({
    subject: z.string(),
    text: z.string(),
    to: z.string(),
    list: z.string(),
    faults: z.array(z.object({ at: z.number().int(), sentence: z.string() })),
  }),
});
