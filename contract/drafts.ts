import { FAMILY_LANGUAGES } from "@amigo/language/families";
import * as z from "zod";
import { endpoint, FILE_BODY, LONG_BODY } from "./endpoint";
import { wrong } from "./wrong";

/** The largest file that a mail carries, in octets; what is larger goes on a shelf. */
export const LARGEST_FILE = 15 * 1024 * 1024;

/** Somebody or some list that a mail is to go to, as it stands in the composer. */
export const Target = z
  .object({
    kind: z.enum(["list", "private", "person", "address"]),
    /** The list's or person's id, or the address itself. */
    id: z.string().max(254),
    name: z.string().max(300),
    /** For a child: whether the guardians are meant, as is usual, or the child. */
    whom: z.enum(["guardians", "themselves"]).optional(),
  })
  .meta({ id: "Target" });
export type Target = z.output<typeof Target>;

const Targets = z.array(Target).max(60).default([]);

/** Everything that is put together in the composer. */
export const DraftContent = z
  .object({
    to: Targets,
    cc: Targets,
    bcc: Targets,
    /** Addresses of members that are left out this once. */
    leftOut: z.array(z.string().max(254)).max(2000).default([]),
    /** The post that it answers. */
    answers: z.uuid().nullable().default(null),
    subject: z.string().max(300).default(""),
    html: z.string().max(500_000).default(""),
    /** The language of the text; empty for the usual one of families. */
    language: z.enum(["", ...FAMILY_LANGUAGES]).default(""),
    /** The same in further languages. Each recipient gets their own first. */
    versions: z
      .array(
        z.object({
          language: z.enum(FAMILY_LANGUAGES),
          subject: z.string().max(300).default(""),
          html: z.string().max(500_000).default(""),
        }),
      )
      .max(FAMILY_LANGUAGES.length - 1)
      .default([]),
    /** From whom it comes: oneself, or the list. */
    as: z.enum(["oneself", "list"]).default("oneself"),
    copyToMe: z.boolean().default(false),
    /** Whether those in To and Cc see each other's addresses. */
    shown: z.boolean().default(false),
  })
  .meta({ id: "DraftContent" });
export type DraftContent = z.output<typeof DraftContent>;

const File = z.object({
  id: z.string(),
  name: z.string(),
  type: z.string(),
  size: z.number().int(),
  cid: z.string(),
});
export type DraftFile = z.output<typeof File>;

export const Draft = z
  .object({
    id: z.string(),
    content: DraftContent,
    files: z.array(File),
    sendAt: z.string().nullable(),
    changedAt: z.string(),
    fault: z.string(),
  })
  .meta({ id: "Draft" });
export type Draft = z.output<typeof Draft>;

/** What a draft would reach, in figures, and what is to be asked before it is sent. */
export const DraftReckoning = z
  .object({
    addresses: z.number().int(),
    families: z.number().int(),
    unreachable: z.number().int(),
    twice: z.number().int(),
    /** Who gets it in a digest, or nothing for now, by their own choice. */
    digests: z.number().int(),
    resting: z.number().int(),
    /** Addresses to which mail has stopped because it comes back. */
    stopped: z.number().int(),
    refused: z.array(z.string()),
    notes: z.array(z.string()),
    /** Languages of recipients in which the mail has no text yet, with how many addresses are known to read each. */
    missingLanguages: z.array(
      z.object({ language: z.enum(FAMILY_LANGUAGES), addresses: z.number().int() }),
    ),
    /** The language of a text for which none is chosen. */
    usualLanguage: z.enum(FAMILY_LANGUAGES),
    asks: z.array(z.object({ id: z.string(), sentence: z.string() })),
  })
  .meta({ id: "DraftReckoning" });
export type DraftReckoning = z.output<typeof DraftReckoning>;

export const Template = z
  .object({
    id: z.string(),
    name: z.string(),
    subject: z.string(),
    html: z.string(),
    shared: z.boolean(),
    mine: z.boolean(),
  })
  .meta({ id: "Template" });
export type Template = z.output<typeof Template>;

/** Something that completes what is typed into To. */
export const TargetHit = Target.extend({ detail: z.string(), many: z.boolean() }).meta({
  id: "TargetHit",
});
export type TargetHit = z.output<typeof TargetHit>;

const Id = z.object({ id: z.uuid() });
const Done = z.object({ done: z.literal(true) });

