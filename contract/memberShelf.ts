import * as z from "zod";
import { endpoint } from "./endpoint";
import {
  CommentBody,
  FileName,
  SHELF_FILE,
  ShelfComment,
  ShelfLink,
  Upload,
  VersionPut,
} from "./shelf";

const Id = z.object({ id: z.uuid() });
const Done = z.object({ done: z.literal(true) });

/** A thing that a member may open. */
export const MemberThing = z
  .object({
    id: z.string(),
    kind: z.enum(["file", "link"]),
    title: z.string(),
    folder: z.string(),
    /** The list by which the member may open it, and its title. */
    listId: z.string(),
    list: z.string(),
    name: z.string(),
    size: z.number().int(),
    version: z.number().int(),
    untilDay: z.string(),
    madeBy: z.string(),
    madeAt: z.string(),
    /** How the browser shows it: not at all, where it only saves it. */
    shownAs: z.enum(["", "page", "text", "picture", "sound", "film"]),
    /** Whether the member has opened it. */
    isOpened: z.boolean(),
    mayComment: z.boolean(),
    mayChange: z.boolean(),
    /** Whether the member put it there, and may take it off. */
    isTheirs: z.boolean(),
    comments: z.number().int(),
  })
  .meta({ id: "MemberThing" });
export type MemberThing = z.output<typeof MemberThing>;

export const getMemberShelf = endpoint({
  method: "get",
  path: "/api/member/shelf",
  summary: "What the member's lists share with them",
  who: "member",
  answer: z.object({
    things: z.array(MemberThing),
    /** The lists to whose shelves the member may add something. */
    mayAddTo: z.array(z.object({ id: z.string(), title: z.string() })),
  }),
});
export const getMemberThing = endpoint({
  method: "get",
  path: "/api/member/shelf/{id}",
  summary: "What is said about a thing that the member may open, and who changed it when",
  who: "member",
  params: Id,
  answer: z.object({
    comments: z.array(ShelfComment),
    follows: z.boolean(),
    versions: z.array(z.object({ number: z.number().int(), by: z.string(), at: z.string() })),
  }),
});
export const postMemberFile = endpoint({
  method: "post",
  path: "/api/member/shelf/files",
  summary: "Put a file on the shelf of a list whose members may; the body is the file",
  who: "member",
  query: z.object({ list: z.uuid(), name: FileName, upload: Upload }),
  bodyType: "octets",
  most: SHELF_FILE,
  answer: z.object({ id: z.string() }),
});
export const postMemberShelfLink = endpoint({
  method: "post",
  path: "/api/member/shelf/links",
  summary: "Put a link on the shelf of a list whose members may",
  who: "member",
  body: ShelfLink.extend({ list: z.uuid() }),
  answer: z.object({ id: z.string() }),
});
export const postMemberVersion = endpoint({
  method: "post",
  path: "/api/member/shelf/{id}/versions",
  summary: "Put a new version of a file that members may change; the body is the file",
  who: "member",
  params: Id,
  query: z.object({ name: FileName, version: z.coerce.number().int(), upload: Upload }),
  bodyType: "octets",
  most: SHELF_FILE,
  answer: VersionPut,
});
export const deleteMemberThing = endpoint({
  method: "delete",
  path: "/api/member/shelf/{id}",
  summary: "Take off all shelves what the member put there",
  who: "member",
  params: Id,
  answer: Done,
});
export const postMemberComment = endpoint({
  method: "post",
  path: "/api/member/shelf/{id}/comments",
  summary: "Say something about a thing, where its members may",
  who: "member",
  params: Id,
  body: CommentBody,
  answer: Done,
});
export const deleteMemberComment = endpoint({
  method: "delete",
  path: "/api/member/shelf/{id}/comments/{comment}",
  summary: "Take out what the member has said",
  who: "member",
  params: Id.extend({ comment: z.uuid() }),
  answer: Done,
});
export const putMemberFollow = endpoint({
  method: "put",
  path: "/api/member/shelf/{id}/follow",
  summary: "Choose whether to be told by mail what others say about a thing",
  who: "member",
  params: Id,
  body: z.object({ follows: z.boolean() }),
  answer: Done,
});
