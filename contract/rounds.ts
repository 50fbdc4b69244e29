import * as z from "zod";
import { endpoint, LONG_BODY } from "./endpoint";
import { CountedNumber } from "./countedNumber";
import { CauseChoice } from "./causes";

export const Totals = z
  .object({
    joins: z.number().int(),
    leaves: z.number().int(),
    replaced: z.number().int(),
    lists: z.number().int(),
    accepted: z.number().int(),
    held: z.number().int(),
  })
  .meta({ id: "Totals" });

export const GuardLine = z
  .object({ id: z.string(), about: z.string(), sentence: z.string(), count: z.number().int() })
  .meta({ id: "Guard" });

export const RoundPage = z
  .object({
    number: z.number().int(),
    state: z.enum(["open", "done", "dropped"]),
    version: z.number().int(),
    openedAt: z.string(),
    closedAt: z.string().nullable(),
    closedBy: z.string().nullable(),
    sources: z.array(z.object({ name: z.string(), readAt: z.string() })),
    totals: Totals,
    guards: z.array(GuardLine),
    /** How many causes it has. */
    causes: z.number().int(),
    takesBack: z.number().int().nullable(),
    takenBackBy: z.number().int().nullable(),
    leftAlone: z.array(z.string()),
  })
  .meta({ id: "RoundPage" });
export type RoundPage = z.output<typeof RoundPage>;

export const RoundLine = z
  .object({
    number: z.number().int(),
    state: z.enum(["open", "done", "dropped"]),
    openedAt: z.string(),
    closedAt: z.string().nullable(),
    closedBy: z.string().nullable(),
    totals: Totals,
    takesBack: z.number().int().nullable(),
    takenBackBy: z.number().int().nullable(),
  })
  .meta({ id: "RoundLine" });

/** What taking a round back would do today. */
export const TakeBack = z
  .object({
    /** The first of them; `totals.accepted` counts all. */
    causes: z.array(
      z.object({
        kind: z.string(),
        title: z.string(),
        detail: z.string(),
        joins: z.number().int(),
        leaves: z.number().int(),
        replaced: z.number().int(),
      }),
    ),
    totals: Totals,
    guards: z.array(GuardLine),
    leftAlone: z.array(z.string()),
  })
  .meta({ id: "TakeBack" });
export type TakeBack = z.output<typeof TakeBack>;

const Number = z.object({ number: CountedNumber });

export const getRounds = endpoint({
  method: "get",
  path: "/api/rounds",
  summary: "Rounds, newest first",
  who: "see rounds",
  query: z.object({ before: CountedNumber.optional() }),
  answer: z.array(RoundLine),
});
export const getOpenRound = endpoint({
  method: "get",
  path: "/api/rounds/open",
  summary: "The open round, or null",
  who: "see rounds",
  answer: RoundPage.nullable(),
});
export const getRound = endpoint({
  method: "get",
  path: "/api/rounds/{number}",
  summary: "One round by its number",
  who: "see rounds",
  params: Number,
  answer: RoundPage,
});
export const postDecisions = endpoint({
  method: "post",
  path: "/api/rounds/open/decisions",
  summary: "Accept or hold causes of the open round",
  who: "decide a round",
  most: LONG_BODY,
  body: z.object({
    round: z.number().int(),
    /** The causes by their keys, or all that a choice means. */
    causes: z.union([
      z.array(z.string().max(70_000)).min(1).max(100_000),
      CauseChoice.extend({ decision: z.enum(["accepted", "held"]).optional() }),
    ]),
    decision: z.enum(["accepted", "held"]),
  }),
  answer: z.object({ version: z.number().int() }),
});
export const getTakeBack = endpoint({
  method: "get",
  path: "/api/rounds/{number}/back",
  summary: "What undoing a round would do today",
  who: "see rounds",
  params: Number,
  answer: TakeBack,
});
export const postTakeBack = endpoint({
  method: "post",
  path: "/api/rounds/{number}/back",
  summary: "Undo a round by a new one, computed against today",
  who: "decide a round",
  long: true,
  params: Number,
  body: z.object({ passed: z.record(z.string(), z.number().int()).default({}) }),
  answer: z.object({
    round: z.number().int(),
    lists: z.number().int(),
    joins: z.number().int(),
    leaves: z.number().int(),
    next: z.number().int().nullable(),
  }),
});
export const postStep = endpoint({
  method: "post",
  path: "/api/rounds/open/step",
  summary: "Bring the lists in step: carry out what is accepted, in one transaction, once",
  who: "decide a round",
  long: true,
  most: LONG_BODY,
  body: z.object({
    round: z.number().int(),
    version: z.number().int(),
    passed: z.record(z.string(), z.number().int()).default({}),
  }),
  answer: z.object({
    round: z.number().int(),
    lists: z.number().int(),
    joins: z.number().int(),
    leaves: z.number().int(),
    next: z.number().int().nullable(),
  }),
});
