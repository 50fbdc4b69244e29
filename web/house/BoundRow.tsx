import { type Bound, kindWords } from "@amigo/core/posting/houseRules";
import { ALL_RULES } from "@amigo/core/posting/rules/allRules";
import type { RuleId, ListKind } from "@amigo/core/posting/rules/rule";
import { say } from "@amigo/language/say";
import { Rich, t } from "../texts/house";
import { Choice } from "../ui/Choice";

export function BoundRow({
  rule,
  kind,
  bound,
  isChanged,
  onChange,
}: {
  rule: RuleId;
  kind: ListKind;
  bound: Bound;
  isChanged: boolean;
  onChange: (bound: Bound) => void;
}) {
  const { words, values, form, most, unit } = ALL_RULES[rule];
  const allowed = bound.allowed.split("|");
  const toggle = (value: string): void => {
    const next = values
      .map((ruleChoice) => ruleChoice.value)
      .filter((candidate) =>
        candidate === value ? !allowed.includes(candidate) : allowed.includes(candidate),
      );
    if (next.length > 0)
      onChange({
        allowed: next.join("|"),
        usual: next.includes(bound.usual) ? bound.usual : (next[0] ?? bound.usual),
      });
  };
  return (
    <tr className="border-b border-hair-soft align-baseline last:border-b-0">
      <th scope="row" className="px-[18px] py-1.5 text-left font-[560]">
        <span className="flex items-baseline gap-1">
          {isChanged && (
            <span className="text-marigold-ink" title={t("house.changed")}>
              ~
            </span>
          )}
          <span className="first-letter:uppercase">{say(words)}</span>
        </span>
      </th>
      <td className="px-2 py-1.5">
        {form === "number" ? (
          <span>
            <Rich
              id="house.upTo"
              input={
                <input
                  type="number"
                  aria-label={t("house.mostFor", { words, kind: kindWords(kind) })}
                  min={1}
                  max={most}
                  value={bound.allowed}
                  onChange={(event) =>
                    onChange({
                      ...bound,
                      allowed: event.target.value,
                      usual:
                        Number(bound.usual) > Number(event.target.value)
                          ? event.target.value
                          : bound.usual,
                    })
                  }
                  className="h-[26px] w-16 rounded-md border border-hair bg-panel px-1.5 text-right"
                />
              }
              unit={say(unit)}
            />
          </span>
        ) : (
          <span className="flex flex-wrap gap-x-4 gap-y-0.5">
            {values.map((ruleChoice) => (
              <label key={ruleChoice.value} className="flex items-center gap-1.5">
                <input
                  type="checkbox"
                  checked={allowed.includes(ruleChoice.value)}
                  onChange={() => toggle(ruleChoice.value)}
                />
                <span className="inline-block first-letter:uppercase">{say(ruleChoice.words)}</span>
              </label>
            ))}
          </span>
        )}
      </td>
      <td className="px-2 py-1.5">
        {form === "number" ? (
          <input
            type="number"
            aria-label={t("house.usual2", { words, kind: kindWords(kind) })}
            min={1}
            max={Number(bound.allowed)}
            value={bound.usual}
            onChange={(event) => onChange({ ...bound, usual: event.target.value })}
            className="h-[26px] w-16 rounded-md border border-hair bg-panel px-1.5 text-right"
          />
        ) : (
          <Choice
            small
            className="*:first-letter:uppercase"
            label={t("house.usual3", { words })}
            value={bound.usual}
            onChange={(usual) => onChange({ ...bound, usual })}
            options={values
              .filter((ruleChoice) => allowed.includes(ruleChoice.value))
              .map((ruleChoice) => ({ value: ruleChoice.value, name: say(ruleChoice.words) }))}
          />
        )}
      </td>
    </tr>
  );
}
