import { ruleTemplates } from "@amigo/core/posting/ruleSentences";
import { ALL_RULES } from "@amigo/core/posting/rules/allRules";
import { type Rules, type RuleId, RULE_IDS } from "@amigo/core/posting/rules/rule";
import { sayParts, say } from "@amigo/language/say";
import { Choice } from "../ui/Choice";

export function Sentences({
  which,
  rules,
  onSet,
}: {
  which: "first" | "rest";
  rules: Rules;
  onSet: (id: RuleId, value: string) => void;
}) {
  return ruleTemplates(rules, which)
    .map(sayParts)
    .map((pieces) => (
      <p key={pieces.map(({ place }) => place).join(" ")} className="leading-[32px]">
        {pieces.map(({ text, place }, part) => {
          const id = RULE_IDS.find((rule) => rule === place);
          return id === undefined ? (
            <span key={part}>{text}</span>
          ) : (
            <Value key={id} id={id} value={rules[id]} onChange={(to) => onSet(id, to)} />
          );
        })}
      </p>
    ));
}

function Value({
  id,
  value,
  onChange,
}: {
  id: RuleId;
  value: string;
  onChange: (value: string) => void;
}) {
  const { form, values, words, most, unit } = ALL_RULES[id];
  if (form === "choice")
    return (
      <Choice
        small
        label={say(words)}
        value={value}
        onChange={onChange}
        options={values.map((choice) => ({ value: choice.value, name: say(choice.words) }))}
      />
    );
  return (
    <>
      <input
        type="number"
        aria-label={say(words)}
        min={1}
        max={most}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        className="h-[26px] w-16 rounded-md border border-hair bg-panel px-1.5 text-right text-[13px] font-[560]"
      />{" "}
      {say(unit)}
    </>
  );
}
