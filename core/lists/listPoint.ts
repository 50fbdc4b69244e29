import { ALL_RULES } from "../posting/rules/allRules";
import { RULE_IDS, type RuleId } from "../posting/rules/rule";

/** Everything about a list, but its posting rules, that somebody can set apart from its recipe, or that makes up a list without one. */
const OWN_POINTS = [
  "name",
  "title",
  "description",
  "short",
  "audience",
  "preset",
  "leads",
  "helpers",
  "adding",
  "state",
  "season",
] as const;

/** Everything about a list that somebody can set. */
export const LIST_POINTS: readonly [ListPoint, ...ListPoint[]] = [...OWN_POINTS, ...RULE_IDS];

export type ListPoint = (typeof OWN_POINTS)[number] | RuleId;

/** How the interface names a point. */
export const POINT_WORDS: Readonly<Record<ListPoint, string>> = {
  name: "name",
  title: "display name",
  description: "description",
  short: "short names",
  audience: "audience",
  preset: "posting rules",
  leads: "leads",
  helpers: "helpers",
  adding: "how members are added",
  state: "open or closed",
  season: "season",
  ...wordsOfRules(),
};

function wordsOfRules(): Record<RuleId, string> {
  return Object.fromEntries(RULE_IDS.map((id) => [id, ALL_RULES[id].words])) as Record<
    RuleId,
    string
  >;
}

/** Whether a point is one of the posting rules. */
export function isRule(point: ListPoint): point is RuleId {
  return point in ALL_RULES;
}
