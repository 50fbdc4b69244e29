import * as z from "zod";
import { LIST_POINTS } from "@amigo/core/lists/listPoint";
import { ADDING } from "@amigo/core/lists/recipe";
import { LIST_KINDS, RULE_IDS } from "@amigo/core/posting/rules/rule";
import { RulesShape } from "./rulesShapes";
import { endpoint, LONG_BODY } from "./endpoint";
import { wrong } from "./wrong";

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
    /** The note beside a rule: the house rule that keeps it from what was chosen, or who has allowed it until when. */
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

export const Id = z.object({ id: z.uuid() });

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
