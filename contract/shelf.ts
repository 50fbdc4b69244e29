import * as z from "zod";
import { MEMBERS_MAY } from "@amigo/core/shelf/membersMay";
import { endpoint } from "./endpoint";
import { wrong } from "./wrong";

/** The largest file that a shelf takes, in octets. */
export const SHELF_FILE = 2 * 1024 * 1024 * 1024;

const Day = z.union([z.literal(""), z.iso.date()]);
const Id = z.object({ id: z.uuid() });
const Done = z.object({ done: z.literal(true) });
const Title = z.string().trim().min(1, wrong("input.giveItATitle")).max(200);
export const FileName = z.string().min(1).max(200);
/** A file that has come piece by piece before; then the body is empty. */
export const Upload = z.uuid().optional();
export const VersionPut = z.object({
  /** Which version it is now. */
  version: z.number().int(),
  /** Whether somebody else had changed the file meanwhile: both versions are kept, and this one holds. */
  besideAnother: z.boolean(),
});
const Folder = z.string().trim().max(100).default("");

/** A thing on a shelf, as those see it who look after the shelf. */
export const ShelfThing = z
  .object({
    id: z.string(),
    kind: z.enum(["file", "link"]),
    title: z.string(),
    folder: z.string(),
    link: z.string(),
    /** The file's name and size in octets, and which version of it this is. */
    name: z.string(),
    size: z.number().int(),
    version: z.number().int(),
    untilDay: z.string(),
    membersMay: z.enum(MEMBERS_MAY),
    /** Whether its file is no longer what was put there, as its checksum tells. */
    isDamaged: z.boolean(),
    /** How many comments stand beside it. */
    comments: z.number().int(),
    /** Whether its last day is over: nobody may open it any more. */
    isOver: z.boolean(),
    madeBy: z.string(),
    madeAt: z.string(),
    /** How often title, folder, last day or lists have changed: who changes them says which state they have seen. */
    changes: z.number().int(),
    /** On the shelves of which other lists it is, of those that the asker sees. */
    others: z.array(z.object({ id: z.string(), title: z.string() })),
    /** How many members may open it now, and how many of them have. */
    mayOpen: z.number().int(),
    opened: z.number().int(),
  })
  .meta({ id: "ShelfThing" });
export type ShelfThing = z.output<typeof ShelfThing>;

/** What somebody says about a thing. One that was taken out has no text, and says by whom. */
export const ShelfComment = z
  .object({
    id: z.string(),
    name: z.string(),
    at: z.string(),
    text: z.string(),
    takenOutBy: z.string(),
    /** Whether the asker may take it out. */
    mayTakeOut: z.boolean(),
  })
  .meta({ id: "ShelfComment" });
export type ShelfComment = z.output<typeof ShelfComment>;

/** A text that somebody says about a thing. */
export const CommentBody = z.object({
  text: z.string().trim().min(1, wrong("input.writeSomething")).max(5000),
  /** Whether they want to be told by mail what others say. */
  follow: z.boolean().default(false),
});

/** Who may open a thing, who has, its versions and what is said about it. */
export const ShelfDetails = z
  .object({
    /** Those who may open it now, first those who haven't. */
    openers: z.array(
      z.object({
        address: z.string(),
        name: z.string(),
        /** By which list they may, and since when. */
        why: z.string(),
        openedAt: z.string().nullable(),
      }),
    ),
    /** Those who opened it and may no longer, with why. */
    former: z.array(z.object({ address: z.string(), openedAt: z.string(), why: z.string() })),
    versions: z.array(
      z.object({
        number: z.number().int(),
        name: z.string(),
        size: z.number().int(),
        checksum: z.string(),
        by: z.string(),
        at: z.string(),
      }),
    ),
    comments: z.array(ShelfComment),
    /** Whether the asker is told by mail what others say. */
    follows: z.boolean(),
  })
  .meta({ id: "ShelfDetails" });
export type ShelfDetails = z.output<typeof ShelfDetails>;

export const ShelfLink = z.object({
  title: Title,
  link: z.url({ protocol: /^https?$/, error: wrong("input.giveTheWebAddress") }).max(1000),
  folder: Folder,
});

