import type { CohortKind } from "../facts/fact";
import type { PresetId } from "../posting/presets";

/** For what a recipe makes a list each: every class, team, committee, site or level, or one for the house in all. */
export const EACH = ["class", "team", "committee", "site", "level", "house"] as const satisfies readonly (CohortKind | "site" | "level" | "house")[];

export type Each = (typeof EACH)[number];

export const FINDABLE = ["leads", "staff"] as const;
export type Findable = (typeof FINDABLE)[number];

export const OUTSIDE = ["none", "any"] as const;
export type Outside = (typeof OUTSIDE)[number];

export const LEAVING = ["by oneself", "through a lead"] as const;
export type Leaving = (typeof LEAVING)[number];

/** How somebody comes onto a list: without a word, with its welcome, or once they have said yes. */
export const ADDING = ["quietly", "welcome", "ask"] as const;
export type Adding = (typeof ADDING)[number];

/** The rules that a list has beside its preset, from its recipe or of its own. */
export interface ListRules {
  /** `coach`, or the ids of people on the staff with spaces between; empty for nobody. */
  leads: string;
  findable: Findable;
  outside: Outside;
  leaving: Leaving;
  adding: Adding;
  welcome: string;
}

/** A standing rule that makes one list for each cohort, site or level, or one in all. */
export interface RecipeValue extends ListRules {
  name: string;
  /** What the board calls its column. */
  label: string;
  position: number;
  each: Each;
  /** Which classes and so on it is for, as a condition on name, site or coach; empty for all. */
  condition: string;
  audience: string;
  pattern: string;
  preset: PresetId;
  /** Whether the next season takes it along. */
  season: "every season" | "this season only";
}
