import type { Dispatch, SetStateAction } from "react";
import type { NamesTried } from "@amigo/contract/naming";
import type { House } from "@amigo/contract/house";
import { PARTS } from "@amigo/core/naming/pattern";
import { Rich, t } from "../texts/house";
import { Field } from "../ui/Field";
import { Panel } from "../ui/Page";

function without(
  all: Record<string, string>,
  key: string,
  value: string,
  usual: string,
): Record<string, string> {
  return Object.fromEntries(
    Object.entries({ ...all, [key]: value }).filter(
      ([item, text]) => item !== key || text !== usual,
    ),
  );
}

export function PatternFields({
  house,
  data,
  patterns,
  setPatterns,
}: {
  house: House;
  data: NamesTried;
  patterns: Record<string, string>;
  setPatterns: Dispatch<SetStateAction<Record<string, string>>>;
}) {
  return (
    <Panel className="px-4 py-3.5">
      <h2 className="mb-1">{t("house.patterns")}</h2>
      <p className="mb-2 text-[13px] text-ink-2">
        <Rich
          id="house.partsWrittenOtherwiseAs"
          list={<span className="mono">{PARTS.map((part) => `{${part}}`).join(" ")}</span>}
          span={<span className="mono">{t("house.count")}</span>}
          span2={<span className="mono">{t("house.count2")}</span>}
          span3={<span className="mono">{t("house.count3")}</span>}
        />
      </p>
      <div className="flex flex-col gap-2">
        {house.recipes.map(({ id, value }) => {
          const fault = data.faults.find(({ recipe }) => recipe === id);
          return (
            <div key={id}>
              <Field
                label={value.name}
                value={patterns[id] ?? value.pattern}
                onChange={(event) =>
                  setPatterns(without(patterns, String(id), event.target.value, value.pattern))
                }
                spellCheck={false}
                className="[&_input]:font-mono [&_input]:text-[12.5px]"
              />
              {fault !== undefined && (
                <p className="mt-1 text-[13px] text-marigold-ink">
                  <b>! </b>
                  {fault.sentence}
                </p>
              )}
            </div>
          );
        })}
      </div>
    </Panel>
  );
}