export const getShelf = endpoint({
  method: "get",
  path: "/api/lists/{id}/shelf",
  summary: "What a list shares with its members",
  who: "see lists",
  params: Id,
  answer: z.object({
    things: z.array(ShelfThing),
    /** Whether members may put things of their own there. */
    isOpenToMembers: z.boolean(),
  }),
});
export const putShelfOpenToMembers = endpoint({
  method: "put",
  path: "/api/lists/{id}/shelf/open-to-members",
  summary: "Let a list's members put things of their own on its shelf, or not",
  who: "write to lists",
  params: Id,
  body: z.object({ isOpenToMembers: z.boolean() }),
  answer: Done,
});
export const postShelfFile = endpoint({
  method: "post",
  path: "/api/lists/{id}/shelf/files",
  summary: "Put a file on a list's shelf; the body is the file, octet for octet",
  who: "write to lists",
  params: Id,
  query: z.object({ name: FileName, folder: Folder, upload: Upload }),
  bodyType: "octets",
  most: SHELF_FILE,
  answer: z.object({ id: z.string() }),
});
export const postShelfLink = endpoint({
  method: "post",
  path: "/api/lists/{id}/shelf/links",
  summary: "Put a link on a list's shelf",
  who: "write to lists",
  params: Id,
  body: ShelfLink,
  answer: z.object({ id: z.string() }),
});
export const postShelfNotice = endpoint({
  method: "post",
  path: "/api/lists/{id}/shelf/notice",
  summary: "Tell the list's members what is new on its shelf, by a mail with links",
  who: "write to lists",
  params: Id,
  body: z.object({
    things: z.array(z.uuid()).min(1).max(50),
    text: z.string().trim().max(2000).default(""),
    /** At once, or in everybody's next digest: that of the day, and of the week for those who chose it. */
    when: z.enum(["at once", "next digest"]).default("at once"),
    /** Sent twice with one key, it goes out once. */
    key: z.uuid(),
  }),
  answer: z.object({
    addresses: z.number().int(),
    outcome: z.enum(["goes out", "held"]),
  }),
});
export const getShelfThing = endpoint({
  method: "get",
  path: "/api/shelf/{id}",
  summary: "Who may open a thing on a shelf, who has, and its versions",
  who: "see lists",
  params: Id,
  answer: ShelfDetails,
});
export const putShelfThing = endpoint({
  method: "put",
  path: "/api/shelf/{id}",
  summary: "Change a thing on a shelf: its title, folder, last day, and the lists that share it",
  who: "write to lists",
  params: Id,
  body: z.object({
    title: Title,
    folder: Folder,
    untilDay: Day,
    membersMay: z.enum(MEMBERS_MAY).default("view"),
    /** Lists to which it is shared, of those that the asker sees; others stay. */
    lists: z.array(z.uuid()).min(1, wrong("input.chooseAtLeastOneList")).max(50),
    changes: z.number().int(),
  }),
  answer: Done,
});
export const postShelfVersion = endpoint({
  method: "post",
  path: "/api/shelf/{id}/versions",
  summary:
    "Put a new version of a file in place of the one before, which is kept; the body is the file",
  who: "write to lists",
  params: Id,
  query: z.object({
    name: FileName,
    upload: Upload,
    /** The version that was used when they looked. */
    version: z.coerce.number().int(),
  }),
  bodyType: "octets",
  most: SHELF_FILE,
  answer: VersionPut,
});
export const postShelfRestore = endpoint({
  method: "post",
  path: "/api/shelf/{id}/restore",
  summary: "Let an earlier version of a file hold again",
  who: "write to lists",
  params: Id,
  body: z.object({ version: z.number().int().min(1) }),
  answer: Done,
});
export const deleteShelfThing = endpoint({
  method: "delete",
  path: "/api/shelf/{id}",
  summary: "Take a thing off a list's shelf; off the last one, nobody may open it any more",
  who: "write to lists",
  params: Id,
  query: z.object({ list: z.uuid() }),
  answer: Done,
});
export const postShelfComment = endpoint({
  method: "post",
  path: "/api/shelf/{id}/comments",
  summary: "Say something about a thing on a shelf; its followers are told by mail",
  who: "write to lists",
  params: Id,
  body: CommentBody,
  answer: Done,
});
export const deleteShelfComment = endpoint({
  method: "delete",
  path: "/api/shelf/{id}/comments/{comment}",
  summary: "Take a comment out; that it was there stays to be seen",
  who: "write to lists",
  params: Id.extend({ comment: z.uuid() }),
  answer: Done,
});
export const putShelfFollow = endpoint({
  method: "put",
  path: "/api/shelf/{id}/follow",
  summary: "Choose whether to be told by mail what others say about a thing",
  who: "see lists",
  params: Id,
  body: z.object({ follows: z.boolean() }),
  answer: Done,
});
export const postShelfReminder = endpoint({
  method: "post",
  path: "/api/shelf/{id}/remind",
  summary: "Remind by mail those who may open a thing and haven't; twice a day at most",
  who: "write to lists",
  params: Id,
  answer: z.object({ addresses: z.number().int() }),
});
