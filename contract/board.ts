import * as z from "zod";
import { endpoint } from "./endpoint";

/** A place for a list, and the list there with its difference to the roster: `+joins −leaves` of the open round. */
export const BoardCell = z
  .object({
    /** The key of the list that is or can be here. */
    key: z.string(),
    list: z.string().nullable(),
    name: z.string(),
    count: z.number().int(),
    joins: z.number().int(),
    leaves: z.number().int(),
    /** Families that it can't reach. */
    unreachable: z.number().int(),
    leads: z.array(z.string()),
    mine: z.boolean(),
    /** That it was closed by hand. */
    closed: z.boolean(),
  })
  .meta({ id: "BoardCell" });

export const BoardRow = z
  .object({
    cohort: z.number().int(),
    name: z.string(),
    kind: z.string(),
    coach: z.string(),
    levels: z.string(),
    students: z.number().int(),
    reached: z.number().int(),
    cells: z.array(BoardCell),
  })
  .meta({ id: "BoardRow" });

/** A list outside the grid. */
export const BoardList = z
  .object({
    list: z.string(),
    key: z.string(),
    title: z.string(),
    name: z.string(),
    count: z.number().int(),
    joins: z.number().int(),
    leaves: z.number().int(),
    leads: z.array(z.string()),
    mine: z.boolean(),
  })
  .meta({ id: "BoardList" });

export const Board = z
  .object({
    /** Recipes of one label share a column. */
    columns: z.array(z.object({ label: z.string() })),
    sites: z.array(z.object({ name: z.string(), code: z.string(), rows: z.array(BoardRow) })),
    others: z.array(BoardList),
    lists: z.number().int(),
    outOfStep: z.number().int(),
    openCauses: z.number().int(),
    lastReading: z.object({ source: z.string(), at: z.string() }).nullable(),
    hasRound: z.boolean(),
  })
  .meta({ id: "Board" });
export type Board = z.output<typeof Board>;
export type BoardRow = z.output<typeof BoardRow>;
export type BoardCell = z.output<typeof BoardCell>;
export type BoardList = z.output<typeof BoardList>;

export const getBoard = endpoint({
  method: "get",
  path: "/api/board",
  summary: "Classes by site, lists by recipe, each with its count and its difference",
  who: "see the board",
  answer: Board,
});
