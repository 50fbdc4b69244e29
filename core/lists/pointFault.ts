import { ruleFault } from "../posting/rules/allRules";
import { isRule, POINT_WORDS, type ListPoint } from "./listPoint";
import { ADDING } from "./recipe";

const LONGEST: Partial<Record<ListPoint, number>> = {
  title: 120,
  description: 500,
  short: 120,
  audience: 2000,
};

/** Who and what the house knows, that a point of a list may name. */
export interface PointsOf {
  isStaff(id: string): boolean;
  isPreset(id: string): boolean;
}

/**
 * What is wrong with a value for a point of a list, in a sentence; undefined where it will do. Names and audiences are
 * looked at further where the house is known.
 */
export function pointFault(
  point: ListPoint,
  value: string,
  { isStaff, isPreset }: PointsOf,
): string | undefined {
  if (isRule(point)) return ruleFault(point, value);
  const choices =
    point === "adding"
      ? ADDING
      : point === "state"
        ? ["open", "closed"]
        : point === "season"
          ? ["every season", "this season only"]
          : undefined;
  if (choices !== undefined)
    return (choices as readonly string[]).includes(value)
      ? undefined
      : `"${value.slice(0, 60)}" is no choice for ${POINT_WORDS[point]}; there are ${choices.map((choice) => `"${choice}"`).join(", ")}.`;
  if (point === "preset")
    return isPreset(value)
      ? undefined
      : `There are no posting rules called "${value.slice(0, 60)}".`;
  const longest = LONGEST[point];
  if (longest !== undefined && value.length > longest)
    return `The ${POINT_WORDS[point]} can have ${longest} characters; this has ${value.length}.`;
  if (point === "title" && value.trim() === "") return "Give the list a display name.";
  if (/[\p{Cc}\p{Zl}\p{Zp}]/u.test(value))
    return `The ${POINT_WORDS[point]} stands in one line; there is a line break or another sign in it that can't be seen.`;
  if (point === "helpers" || (point === "leads" && value !== "coach")) {
    const strange = value.split(" ").find((id) => id !== "" && !isStaff(id));
    if (strange !== undefined)
      return `Nobody on the staff is known as "${strange.slice(0, 60)}", so they can't be ${point === "leads" ? "a lead" : "a helper"} of a list.`;
  }
  return undefined;
}