export const getDrafts = endpoint({
  method: "get",
  path: "/api/drafts",
  summary: "One's own drafts and mails that wait for their time",
  who: "write to lists",
  answer: z.array(Draft),
});
export const getDraft = endpoint({
  method: "get",
  path: "/api/drafts/{id}",
  summary: "One of one's own drafts",
  who: "write to lists",
  params: Id,
  answer: Draft,
});
export const putDraft = endpoint({
  method: "put",
  path: "/api/drafts/{id}",
  summary: "Store a draft as it is being written; its writer chooses the id",
  who: "write to lists",
  params: Id,
  most: LONG_BODY,
  body: DraftContent,
  answer: Draft,
});
export const deleteDraft = endpoint({
  method: "delete",
  path: "/api/drafts/{id}",
  summary: "Remove a draft",
  who: "write to lists",
  params: Id,
  answer: Done,
});
export const postDraftShelve = endpoint({
  method: "post",
  path: "/api/drafts/{id}/shelve",
  summary: "Put files on the shelves of the lists that a draft goes to, instead of attaching them",
  who: "write to lists",
  params: Id,
  body: z.object({
    /** Files of the draft, which it then no longer has. */
    files: z.array(z.uuid()).max(20).default([]),
    /** Files that have come piece by piece. */
    uploads: z
      .array(z.object({ id: z.uuid(), name: z.string().min(1).max(200) }))
      .max(20)
      .default([]),
  }),
  answer: z.object({
    /** What they are now, to be linked in the text. */
    things: z.array(z.object({ id: z.string(), title: z.string(), link: z.string() })),
  }),
});
export const postDraftFile = endpoint({
  method: "post",
  path: "/api/drafts/{id}/files",
  summary: "Add a file or picture to a draft",
  who: "write to lists",
  params: Id,
  bodyType: "form",
  most: FILE_BODY,
  body: z.object({
    file: z
      .instanceof(globalThis.File, { message: wrong("input.chooseAFile") })
      .meta({ type: "string", format: "binary" }),
    inline: z.enum(["yes", "no"]).default("no"),
  }),
  answer: File,
});
export const deleteDraftFile = endpoint({
  method: "delete",
  path: "/api/drafts/{id}/files/{file}",
  summary: "Take a file off a draft",
  who: "write to lists",
  params: z.object({ id: z.uuid(), file: z.uuid() }),
  answer: Done,
});
export const postReckonDraft = endpoint({
  method: "post",
  path: "/api/drafts/reckon",
  summary: "How many addresses and families a mail would reach, and what to ask before it is sent",
  who: "write to lists",
  most: LONG_BODY,
  body: z.object({ content: DraftContent, files: z.number().int().min(0).default(0) }),
  answer: DraftReckoning,
});
export const postPreview = endpoint({
  method: "post",
  path: "/api/drafts/{id}/preview",
  summary: "A draft as one recipient gets it",
  who: "write to lists",
  params: Id,
  most: LONG_BODY,
  body: z.object({ address: z.string().max(254).default("") }),
  answer: z.object({
    /** Whose copy it is. */ shownTo: z.string(),
    subject: z.string(),
    from: z.string(),
    to: z.string(),
    html: z.string(),
    text: z.string(),
    recipients: z.array(z.object({ address: z.string(), name: z.string() })),
  }),
});
export const postSendDraft = endpoint({
  method: "post",
  path: "/api/drafts/{id}/send",
  summary: "Send a draft, now or at a time, or only to oneself as a test",
  who: "write to lists",
  params: Id,
  most: LONG_BODY,
  body: z.object({
    how: z.enum(["now", "later", "test"]),
    at: z.iso.datetime({ offset: true }).optional(),
    asked: z.array(z.string()).default([]),
  }),
  answer: z.object({
    post: z.string().nullable(),
    addresses: z.number().int(),
    outcome: z.enum(["goes out", "held", "waits", "test"]),
    leavesAt: z.string().nullable(),
  }),
});
export const postUnplan = endpoint({
  method: "post",
  path: "/api/drafts/{id}/unplan",
  summary: "Cancel the sending time of a planned mail; it is a draft again",
  who: "write to lists",
  params: Id,
  answer: Draft,
});
export const getTargets = endpoint({
  method: "get",
  path: "/api/targets",
  summary: "What a text typed into To can mean: people, lists, private lists, an address",
  who: "write to lists",
  query: z.object({ q: z.string().max(254) }),
  answer: z.array(TargetHit),
});
export const getTargetMembers = endpoint({
  method: "get",
  path: "/api/targets/{id}",
  summary: "Who is on a list that one writes to",
  who: "write to lists",
  params: Id,
  answer: z.array(z.object({ address: z.string(), name: z.string() })),
});
export const getTemplates = endpoint({
  method: "get",
  path: "/api/templates",
  summary: "Templates for mails",
  who: "write to lists",
  answer: z.array(Template),
});
export const postTemplate = endpoint({
  method: "post",
  path: "/api/templates",
  summary: "Store a template for mails",
  who: "write to lists",
  most: LONG_BODY,
  body: z.object({
    name: z.string().trim().min(1, wrong("input.giveItAName")).max(80),
    subject: z.string().max(300),
    html: z.string().max(200_000),
    shared: z.boolean().default(false),
  }),
  answer: Template,
});
export const deleteTemplate = endpoint({
  method: "delete",
  path: "/api/templates/{id}",
  summary: "Remove a template",
  who: "write to lists",
  params: Id,
  answer: Done,
});
