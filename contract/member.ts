import * as z from "zod";
import { FAMILY_LANGUAGES } from "@amigo/language/families";
import { endpoint } from "./endpoint";
import { wrong } from "./wrong";

const Done = z.object({ done: z.literal(true) });
const Id = z.object({ id: z.uuid() });
const Address = z.string().trim().toLowerCase().min(3, wrong("input.typeYourAddress")).max(254);

/** How often somebody gets the mail of a list. */
export const HOW_OFTEN = ["every message", "daily", "weekly", "nothing"] as const;

export const HowOften = z.enum(HOW_OFTEN);

export const MemberLists = z
  .object({
    house: z.string(),
    timeZone: z.string(),
    /** By which dates are written, by BCP 47. */
    locale: z.string(),
    /** In which language Amigo speaks to them, on their page and in its mails. */
    language: z.enum(FAMILY_LANGUAGES),
    name: z.string(),
    address: z.string(),
    lists: z.array(
      z.object({
        id: z.string(),
        title: z.string(),
        description: z.string(),
        /** Why they are on it, in words. */
        because: z.string(),
        howOften: z.enum(HOW_OFTEN),
        mayLeave: z.boolean(),
        /** Whom to ask where they may not leave by themselves. */
        leads: z.array(z.string()),
        /** The address that reaches them, or the coordinators where there are none. */
        leadsAddress: z.string(),
        readsArchive: z.boolean(),
        /** The addresses of the others on it, where they may see them. */
        members: z.number().int().nullable(),
      }),
    ),
    /** Lists that they find and are not on: how they come onto them, and whether they may read what was written. */
    open: z.array(
      z.object({
        id: z.string(),
        title: z.string(),
        description: z.string(),
        how: z.enum(["join", "ask", "no"]),
        asked: z.boolean(),
        readsArchive: z.boolean(),
      }),
    ),
    pausedUntil: z.string(),
    addresses: z.array(
      z.object({ address: z.string(), state: z.enum(["works", "bounced", "not written to yet"]) }),
    ),
    children: z.array(z.object({ name: z.string(), classes: z.array(z.string()) })),
  })
  .meta({ id: "MemberLists" });
export type MemberLists = z.output<typeof MemberLists>;

export const MemberPost = z
  .object({
    id: z.string(),
    subject: z.string(),
    from: z.string(),
    at: z.string(),
    text: z.string(),
    /** Which posts are of one thread. */ thread: z.string(),
    attachments: z.array(
      z.object({ index: z.number().int(), name: z.string(), size: z.number().int() }),
    ),
  })
  .meta({ id: "MemberPost" });
export type MemberPost = z.output<typeof MemberPost>;

export const postMemberLink = endpoint({
  method: "post",
  path: "/api/member/link",
  summary: "Mail a link to the member page; answered alike whether the address is on any list",
  who: "anybody",
  body: z.object({ address: Address }),
  answer: Done,
});
export const postMemberEnter = endpoint({
  method: "post",
  path: "/api/member/enter",
  summary: "Open the member page by a mailed link, once",
  who: "anybody",
  body: z.object({ token: z.string().min(20).max(100) }),
  answer: Done,
});
export const postMemberGo = endpoint({
  method: "post",
  path: "/api/member/sign-out",
  summary: "Close the member page on this device",
  who: "member",
  answer: Done,
});
export const getMember = endpoint({
  method: "get",
  path: "/api/member",
  summary: "The lists of a member, their addresses, their children's classes",
  who: "member",
  answer: MemberLists,
});
export const putHowOften = endpoint({
  method: "put",
  path: "/api/member/lists/{id}/how-often",
  summary: "How often the mail of one list comes",
  who: "member",
  params: Id,
  body: z.object({ howOften: z.enum(HOW_OFTEN) }),
  answer: Done,
});
export const putLanguage = endpoint({
  method: "put",
  path: "/api/member/language",
  summary: "In which language Amigo speaks to them, on their page and in its mails",
  who: "member",
  body: z.object({ language: z.enum(FAMILY_LANGUAGES) }),
  answer: Done,
});
export const putPause = endpoint({
  method: "put",
  path: "/api/member/pause",
  summary: "Pause the mail of lists until a day is over; empty resumes it",
  who: "member",
  body: z.object({ until: z.union([z.iso.date(wrong("input.writeTheDay")), z.literal("")]) }),
  answer: Done,
});
export const postMemberLeave = endpoint({
  method: "post",
  path: "/api/member/lists/{id}/leave",
  summary: "Leave a list, where its rules let members",
  who: "member",
  params: Id,
  answer: Done,
});
export const postMemberJoin = endpoint({
  method: "post",
  path: "/api/member/lists/{id}/join",
  summary: "Join a list, or ask its leads",
  who: "member",
  params: Id,
  answer: z.object({ member: z.boolean() }),
});
export const postNewAddress = endpoint({
  method: "post",
  path: "/api/member/addresses",
  summary: "Ask for a new address; it counts once a link mailed there was opened",
  who: "member",
  body: z.object({ address: Address }),
  answer: Done,
});
export const postConfirmAddress = endpoint({
  method: "post",
  path: "/api/member/confirm-address",
  summary: "Confirm a new address by a mailed link",
  who: "anybody",
  body: z.object({ token: z.string().min(20).max(100) }),
  answer: z.object({ address: z.string() }),
});
export const postWrong = endpoint({
  method: "post",
  path: "/api/member/wrong",
  summary: "Report to the coordinators that something is wrong",
  who: "member",
  body: z.object({
    about: z.string().trim().max(200),
    text: z.string().trim().min(3, wrong("input.sayWhatIsWrong")).max(2000),
  }),
  answer: Done,
});
export const getMemberArchive = endpoint({
  method: "get",
  path: "/api/member/lists/{id}/posts",
  summary: "What was written to a list, for members who may read it",
  who: "member",
  params: Id,
  query: z.object({
    before: z.string().max(40).optional(),
    q: z.string().trim().max(200).default(""),
  }),
  answer: z.array(MemberPost),
});
export const getMemberPost = endpoint({
  method: "get",
  path: "/api/member/posts/{id}",
  summary: "One post that a member may read, by its address in the mail",
  who: "member",
  params: Id,
  answer: MemberPost.extend({ list: z.object({ id: z.string(), title: z.string() }) }),
});
export const getMemberOthers = endpoint({
  method: "get",
  path: "/api/member/lists/{id}/members",
  summary: "Who else is on a list, where its rules let members see each other",
  who: "member",
  params: Id,
  answer: z.array(z.object({ name: z.string(), address: z.string() })),
});
