import type { Message } from "@amigo/language/message";
import type { CohortKind } from "../facts/cohort";

/** Whom a group is made of. Guardians always come by their students. */
export type Who = "students" | "coaches" | "leads" | "staff";

export type SpotKind = CohortKind | "site" | "level" | "season";

/**
 * Where a group is: a class, team, committee, site, level or season. Without a kind it is whichever class, team,
 * committee or site has the name. `name` undefined stands for "this class", which a recipe fills in.
 */
export interface Spot {
  at: number;
  kind: SpotKind | undefined;
  name: string | undefined;
  /** Where a name that was written without quotes ends in the text; undefined for one in quotes. */
  until?: number;
}

export const COMPARISONS = ["is", "is not", "<", "<=", ">", ">=", "contains", "is one of"] as const;

export type Comparison = (typeof COMPARISONS)[number];

/** One comparison of a column with a value; several values for `is one of`. */
export interface Test {
  op: "test";
  at: number;
  column: string;
  comparison: Comparison;
  values: string[];
}

export type Condition = Test | { op: "and" | "or"; left: Condition; right: Condition };

/** Who belongs on a list. `at` is where a part stands in the text, counted from 0. */
export type Audience =
  | { op: "group"; at: number; who: Who; spots: Spot[]; where: Condition | undefined }
  | { op: "guardians"; at: number; of: Audience }
  | { op: "person"; at: number; name: string; hint: string }
  | { op: "union" | "both" | "except"; left: Audience; right: Audience };

/** An error in an audience text, at a position counted from 0, with a proposal where one is at hand. */
export interface AudienceFault {
  at: number;
  /** How many signs from there on it is about; 0 at the end of the text. */
  length: number;
  sentence: Message;
  /** Whether a name fits several people. */
  isAmbiguous?: true;
  proposal: string | undefined;
}

/** Names of the house that can stand somewhere in the text. */
export type NameKind = SpotKind | "cohort or site" | "person" | "column" | "value";

/** What can stand at a position: a word of the language, or a name of the house. */
export type Expected = { word: string } | { name: NameKind; column?: string };

/** Every part of an audience, itself first. */
export function* partsOf(audience: Audience): Generator<Audience> {
  yield audience;
  if (audience.op === "guardians") yield* partsOf(audience.of);
  if (audience.op === "union" || audience.op === "both" || audience.op === "except") {
    yield* partsOf(audience.left);
    yield* partsOf(audience.right);
  }
}

/** Every comparison of a condition. */
export function* testsOf(condition: Condition | undefined): Generator<Test> {
  if (condition === undefined) return;
  if (condition.op === "test") yield condition;
  else {
    yield* testsOf(condition.left);
    yield* testsOf(condition.right);
  }
}
