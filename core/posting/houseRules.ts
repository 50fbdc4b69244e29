import { each, message, type Message } from "@amigo/language/message";
import { ALL_RULES, wordsOf } from "./rules/allRules";
import { RULE_IDS, type ListKind, type RuleId, type Rules } from "./rules/rule";
import type { Preset } from "./presets";

/** What the house allows of one rule for lists of one kind. Of a number, `allowed` is the largest. */
export interface Bound {
  /** The values allowed, with `|` between them; a number's largest. */
  allowed: string;
  /** What holds where neither list, recipe nor preset says anything. */
  usual: string;
}

/** The rules that the house can set bounds to; texts have none. */
export const BOUND_RULES: readonly RuleId[] = RULE_IDS.filter(
  (id) => ALL_RULES[id].form === "choice" || ALL_RULES[id].form === "number",
);

/** What every house starts with, where it differs from "everything is allowed". */
const FIRST: Partial<Record<RuleId, Partial<Record<ListKind, Bound>>>> = {
  outside: {
    guardians: { allowed: "none|guardians|any", usual: "guardians" },
    students: { allowed: "none", usual: "none" },
    staff: { allowed: "none", usual: "none" },
    other: { allowed: "none", usual: "none" },
  },
};

/** The bounds of the house by kind and rule, where somebody has set them: `guardians outside`. */
export type HouseRules = ReadonlyMap<string, Bound>;

export function boundKey(kind: ListKind, rule: RuleId): string {
  return `${kind} ${rule}`;
}

/** Everything allowed, as far as a rule goes. */
const WIDEST = Object.fromEntries(
  Object.values(ALL_RULES).map(({ id, values, most, usual }) => [
    id,
    {
      allowed: most === undefined ? values.map(({ value }) => value).join("|") : String(most),
      usual,
    },
  ]),
) as Readonly<Record<RuleId, Bound>>;

/** The bound of one rule for lists of one kind. */
export function boundOf(kind: ListKind, rule: RuleId, house: HouseRules): Bound {
  return (
    (house.size === 0 ? undefined : house.get(boundKey(kind, rule))) ??
    FIRST[rule]?.[kind] ??
    WIDEST[rule]
  );
}

/** Whether a value of a rule is within a bound. */
export function isWithin(
  rule: RuleId,
  value: string,
  { allowed }: Pick<Bound, "allowed">,
): boolean {
  switch (ALL_RULES[rule].form) {
    case "choice":
      return `|${allowed}|`.includes(`|${value}|`);
    case "number":
      return Number(value) <= Number(allowed);
    default:
      return true;
  }
}

/** What somebody has allowed one list beyond the house's rules: the value, and the last day of it as a calendar date, empty for no end. */
export interface Exemption {
  allowed: string;
  until: string;
  by: string;
}

/** A rule of a list that the house does not let be as it was chosen. */
export interface OutOfBounds {
  rule: RuleId;
  chosen: string;
  bound: Bound;
}

/** What settles the rules of one list, the nearest first. */
export interface RuleSources {
  kind: ListKind;
  /** What is set of the list itself. */
  own: ReadonlyMap<string, string>;
  recipe: Partial<Rules>;
  preset: Preset;
  house: HouseRules;
  exemptions: ReadonlyMap<string, Exemption>;
}

/**
 * The rules of a list as they hold: what the list says, else its recipe, else its preset, else the house; and where the
 * house does not allow that, what the house has for such lists.
 */
export function settleRules({ kind, own: item, recipe, preset, house, exemptions }: RuleSources): {
  rules: Rules;
  refused: OutOfBounds[];
} {
  const refused: OutOfBounds[] = [];
  const rules: Partial<Record<RuleId, string>> = {};
  for (const rule of RULE_IDS) {
    const bound = boundOf(kind, rule, house);
    const chosen = item.get(rule) ?? recipe[rule] ?? preset.rules[rule] ?? bound.usual;
    rules[rule] = chosen;
    if (chosen === bound.usual || isWithin(rule, chosen, bound)) continue;
    const exempt = exemptions.get(rule);
    if (exempt !== undefined && isWithin(rule, chosen, exempt)) continue;
    refused.push({ rule, chosen, bound });
    rules[rule] = ALL_RULES[rule].form === "number" ? bound.allowed : bound.usual;
  }
  return { rules: rules as Rules, refused };
}

const KIND_WORDS: Record<ListKind, Message> = {
  guardians: message("posting.listsOfGuardians"),
  students: message("posting.listsOfStudents"),
  staff: message("posting.listsOfTheStaff"),
  other: message("posting.otherLists"),
};

export function kindWords(kind: ListKind): Message {
  return KIND_WORDS[kind];
}

/** The house rule that stands in the way of a value, as a sentence. */
export function boundSentence(kind: ListKind, rule: RuleId, bound: Bound): Message {
  const { words, form, unit } = ALL_RULES[rule];
  return message("posting.houseRuleFor", {
    lists: KIND_WORDS[kind],
    rule: words,
    allowed:
      form === "number"
        ? message("posting.atMost", { allowed: bound.allowed, unit })
        : each(
            bound.allowed
              .split("|")
              .map((value) => message("posting.quoted", { words: wordsOf(rule, value) })),
            "or",
          ),
  });
}
