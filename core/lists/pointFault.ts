import { message, type Message } from "@amigo/language/message";
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
): Message | undefined {
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
      : message("lists.isNoChoiceForThere", {
          value: value.slice(0, 60),
          point: POINT_WORDS[point],
          choices: choices.map((choice) => `"${choice}"`).join(", "),
        });
  if (point === "preset")
    return isPreset(value)
      ? undefined
      : message("lists.thereAreNoPostingRules", { value: value.slice(0, 60) });
  const longest = LONGEST[point];
  if (longest !== undefined && value.length > longest)
    return message("lists.theCanHaveCharactersThis", {
      point: POINT_WORDS[point],
      longest,
      length: value.length,
    });
  if (point === "title" && value.trim() === "") return message("lists.giveTheListADisplay");
  if (/[\p{Cc}\p{Zl}\p{Zp}]/u.test(value))
    return message("lists.theStandsInOneLine", { point: POINT_WORDS[point] });
  if (point === "helpers" || (point === "leads" && value !== "coach")) {
    const strange = value.split(" ").find((id) => id !== "" && !isStaff(id));
    if (strange !== undefined)
      return message("lists.nobodyOnTheStaffIs", { id: strange.slice(0, 60), point });
  }
  return undefined;
}
