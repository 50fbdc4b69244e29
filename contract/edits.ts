import * as z from "zod";
import { ADDING, EACH } from "@amigo/core/lists/recipe";
import { ALL_INVARIANTS } from "@amigo/core/posting/invariants/allInvariants";
import { LIST_KINDS, RULE_IDS } from "@amigo/core/posting/rules/rule";
import { LIST_POINTS } from "@amigo/core/lists/listPoint";
import { endpoint, LONG_BODY } from "./endpoint";
import { GuardLine, Totals } from "./rounds";
import { wrong } from "./wrong";
import { SOME_RULES, PresetShape } from "./rulesShapes";

const Day = z.union([z.iso.date(wrong("input.writeTheDay")), z.literal("")]);

const Passed = z.record(z.string(), z.number().int()).default({});

export const RecipeShape = z
  .object({
    name: z.string().trim().min(1, wrong("input.giveTheRecipeAName")).max(80),
    label: z.string().trim().min(1, wrong("input.giveItsColumnAName")).max(30),
    keepsCase: z.boolean().optional(),
    position: z.number().int().min(0).max(1000),
    each: z.enum(EACH),
    condition: z.string().trim().max(500),
    audience: z.string().trim().min(1, wrong("input.sayWhoBelongsOnItsLists")).max(2000),
    pattern: z.string().trim().min(1, wrong("input.giveANamingPattern")).max(120),
    preset: z.string().max(60),
    leads: z.string().max(2000),
    helpers: z.string().max(2000).optional(),
    adding: z.enum(ADDING),
    ...SOME_RULES,
    season: z.enum(["every season", "this season only"]),
  })
  .meta({ id: "RecipeValue" });

const Points = z.partialRecord(z.enum(LIST_POINTS), z.union([z.string().max(5000), z.null()]));

/** What somebody wants to be otherwise about lists; `null` takes a point back to what the recipe says. */
export const EditShape = z
  .discriminatedUnion("what", [
    z.object({
      what: z.literal("recipe"),
      recipe: z.number().int().min(1).max(100_000),
      value: z.union([RecipeShape, z.null()]),
      aliasUntil: Day,
    }),
    z.object({
      what: z.literal("lists"),
      lists: z
        .array(
          z.object({
            key: z.string().min(1).max(300),
            points: Points,
            /** Addresses to keep on it by hand. */ keep: z
              .array(z.string().max(254))
              .max(5000)
              .default([]),
          }),
        )
        .min(1, wrong("input.chooseAList"))
        .max(5000),
      aliasUntil: Day,
    }),
    z.object({
      what: z.literal("names"),
      patterns: z.record(z.string().regex(/^\d+$/), z.string().max(120)),
      shorts: z.record(
        z.string().max(200),
        z.union([
          z
            .string()
            .regex(/^[a-z0-9]([a-z0-9.-]*[a-z0-9])?$/, wrong("input.aShortFormHasSmallLetters"))
            .max(30),
          z.null(),
        ]),
      ),
      names: z.record(z.string().max(300), z.string().max(64)),
      aliasUntil: Day,
    }),
    z.object({
      what: z.literal("house"),
      bounds: z.record(
        z
          .string()
          .regex(
            new RegExp(`^(${LIST_KINDS.join("|")}) (${RULE_IDS.join("|")})$`),
            wrong("input.thereIsNoSuchHouseRule"),
          ),
        z.union([z.object({ allowed: z.string().max(300), usual: z.string().max(100) }), z.null()]),
      ),
      invariants: z.record(
        z.string().regex(new RegExp(`^(${ALL_INVARIANTS.map(({ id }) => id).join("|")})$`)),
        z.union([z.literal("off"), z.null()]),
      ),
      presets: z.record(z.string().regex(/^[a-z0-9-]{1,60}$/), z.union([PresetShape, z.null()])),
      aliasUntil: Day,
    }),
  ])
  .meta({ id: "Edit" });

export type EditWanted = z.input<typeof EditShape>;

export const ListDeltaShape = z.object({
  key: z.string(),
  title: z.string(),
  what: z.enum(["made", "opened", "closed", "renamed", "changed"]),
  before: z.string(),
  after: z.string(),
  points: z.array(z.string()),
  breaks: z.array(z.string()),
  joins: z.number().int(),
  leaves: z.number().int(),
});

/** What an edit would do today. */
export const EditPlan = z
  .object({
    version: z.number().int(),
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
    lists: z.array(ListDeltaShape),
  })
  .meta({ id: "EditPlan" });

export type EditPlan = z.output<typeof EditPlan>;

export const EditDone = z
  .object({
    round: z.number().int(),
    lists: z.number().int(),
    listsMade: z.number().int(),
    listsClosed: z.number().int(),
    joins: z.number().int(),
    leaves: z.number().int(),
  })
  .meta({ id: "EditDone" });

export type EditDone = z.output<typeof EditDone>;

/** What somebody needs to make or change a list, within what they may. */
export const Making = z
  .object({
    staff: z.array(z.object({ id: z.string(), name: z.string() })),
    /** The asker as one of the staff. */
    self: z.string(),
    recipes: z.array(
      z.object({ id: z.number().int(), name: z.string(), each: z.enum(EACH), leads: z.string() }),
    ),
    presets: z.array(
      z.object({
        id: z.string(),
        name: z.string(),
        what: z.string(),
        own: z.boolean(),
        rules: z.partialRecord(z.enum(RULE_IDS), z.string()),
      }),
    ),
    /** The house's bounds by kind and rule, where they are other than the widest. */
    bounds: z.record(z.string(), z.object({ allowed: z.string(), usual: z.string() })),
    invariantsOff: z.array(z.string()),
    insideDomains: z.array(z.string()),
    listDomain: z.string(),
    /** Whether the asker makes lists of any people and names, or of their own people and leads them. */
    everything: z.boolean(),
  })
  .meta({ id: "Making" });

export type Making = z.output<typeof Making>;

export const getMaking = endpoint({
  method: "get",
  path: "/api/making",
  summary: "What is needed to make or change a list: staff, presets, house rules",
  who: "change lists",
  answer: Making,
});

export const postEditPlan = endpoint({
  method: "post",
  path: "/api/edits/plan",
  summary: "What an edit of recipes, lists or names would do",
  who: "change lists",
  most: LONG_BODY,
  body: z.object({ edit: EditShape }),
  answer: EditPlan,
});

export const postEdit = endpoint({
  method: "post",
  path: "/api/edits",
  summary: "Edit recipes, lists or names, as a round that can be undone",
  who: "change lists",
  most: LONG_BODY,
  body: z.object({ edit: EditShape, version: z.number().int(), passed: Passed }),
  answer: EditDone,
  long: true,
});
