import * as z from "zod";
import { endpoint, LONG_BODY } from "./endpoint";
import { wrong } from "./wrong";
import { EditPlan, EditDone } from "./edits";

/** How the next season begins. */
export const SeasonWanted = z
  .object({
    label: z
      .string()
      .trim()
      .regex(/^\d{4}-\d{2}$/, wrong("input.writeTheSeasonLike202627")),
    /** What becomes of each class, team and committee: its name in the new season, or null to drop it; and where its students go. */
    cohorts: z
      .array(
        z.object({
          key: z.string(),
          name: z.union([z.string().trim().min(1).max(200), z.null()]),
          students: z.string().max(300),
        }),
      )
      .max(5000),
    /** Whether students go up a level, stay as they are, or are left for the new roster to place. */
    students: z.enum(["one level up", "as they are", "left for the roster"]),
  })
  .meta({ id: "SeasonWanted" });

export type SeasonWanted = z.output<typeof SeasonWanted>;

export const SeasonPlan = EditPlan.extend({
  closes: z.number().int(),
  students: z.number().int(),
  placed: z.number().int(),
}).meta({ id: "SeasonPlan" });

export type SeasonPlan = z.output<typeof SeasonPlan>;

export const getNextSeason = endpoint({
  method: "get",
  path: "/api/seasons/next",
  summary: "How the next season would begin, as Amigo proposes it",
  who: "change the house",
  answer: z.object({
    current: z.string(),
    wanted: SeasonWanted,
    cohorts: z.array(
      z.object({
        key: z.string(),
        name: z.string(),
        kind: z.string(),
        site: z.string(),
        students: z.number().int(),
      }),
    ),
  }),
});

export const postSeasonPlan = endpoint({
  method: "post",
  path: "/api/seasons/plan",
  summary: "What opening the next season would do",
  who: "change the house",
  most: LONG_BODY,
  body: SeasonWanted,
  answer: SeasonPlan,
});

export const postSeason = endpoint({
  method: "post",
  path: "/api/seasons",
  summary: "Open the next season and close the lists of this one",
  who: "change the house",
  most: LONG_BODY,
  body: z.object({ wanted: SeasonWanted, version: z.number().int() }),
  answer: EditDone,
  long: true,
});
