import type { Dispatch, SetStateAction } from "react";
import { ALL_RULES } from "@amigo/core/posting/rules/allRules";
import type { RuleId } from "@amigo/core/posting/rules/rule";
import { say } from "@amigo/language/say";
import { t } from "../texts/house";
import { Choice } from "../ui/Choice";

const LEFT = t("house.leftToTheHouse");

export function RuleOfPreset({
  rule,
  rules,
  setRules,
}: {
  rule: RuleId;
  rules: Partial<Record<RuleId, string>>;
  setRules: Dispatch<SetStateAction<Partial<Record<RuleId, string>>>>;
}) {
  return (
    <Choice
      small
      label={say(ALL_RULES[rule].words)}
      value={rules[rule] ?? ""}
      onChange={(value) =>
        setRules(
          Object.fromEntries(
            Object.entries({ ...rules, [rule]: value }).filter(([, chosen]) => chosen !== ""),
          ),
        )
      }
      options={[
        { value: "", name: LEFT },
        ...ALL_RULES[rule].values.map((ruleChoice) => ({
          value: ruleChoice.value,
          name: say(ruleChoice.words),
        })),
      ]}
    />
  );
}
