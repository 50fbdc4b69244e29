import { z } from "zod";
import { ADDING, EACH } from "@amigo/core/lists/recipe";
import { ALL_INVARIANTS } from "@amigo/core/posting/invariants/allInvariants";
import { LIST_KINDS, RULE_IDS, type RuleId } from "@amigo/core/posting/rules/rule";
import { LIST_POINTS } from "@amigo/core/lists/listPoint";
import { endpoint, LONG_BODY } from "./endpoint";
import { GuardLine, Totals } from "./rounds";
import { wrong } from "./wrong";

const Day = z.union([z.iso.date(wrong("input.writeTheDay")), z.literal("")]);
const Passed = z.record(z.string(), z.number().int()).default({});

const RuleValue = z.string().max(5000);

/** Some of the posting rules, by their ids. */
const SOME_RULES = Object.fromEntries(RULE_IDS.map((id) => [id, RuleValue.optional()])) as Record<
  RuleId,
  z.ZodOptional<typeof RuleValue>
>;

/** All posting rules of a list as they hold. */
export const RulesShape = z
  .object(Object.fromEntries(RULE_IDS.map((id) => [id, z.string()])) as Record<RuleId, z.ZodString>)
  .meta({ id: "Rules" });

export const PresetShape = z
  .object({
    name: z.string().trim().min(1, wrong("input.giveThePresetAName")).max(60),
    what: z.string().trim().max(200),
    ...SOME_RULES,
  })
  .meta({ id: "PresetValue" });

export const RecipeShape = z
  .object({
    name: z.string().trim().min(1, wrong("input.giveTheRecipeAName")).max(80),
    label: z.string().trim().min(1, wrong("input.giveItsColumnAName")).max(30),
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

const AudienceFault = z.object({
  at: z.number().int(),
  length: z.number().int(),
  sentence: z.string(),
  proposal: z.string().nullable(),
});

/** An audience as far as it is typed. */
export const AudienceTried = z
  .object({
    faults: z.array(AudienceFault),
    /** The text read back as a sentence; empty while it is not understood. */
    sentence: z.string(),
    /** The class, site or level for which "this" was taken, where it stands for one. */
    example: z.string(),
    people: z.number().int(),
    addresses: z.number().int(),
    first: z.array(z.object({ name: z.string(), because: z.string(), reached: z.boolean() })),
    /** Ways to go on at the cursor; each takes the place of what stands from `from` to there. */
    completions: z.array(z.object({ text: z.string(), what: z.string(), from: z.number().int() })),
  })
  .meta({ id: "AudienceTried" });
export type AudienceTried = z.output<typeof AudienceTried>;

export const NameRow = z
  .object({
    key: z.string(),
    title: z.string(),
    site: z.string(),
    recipe: z.number().int().nullable(),
    /** The name now, what the patterns make, and a name that can be used. */
    now: z.string(),
    made: z.string(),
    proposal: z.string(),
    faults: z.array(z.object({ fault: z.string(), sentence: z.string() })),
  })
  .meta({ id: "NameRow" });
export type NameRow = z.output<typeof NameRow>;

export const NamesTried = z
  .object({
    rows: z.array(NameRow),
    shorts: z.array(z.object({ name: z.string(), short: z.string(), chosen: z.boolean() })),
    faults: z.array(
      z.object({
        recipe: z.number().int(),
        at: z.number().int(),
        sentence: z.string(),
        proposal: z.string().nullable(),
      }),
    ),
  })
  .meta({ id: "NamesTried" });
export type NamesTried = z.output<typeof NamesTried>;

export const NamingSettings = z
  .object({
    nameLimit: z.number().int().min(8).max(54),
    reserved: z.array(z.string().trim().toLowerCase().max(64)).max(200),
    convention: z.enum(["advises", "binds"]),
    /** What they are now; who changes them says which they have seen. */
    version: z.string().max(64),
  })
  .meta({ id: "NamingSettings" });
export type NamingSettings = z.output<typeof NamingSettings>;

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
    insideDomain: z.string(),
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
/** The names that somebody can choose from for an audience. */
export const AudienceWords = z
  .object({
    cohorts: z.array(z.object({ name: z.string(), kind: z.enum(["class", "team", "committee"]) })),
    sites: z.array(z.string()),
    levels: z.array(z.string()),
    columns: z.array(z.object({ name: z.string(), values: z.array(z.string()) })),
  })
  .meta({ id: "AudienceWords" });
export type AudienceWords = z.output<typeof AudienceWords>;

export const getAudienceWords = endpoint({
  method: "get",
  path: "/api/audiences/words",
  summary: "The classes, sites, levels and columns that an audience can name",
  who: "change lists",
  answer: AudienceWords,
});
export const postAudienceTry = endpoint({
  method: "post",
  path: "/api/audiences/try",
  summary: "Who belongs to an audience, and how it can go on",
  who: "change lists",
  body: z.object({
    text: z.string().max(2000),
    cursor: z.number().int().min(0).optional(),
    each: z.enum([...EACH, ""]).default(""),
    list: z.string().max(300).default(""),
  }),
  answer: AudienceTried,
});
export const postNamesTry = endpoint({
  method: "post",
  path: "/api/names/try",
  summary: "What every list would be called by other patterns and short forms",
  who: "see the house",
  most: LONG_BODY,
  body: z.object({
    patterns: z.record(z.string().regex(/^\d+$/), z.string().max(120)).default({}),
    shorts: z.record(z.string().max(200), z.union([z.string().max(30), z.null()])).default({}),
  }),
  answer: NamesTried,
});
export const getNaming = endpoint({
  method: "get",
  path: "/api/naming",
  summary: "The naming rules",
  who: "see the house",
  answer: NamingSettings,
});
export const putNaming = endpoint({
  method: "put",
  path: "/api/naming",
  summary: "Change the naming rules",
  who: "change the house",
  body: NamingSettings,
  answer: NamingSettings,
});
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
