import { z } from "zod";
import { endpoint } from "./endpoint";

/** A list with its difference to the roster: `+joins −leaves` of the open round. */
export const BoardCell = z.object({
  recipe: z.number().int(),
  list: z.string().nullable(),
  name: z.string(),
  count: z.number().int(),
  joins: z.number().int(),
  leaves: z.number().int(),
}).meta({ id: "BoardCell" });

export const BoardRow = z.object({
  cohort: z.number().int(),
  name: z.string(),
  kind: z.string(),
  coach: z.string(),
  levels: z.string(),
  students: z.number().int(),
  reached: z.number().int(),
  cells: z.array(BoardCell),
}).meta({ id: "BoardRow" });

export const Board = z.object({
  recipes: z.array(z.object({ id: z.number().int(), label: z.string() })),
  sites: z.array(z.object({ name: z.string(), code: z.string(), rows: z.array(BoardRow) })),
  lists: z.number().int(),
  outOfStep: z.number().int(),
  openCauses: z.number().int(),
  lastReading: z.object({ source: z.string(), at: z.string() }).nullable(),
  hasRound: z.boolean(),
}).meta({ id: "Board" });
export type Board = z.output<typeof Board>;
export type BoardRow = z.output<typeof BoardRow>;
export type BoardCell = z.output<typeof BoardCell>;

const RulePart = z.object({ text: z.string(), choice: z.boolean() });

export const ListPage = z.object({
  id: z.string(),
  name: z.string(),
  address: z.string(),
  title: z.string(),
  cohort: z.string(),
  site: z.string(),
  season: z.string(),
  recipe: z.string().nullable(),
  preset: z.string(),
  members: z.number().int(),
  families: z.number().int(),
  unreachable: z.array(z.object({ name: z.string(), because: z.string() })),
  joins: z.number().int(),
  leaves: z.number().int(),
  leads: z.array(z.string()),
  rules: z.array(z.array(RulePart)),
}).meta({ id: "ListPage" });
export type ListPage = z.output<typeof ListPage>;

export const Member = z.object({
  address: z.string(),
  people: z.array(z.object({ name: z.string(), because: z.string(), where: z.string() })),
  since: z.string(),
  /** That somebody keeps it on by hand, in words; empty where the audience alone decides. */
  kept: z.string(),
}).meta({ id: "Member" });

/** An address that somebody keeps on or off a list, whatever the sheets say. */
export const Kept = z.object({ address: z.string(), side: z.enum(["on", "off"]), reason: z.string(), by: z.string(), at: z.string(), lastDay: z.string() }).meta({ id: "Kept" });
export type Kept = z.output<typeof Kept>;
export type Member = z.output<typeof Member>;

export const ListHit = z.object({ id: z.string(), name: z.string(), title: z.string(), address: z.string(), members: z.number().int() }).meta({ id: "ListHit" });
export type ListHit = z.output<typeof ListHit>;

export const VerdictAnswer = z.object({ outcome: z.enum(["goes out", "returned"]), who: z.string(), reasons: z.array(z.string()) }).meta({ id: "Verdict" });

const Id = z.object({ id: z.uuid() });

export const getBoard = endpoint({ method: "get", path: "/api/board", summary: "Classes by site, lists by recipe, each with its count and its difference", who: "see the board", answer: Board });
export const findLists = endpoint({ method: "get", path: "/api/lists", summary: "Lists that the asker may write to, by the start of any word of their names", who: "write to lists", query: z.object({ q: z.string().max(100).default("") }), answer: z.array(ListHit) });
export const getList = endpoint({ method: "get", path: "/api/lists/{id}", summary: "One list with its counts, rules and leads", who: "see lists", params: Id, answer: ListPage });
export const getMembers = endpoint({ method: "get", path: "/api/lists/{id}/members", summary: "Members of a list with the reason each is on it", who: "see lists", params: Id, query: z.object({ q: z.string().max(100).default(""), from: z.coerce.number().int().min(0).default(0), on: z.union([z.iso.date(), z.literal("")]).default("") }), answer: z.object({ total: z.number().int(), members: z.array(Member) }) });
export const getKept = endpoint({ method: "get", path: "/api/lists/{id}/kept", summary: "Addresses kept on or off a list by hand", who: "see lists", params: Id, answer: z.array(Kept) });
export const postKept = endpoint({ method: "post", path: "/api/lists/{id}/kept", summary: "Keep an address on a list or off it, whatever the sheets say", who: "keep on lists", params: Id, body: z.object({ address: z.string().trim().min(1, "Type an address.").max(254), side: z.enum(["on", "off"]), reason: z.string().trim().min(1, "Give a reason; it stands beside the address.").max(300), lastDay: z.union([z.iso.date("Write the day as 2026-12-31."), z.literal("")]).default("") }), answer: z.object({ address: z.string(), member: z.boolean() }) });
export const deleteKept = endpoint({ method: "post", path: "/api/lists/{id}/let-go", summary: "Keep an address no longer: the sheets decide again", who: "keep on lists", params: Id, body: z.object({ address: z.string() }), answer: z.object({ member: z.boolean() }) });
export const getListJournal = endpoint({ method: "get", path: "/api/lists/{id}/journal", summary: "What was done with a list, newest first", who: "see lists", params: Id, answer: z.array(z.object({ id: z.number().int(), at: z.string(), actor: z.string(), sentence: z.string() })) });
export const postTry = endpoint({ method: "post", path: "/api/lists/{id}/try", summary: "What would happen to mail of an address to this list", who: "try an address", params: Id, body: z.object({ address: z.string().trim().min(1, "Type an address.").max(254), signedIn: z.boolean().default(true) }), answer: VerdictAnswer });
