import type { MeaningId } from "../sheet/meanings/meaning";
import type { PersonName } from "../sheet/splitName";
import type { ListPoint } from "../lists/listPoint";
import type { RecipeValue } from "../lists/recipe";
import type { Bound, Exemption } from "../posting/houseRules";
import type { Rules } from "../posting/rules/rule";
import type { CohortKind } from "./cohortKind";

/**
 * Where a fact was read: the reading, sheet and row (counted from 1), and what its cell holds; the
 * correction by which the cell was read otherwise than it is written. Or who told it by hand, and when.
 */
export type Origin =
  | {
      from: "row";
      source: string;
      reading: string;
      sheet: string;
      row: number;
      meaning: MeaningId;
      slot: number;
      corrected?: string;
    }
  | { from: "hand"; by: string; at: string }
  | { from: "rule"; rule: RuleOfHouse };

/** What Amigo itself adds: students' inside addresses, names by the convention, what a new season takes along. */
export type RuleOfHouse = "student-address" | "convention" | "carried over";

/** What a class, team or committee is, as the sources tell it. */
export interface CohortValue {
  name: string;
  kind: CohortKind;
  site: string;
  coach: string;
}

/** An address held on a list, or off it, by hand. `lastDay` is a calendar date, empty for no end. */
export interface KeptValue {
  side: "on" | "off";
  reason: string;
  by: string;
  lastDay: string;
}

/** Posting rules that the house has put together under a name. */
export interface PresetValue extends Partial<Rules> {
  name: string;
  what: string;
}

/**
 * One fact about a person, a cohort, a list or a recipe. `subject` is a person's id, a cohort's or list's key, or
 * `recipe:1`, `preset:…` or `house`; `ref` tells facts of one kind apart: the cohort of an enrolment, the student of a tie, the address
 * itself, the column of a detail, the point in which a list is as somebody wants it.
 */
export type Fact = { subject: string; origin: Origin } & (
  | { kind: "student" | "guardian" | "staff"; ref: ""; value: "" }
  | { kind: "name"; ref: ""; value: PersonName }
  | { kind: "number" | "level" | "site"; ref: ""; value: string }
  | { kind: "enrolment"; ref: string; value: "" }
  | { kind: "tie"; ref: string; value: string }
  | { kind: "address"; ref: string; value: "" }
  | { kind: "cohort"; ref: ""; value: CohortValue }
  | { kind: "kept"; ref: string; value: KeptValue }
  /** What a further column of a sheet says of a student; the column's title is the ref. */
  | { kind: "detail"; ref: string; value: string }
  | { kind: "recipe"; ref: ""; value: RecipeValue }
  | { kind: "list"; ref: ListPoint; value: string }
  /** An old name of a list, and the last day on which it still leads there, as a calendar date. */
  | { kind: "alias"; ref: string; value: string }
  /** The short form of a name, whose folded text the subject holds: `short:trapeze two`. */
  | { kind: "short"; ref: ""; value: string }
  /** What the house allows of a posting rule for lists of one kind: `guardians outside`. The subject is `house`. */
  | { kind: "bound"; ref: string; value: Bound }
  /** An invariant that the house does without. */
  | { kind: "invariant"; ref: string; value: "off" }
  /** Posting rules of the house's own, by their id: `preset:homework`. */
  | { kind: "preset"; ref: ""; value: PresetValue }
  /** What somebody has allowed a list beyond the house's rules, by the rule, or `convention` for its name. */
  | { kind: "exemption"; ref: string; value: Exemption }
);

export type FactKind = Fact["kind"];

/** All facts that hold at one time, by their keys. */
export type Facts = ReadonlyMap<string, Fact>;

export function factKey(fact: Pick<Fact, "subject" | "kind" | "ref">): string {
  return `${fact.subject}|${fact.kind}|${fact.ref}`;
}

/** The key of a fact by its parts; `ref` is empty for kinds of which somebody has one. */
export function keyOf(subject: string, kind: FactKind, ref = ""): string {
  return factKey({ subject, kind, ref } as Pick<Fact, "subject" | "kind" | "ref">);
}

/** Whether two values of a fact say the same. */
export function sameValue(a: Fact["value"], b: Fact["value"]): boolean {
  if (typeof a === "string" || typeof b === "string") return a === b;
  const left = new Map<string, unknown>(Object.entries(a));
  const right = Object.entries(b);
  return left.size === right.length && right.every(([name, value]) => left.get(name) === value);
}

/** The key of a cohort: its kind and folded name, so that spellings of one class meet. */
export function cohortKey(kind: CohortKind, foldedName: string): string {
  return `${kind}:${foldedName}`;
}
