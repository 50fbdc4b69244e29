import { message, written, type Message } from "@amigo/language/message";
import { POINT_WORDS } from "./listPoint";
import { ALL_RULES, wordsOf } from "../posting/rules/allRules";
import { RULE_IDS, type RuleId } from "../posting/rules/rule";
import type { WantedList } from "./wantedLists";

/** What becomes of one list by an edit. */
export interface ListDelta {
  key: string;
  title: string;
  what: "made" | "opened" | "closed" | "renamed" | "changed";
  /** Names before and after; empty where there is none. */
  before: string;
  after: string;
  /** Which points change, in words. */
  points: Message[];
  /** What is wrong with its rules from then on that was not before, in sentences. */
  breaks: Message[];
}

const COMPARED = [
  "title",
  "description",
  "short",
  "preset",
  "leads",
  "helpers",
  "adding",
  "season",
] as const;

/** Returns what an edit does to one list; undefined where it does nothing. */
function deltaOf(
  old: WantedList | undefined,
  list: WantedList,
  name: string,
  breaks: Message[],
): Omit<ListDelta, "key"> | undefined {
  if (old === list && breaks.length === 0) return undefined;
  const base = { title: list.title, before: old?.name ?? "", after: name, breaks };
  if (old === undefined) return list.open ? { ...base, what: "made", points: [] } : undefined;
  const points = pointsChanged(old, list);
  if (old.open !== list.open) return { ...base, what: list.open ? "opened" : "closed", points };
  if (old.name !== undefined && old.name !== name) return { ...base, what: "renamed", points };
  return points.length > 0 || breaks.length > 0 ? { ...base, what: "changed", points } : undefined;
}

/** Returns in which points a list is otherwise than it was. */
function pointsChanged(old: WantedList, list: WantedList): Message[] {
  const points = COMPARED.filter((point) => old[point] !== list[point]).map(
    (point) => POINT_WORDS[point],
  );
  const rules = RULE_IDS.filter((id) => old.rules[id] !== list.rules[id]).map((id) =>
    message("lists.pointChanged", {
      point: POINT_WORDS[id],
      before: beginningOf(id, old.rules[id]),
      after: beginningOf(id, list.rules[id]),
    }),
  );
  return [...points, ...rules, ...(old.text === list.text ? [] : [POINT_WORDS.audience])];
}

/** Compares the lists that are wanted before an edit and after it. Names of those that have none yet come from `named`. */
export function listDeltas(
  before: ReadonlyMap<string, WantedList>,
  after: ReadonlyMap<string, WantedList>,
  named: ReadonlyMap<string, string>,
  breaks: (key: string) => Message[] = () => [],
): ListDelta[] {
  const deltas: ListDelta[] = [];
  for (const [key, list] of after) {
    const name = list.name ?? named.get(key) ?? "";
    const delta = deltaOf(before.get(key), list, name, list.open ? breaks(key) : []);
    if (delta !== undefined) deltas.push({ key, ...delta });
  }
  for (const [key, old] of before)
    if (!after.has(key) && old.open)
      deltas.push({
        key,
        title: old.title,
        what: "closed",
        before: old.name ?? "",
        after: "",
        points: [],
        breaks: [],
      });
  const order = ["made", "opened", "closed", "renamed", "changed"];
  return deltas.sort(
    (a, b) => order.indexOf(a.what) - order.indexOf(b.what) || a.title.localeCompare(b.title, "en"),
  );
}

/** A value of a rule as it is told in a change: texts by their beginning only. */
function beginningOf(id: RuleId, value: string): Message {
  if (value === "") return message("lists.none");
  return ALL_RULES[id].form === "text"
    ? written(value.length > 40 ? `${value.slice(0, 40)} …` : value)
    : wordsOf(id, value);
}
