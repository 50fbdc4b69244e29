import type { Making } from "@amigo/contract/edits";
import type { Adding } from "@amigo/core/lists/recipe";
import { boundKey, type Bound } from "@amigo/core/posting/houseRules";
import { ALL_RULES } from "@amigo/core/posting/rules/allRules";
import { RULE_IDS, type ListKind, type RuleId, type Rules } from "@amigo/core/posting/rules/rule";

/** The rules of a list or recipe while somebody changes them: a preset, and what is otherwise. */
export interface RulesDraft {
  preset: string;
  leads: string;
  helpers: string;
  adding: Adding;
  own: Partial<Record<RuleId, string>>;
}

/** What the house allows of a rule for lists of one kind. */
export function boundIn(making: Making, kind: ListKind, rule: RuleId): Bound {
  const { values, most, usual } = ALL_RULES[rule];
  return (
    making.bounds[boundKey(kind, rule)] ?? {
      allowed: most === undefined ? values.map(({ value }) => value).join("|") : String(most),
      usual,
    }
  );
}

/** The rules as they would hold if the house allowed all of them. */
export function settledDraft(
  { own: ownRules, preset }: Pick<RulesDraft, "own" | "preset">,
  making: Making,
  kind: ListKind,
): Rules {
  const from = making.presets.find(({ id }) => id === preset)?.rules ?? {};
  return Object.fromEntries(
    RULE_IDS.map((id) => [id, ownRules[id] ?? from[id] ?? boundIn(making, kind, id).usual]),
  ) as Rules;
}

/** A draft with another preset: what the preset settles is no longer otherwise. */
export function withPreset(draft: RulesDraft, preset: string, making: Making): RulesDraft {
  const settles = making.presets.find(({ id }) => id === preset)?.rules ?? {};
  return {
    ...draft,
    preset,
    own: Object.fromEntries(Object.entries(draft.own).filter(([id]) => !(id in settles))),
  };
}
