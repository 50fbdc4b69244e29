import * as z from "zod";
import { endpoint } from "./endpoint";
import { CountedNumber } from "./countedNumber";

export const CauseLine = z
  .object({
    position: z.number().int(),
    /** What it is called by in decisions: the same when the round is made again, where its position may be another. */
    key: z.string(),
    kind: z.string(),
    title: z.string(),
    detail: z.string(),
    group: z.string(),
    joins: z.number().int(),
    leaves: z.number().int(),
    replaced: z.number().int(),
    lists: z.number().int(),
    unreachable: z.boolean(),
    decision: z.enum(["accepted", "held"]),
  })
  .meta({ id: "CauseLine" });
export type CauseLine = z.output<typeof CauseLine>;

/** The section of an outline in which new classes stand together with everybody who joins them. */
export const CLASSES = "classes";

/** As long as a name can be that a cell of a sheet holds, with what a key has before it, in characters. */
const Named = z.string().max(33_000);

/** Which causes of a round are meant; what is left out means all. */
export const CauseChoice = z.object({
  /** The key of a list that they touch. */
  list: Named.optional(),
  /** The class they belong to; empty for those of no class. */
  group: Named.optional(),
  kind: z.string().max(100).optional(),
  /** The name of a source from which they come. */
  source: Named.optional(),
  /** The section of the outline in which they stand: a kind, or `classes`. */
  section: z.string().max(100).optional(),
});
export type CauseChoice = z.output<typeof CauseChoice>;

const Counted = {
  count: z.number().int(),
  accepted: z.number().int(),
};

/** What the causes of a round can be chosen by. */
export const RoundChoices = z
  .object({
    /** What the lists that they touch are called, by their keys. */
    lists: z.record(z.string(), z.string()),
    groups: z.array(z.string()),
    kinds: z.array(z.string()),
    /** The names of sources. */
    sources: z.array(z.string()),
  })
  .meta({ id: "RoundChoices" });
export type RoundChoices = z.output<typeof RoundChoices>;

/** The causes of a round by section, counted. A section of many is counted by class as well. */
export const RoundOutline = z
  .object({
    shown: z.number().int(),
    held: z.number().int(),
    sections: z.array(
      z.object({
        /** A kind; `classes` for new classes together with everybody who joins them, where many do. */
        key: z.string(),
        ...Counted,
        classes: z
          .array(
            z.object({
              /** Empty for those of no class. */
              name: z.string(),
              ...Counted,
              students: z.number().int(),
              /** Causes that are neither a new class nor a student who joined. */
              others: z.number().int(),
              unreachable: z.number().int(),
              joins: z.number().int(),
              leaves: z.number().int(),
              replaced: z.number().int(),
              /** Guardians who come onto a list, and lists that are new; 0 but in the outline of a whole round in which many join. */
              guardians: z.number().int(),
              newLists: z.number().int(),
            }),
          )
          .nullable(),
      }),
    ),
  })
  .meta({ id: "RoundOutline" });
export type RoundOutline = z.output<typeof RoundOutline>;
export type OutlineClass = NonNullable<RoundOutline["sections"][number]["classes"]>[number];

const EvidenceCell = z.object({
  label: z.string(),
  text: z.string(),
  column: z.number().int(),
  meaning: z.string(),
  mark: z.enum(["", "gone", "new"]),
});

export const CausePage = z
  .object({
    position: z.number().int(),
    key: z.string(),
    kind: z.string(),
    group: z.string(),
    unreachable: z.boolean(),
    sentence: z.string(),
    about: z.string(),
    history: z.string(),
    decision: z.enum(["accepted", "held"]),
    evidence: z.array(
      z.object({
        source: z.string(),
        readAt: z.string(),
        row: z.number().int(),
        when: z.enum(["before", "now"]),
        reading: z.string(),
        sheet: z.number().int(),
        sheetName: z.string(),
        cells: z.array(EvidenceCell),
      }),
    ),
    changes: z.array(
      z.object({
        list: z.string(),
        listId: z.string().nullable(),
        kind: z.enum(["joins", "leaves", "replaced"]),
        address: z.string(),
        instead: z.string().nullable(),
        person: z.string(),
      }),
    ),
  })
  .meta({ id: "CausePage" });
export type CausePage = z.output<typeof CausePage>;

const Number = z.object({ number: CountedNumber });

export const getChoices = endpoint({
  method: "get",
  path: "/api/rounds/{number}/choices",
  summary: "What the causes of a round can be chosen by: lists, classes, kinds, sources",
  who: "see rounds",
  params: Number,
  answer: RoundChoices,
});
export const getOutline = endpoint({
  method: "get",
  path: "/api/rounds/{number}/outline",
  summary: "The causes of a round by section and class, counted",
  who: "see rounds",
  params: Number,
  query: CauseChoice.omit({ section: true }),
  answer: RoundOutline,
});
export const getCauses = endpoint({
  method: "get",
  path: "/api/rounds/{number}/causes",
  summary: "Causes of a round in their order, a page at a time",
  who: "see rounds",
  params: Number,
  query: CauseChoice.extend({
    /** The position after which the page begins. */
    after: CountedNumber.optional(),
    limit: z.coerce.number().int().min(1).max(500).default(100),
  }),
  answer: z.object({
    causes: z.array(CauseLine),
    /** Where the next page begins after, or null where this is the last. */
    next: z.number().int().nullable(),
  }),
});
export const getCause = endpoint({
  method: "get",
  path: "/api/rounds/{number}/causes/{position}",
  summary: "One cause with its evidence and its list changes",
  who: "see rounds",
  params: Number.extend({ position: CountedNumber }),
  answer: CausePage,
});
