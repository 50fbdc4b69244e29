import { message, type Message } from "@amigo/language/message";
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
export const POINT_WORDS: Readonly<Record<ListPoint, Message>> = {
  name: message("lists.name"),
  title: message("lists.title"),
  description: message("lists.description"),
  short: message("lists.short"),
  audience: message("lists.audience"),
  preset: message("lists.preset"),
  leads: message("lists.leads"),
  helpers: message("lists.helpers"),
  adding: message("lists.adding"),
  state: message("lists.state"),
  season: message("lists.season"),
  ...wordsOfRules(),
};

function wordsOfRules(): Record<RuleId, Message> {
  return Object.fromEntries(RULE_IDS.map((id) => [id, ALL_RULES[id].words])) as Record<
    RuleId,
    Message
  >;
}

/** Whether a point is one of the posting rules. */
export function isRule(point: ListPoint): point is RuleId {
  return point in ALL_RULES;
}
