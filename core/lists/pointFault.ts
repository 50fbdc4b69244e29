import { PRESETS } from "../posting/presets";
import { POINT_WORDS, type ListPoint } from "./listPoint";
import { ADDING, FINDABLE, LEAVING, OUTSIDE } from "./recipe";

/** What each point may hold, where it is one of a few. */
const CHOICES: Partial<Record<ListPoint, readonly string[]>> = { preset: Object.keys(PRESETS), findable: FINDABLE, outside: OUTSIDE, leaving: LEAVING, adding: ADDING, state: ["open", "closed"], season: ["every season", "this season only"] };

const LONGEST: Partial<Record<ListPoint, number>> = { title: 120, description: 500, short: 120, audience: 2000, welcome: 5000 };

/**
 * What is wrong with a value for a point of a list, in a sentence; undefined where it will do. Names and audiences are
 * looked at further where the house is known.
 *
 * @param isStaff whether somebody of that id is on the staff
 */
export function pointFault(point: ListPoint, value: string, isStaff: (id: string) => boolean): string | undefined {
  const choices = CHOICES[point];
  if (choices !== undefined) return choices.includes(value) ? undefined : `"${value.slice(0, 60)}" is no choice for ${POINT_WORDS[point]}; there are ${choices.map((choice) => `"${choice}"`).join(", ")}.`;
  const longest = LONGEST[point];
  if (longest !== undefined && value.length > longest) return `The ${POINT_WORDS[point]} may have ${longest} signs; this has ${value.length}.`;
  if (point === "title" && value.trim() === "") return "Give the list a display name.";
  if (point !== "welcome" && /[\p{Cc}\p{Zl}\p{Zp}]/u.test(value)) return `The ${POINT_WORDS[point]} stands in one line; there is a line break or another sign in it that can not be seen.`;
  if (point === "leads" && value !== "coach") {
    const strange = value.split(" ").find((id) => id !== "" && !isStaff(id));
    if (strange !== undefined) return `Nobody on the staff is known as "${strange.slice(0, 60)}", so they can not lead a list.`;
  }
  return undefined;
}
