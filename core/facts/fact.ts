import type { CohortKind } from "./cohort";
import type { AnyFact } from "./kinds/allKinds";

/**
 * One fact about a person, a cohort, a list or a recipe. `subject` is a person's id, a cohort's or list's key, or
 * `recipe:1`, `preset:…` or `house`; `ref` tells facts of one kind apart: the cohort of an enrolment, the student of a
 * tie, the address itself, the column of a detail, the point in which a list is as somebody wants it. What each kind
 * holds stands in `kinds/`.
 */
export type Fact = AnyFact;

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
  if (a === b || typeof a === "string" || typeof b === "string") return a === b;
  const right = Object.entries(b);
  return (
    Object.keys(a).length === right.length &&
    right.every(([name, value]) => Reflect.get(a, name) === value)
  );
}

/** The key of a cohort: its kind and folded name, so that spellings of one class meet. */
export function cohortKey(kind: CohortKind, foldedName: string): string {
  return `${kind}:${foldedName}`;
}
