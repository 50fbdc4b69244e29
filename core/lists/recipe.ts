import type { Rules } from "../posting/rules/rule";
import type { CohortKind } from "../facts/cohort";

/** For what a recipe makes a list each: every class, team, committee, site or level, or one for the house in all. */
export const EACH = [
  "class",
  "team",
  "committee",
  "site",
  "level",
  "house",
] as const satisfies readonly (CohortKind | "site" | "level" | "house")[];

export type Each = (typeof EACH)[number];

/** How somebody comes onto a list: without a word, with its welcome, or once they have said yes. */
export const ADDING = ["quietly", "welcome", "ask"] as const;
export type Adding = (typeof ADDING)[number];

/** Who runs a list and how its members are added, from its recipe or of its own. */
export interface Running {
  /** `coach`, or the ids of people on the staff with spaces between; empty for nobody. */
  leads: string;
  /** The ids of people on the staff with spaces between; they write, and decide on held mail. */
  helpers: string;
  adding: Adding;
  /** One of the presets of Amigo or of the house. */
  preset: string;
}

/**
 * A standing rule that makes one list for each cohort, site or level, or one in all. Posting rules that it names go
 * before those of its preset.
 */
export interface RecipeValue extends Omit<Running, "helpers">, Partial<Rules> {
  name: string;
  /** What the board calls its column. */
  label: string;
  /** Whether titles write the column's name as it is; else with small letters, as English and Spanish do. German has nouns. */
  keepsCase?: boolean;
  position: number;
  each: Each;
  /** Which classes and so on it is for, as a condition on name, site or coach; empty for all. */
  condition: string;
  audience: string;
  pattern: string;
  helpers?: string;
  /** Whether the next season takes it along. */
  season: "every season" | "this season only";
}
