import { placeKind } from "../facts/subjects";
import type { FactIndex, Person } from "../facts/factIndex";
import { fold } from "../text/fold";
import type { Condition, Test } from "./audience";

/** The columns that every house has, and what they say of a person. */
export const OWN_COLUMNS: Record<string, (person: Person, index: FactIndex) => string[]> = {
  level: ({ level }) => [level],
  number: ({ number }) => [number],
  site: ({ site }) => [site],
  surname: ({ family }) => [family],
  name: ({ given, family }) => [`${given} ${family}`],
  class: ({ cohorts }, index) =>
    [...cohorts]
      .filter((key) => placeKind(key) === "class")
      .map((key) => index.cohorts.get(key)?.name ?? ""),
  team: ({ cohorts }, index) =>
    [...cohorts]
      .filter((key) => placeKind(key) === "team")
      .map((key) => index.cohorts.get(key)?.name ?? ""),
};

/** Whether a condition holds for a person. */
export function holds(condition: Condition, person: Person, index: FactIndex): boolean {
  return satisfies(
    condition,
    (column) => OWN_COLUMNS[column]?.(person, index) ?? detailsOf(person, column),
  );
}

/** Whether a condition holds for whatever answers for its columns, each with its values; a folded column comes in. */
export function satisfies(
  condition: Condition,
  valuesOf: (column: string) => readonly string[],
): boolean {
  if (condition.op !== "test") {
    const left = satisfies(condition.left, valuesOf);
    return condition.op === "and"
      ? left && satisfies(condition.right, valuesOf)
      : left || satisfies(condition.right, valuesOf);
  }
  const values = valuesOf(fold(condition.column));
  return condition.comparison === "is not"
    ? !values.some((value) => same(value, condition.values[0] ?? ""))
    : values.some((value) => compare(condition, value));
}

function detailsOf(person: Person, column: string): string[] {
  for (const [title, value] of person.details) if (fold(title) === column) return [value];
  return [];
}

/** A number where the text is one; commas count as points. */
export function numberIn(text: string): number | undefined {
  const trimmed = text.trim().replace(",", ".");
  return /^-?\d+(\.\d+)?$/.test(trimmed) ? Number(trimmed) : undefined;
}

function same(value: string, wanted: string): boolean {
  const [left, right] = [numberIn(value), numberIn(wanted)];
  return left !== undefined && right !== undefined ? left === right : fold(value) === fold(wanted);
}

function compare({ comparison, values }: Test, value: string): boolean {
  const [first = ""] = values;
  const [left, right] = [numberIn(value), numberIn(first)];
  switch (comparison) {
    case "is":
      return same(value, first);
    case "is not":
      return !same(value, first);
    case "is one of":
      return values.some((wanted) => same(value, wanted));
    case "contains":
      return fold(value).includes(fold(first));
    default:
      break;
  }
  if (left === undefined || right === undefined) return false;
  switch (comparison) {
    case "<":
      return left < right;
    case "<=":
      return left <= right;
    case ">":
      return left > right;
    case ">=":
      return left >= right;
  }
}
