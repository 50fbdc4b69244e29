import { z } from "zod";
import { LIST_POINTS } from "@amigo/core/lists/listPoint";
import { ADDING } from "@amigo/core/lists/recipe";
import { PROOFS } from "@amigo/core/posting/mailToJudge";
import { LIST_KINDS, RULE_IDS } from "@amigo/core/posting/rules/rule";
import { RulesShape } from "./edits";
import { endpoint, LONG_BODY } from "./endpoint";
import { HowOften } from "./member";
import { wrong } from "./wrong";
import { CountedNumber } from "./countedNumber";

export const ListPage = z
  .object({
    id: z.string(),
    name: z.string(),
    address: z.string(),
    title: z.string(),
    key: z.string(),
    /** Old names that still lead here, each with its last day. */
    aliases: z.array(z.object({ name: z.string(), until: z.string() })),
    description: z.string(),
    /** Short names by which it is found, and the asker's own. */
    short: z.string(),
    ownShort: z.string(),
    /** Whether the asker is told by mail when somebody was added. */
    watching: z.boolean(),
    cohort: z.string(),
    site: z.string(),
    season: z.string(),
    state: z.enum(["open", "closed", "season over"]),
    /** The list that has taken its place in the current season. */
    successor: z.object({ id: z.string(), title: z.string(), address: z.string() }).nullable(),
    recipe: z.object({ id: z.number().int(), name: z.string() }).nullable(),
    audience: z.string(),
    audienceSentence: z.string(),
    /** The preset's id and name. */
    preset: z.object({ id: z.string(), name: z.string() }),
    kind: z.enum(LIST_KINDS),
    rules: RulesShape,
    /** What is to be said beside a rule: the house rule that keeps it from what was chosen, or who has allowed it until when. */
    notes: z.array(z.object({ rule: z.enum(RULE_IDS), sentence: z.string() })),
    /** What is wrong between its rules, in sentences. */
    broken: z.array(z.string()),
    adding: z.enum(ADDING),
    /** The points in which it stands apart from its recipe, with how the interface calls them. */
    apart: z.array(z.object({ point: z.enum(LIST_POINTS), words: z.string() })),
    /** What the convention would call it, where it is called otherwise. */
    breach: z.object({ sentence: z.string(), proposal: z.string() }).nullable(),
    asked: z.number().int(),
    members: z.number().int(),
    /** The people whom its addresses reach, and their families. */
    people: z.number().int(),
    families: z.number().int(),
    unreachable: z.array(z.object({ name: z.string(), because: z.string() })),
    joins: z.number().int(),
    leaves: z.number().int(),
    leads: z.array(z.string()),
    helpers: z.array(z.string()),
    /** What the asker may do with it. */
    may: z.object({
      change: z.boolean(),
      add: z.boolean(),
      decide: z.boolean(),
      /** Posts, journal and who is kept on and off; else the members alone, where the rules show them to the staff. */ see: z.boolean(),
    }),
    /** Outside addresses and askers who wait until a lead agrees. */
    waiting: z.array(
      z.object({
        id: z.string(),
        address: z.string(),
        name: z.string(),
        by: z.string(),
        reason: z.string(),
        at: z.string(),
      }),
    ),
    /** What somebody has asked a coordinator for this list. */
    requests: z.array(
      z.object({ id: z.string(), sentence: z.string(), by: z.string(), at: z.string() }),
    ),
  })
  .meta({ id: "ListPage" });
export type ListPage = z.output<typeof ListPage>;

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

export const ListHit = z
  .object({
    id: z.string(),
    name: z.string(),
    title: z.string(),
    address: z.string(),
    members: z.number().int(),
  })
  .meta({ id: "ListHit" });
export type ListHit = z.output<typeof ListHit>;

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

const Id = z.object({ id: z.uuid() });

export const findLists = endpoint({
  method: "get",
  path: "/api/lists",
  summary: "Lists that the asker may write to, by the start of any word of their names",
  who: "write to lists",
  query: z.object({ q: z.string().max(100).default("") }),
  answer: z.array(ListHit),
});
export const getList = endpoint({
  method: "get",
  path: "/api/lists/{id}",
  summary: "One list with its counts, rules and leads",
  who: "see lists",
  params: Id,
  answer: ListPage,
});
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
export const getListJournal = endpoint({
  method: "get",
  path: "/api/lists/{id}/journal",
  summary: "What was done with a list, newest first",
  who: "see lists",
  params: Id,
  answer: z.array(
    z.object({ id: z.number().int(), at: z.string(), actor: z.string(), sentence: z.string() }),
  ),
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
export const postAgree = endpoint({
  method: "post",
  path: "/api/lists/{id}/agree",
  summary: "Accept or decline addresses that wait for a lead",
  who: "keep on lists",
  params: Id,
  most: LONG_BODY,
  body: z.object({ ids: z.array(z.uuid()).min(1).max(500), agree: z.boolean() }),
  answer: z.object({ members: z.number().int() }),
});

/** A list among all of its season. */
export const ListLine = z
  .object({
    id: z.string(),
    key: z.string(),
    title: z.string(),
    name: z.string(),
    site: z.string(),
    recipe: z.string(),
    members: z.number().int(),
    leads: z.array(z.string()),
    state: z.enum(["open", "closed", "season over"]),
    apart: z.boolean(),
  })
  .meta({ id: "ListLine" });
export type ListLine = z.output<typeof ListLine>;

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
export const putOwnShort = endpoint({
  method: "put",
  path: "/api/lists/{id}/own-short",
  summary: "Change a short name by which the caller alone finds a list; empty removes it",
  who: "see lists",
  params: Id,
  body: z.object({
    short: z
      .string()
      .trim()
      .toLowerCase()
      .regex(/^[a-z0-9.-]*$/, wrong("input.aShortNameHasOnlyLetters"))
      .max(30),
  }),
  answer: z.object({ short: z.string() }),
});
export const getAllLists = endpoint({
  method: "get",
  path: "/api/lists/all",
  summary: "Every list that the asker may see, of the current season or of a past one",
  who: "see lists",
  query: z.object({ season: z.string().max(20).default("") }),
  answer: z.object({
    seasons: z.array(z.object({ label: z.string(), current: z.boolean() })),
    lists: z.array(ListLine),
  }),
});
