import { useState } from "react";
import { say } from "@amigo/language/say";
import { ALL_RULES, wordsOf } from "@amigo/core/posting/rules/allRules";
import { RULE_IDS, type RuleId } from "@amigo/core/posting/rules/rule";
import type { EditWanted, Making } from "@amigo/contract/edits";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { Modal } from "../ui/Modal";
import { Panel } from "../ui/Page";
import { Rich, t } from "../texts/house";
import { RuleOfPreset } from "./RuleOfPreset";

export type HouseEdit = Extract<EditWanted, { what: "house" }>;

export const NOTHING: HouseEdit = {
  what: "house",
  bounds: {},
  invariants: {},
  presets: {},
  aliasUntil: "",
};

/** The presets of Amigo, and those that the house has made. */
export function Presets({
  making,
  onSee,
}: {
  making: Making;
  onSee: (edit: { title: string; edit: HouseEdit }) => void;
}) {
  const [editing, setEditing] = useState<Making["presets"][number] | "new">();
  return (
    <Panel className="px-[18px] py-3.5">
      <div className="flex items-center gap-3">
        <h2>{t("house.presets")}</h2>
        <span className="text-[13px] text-ink-2">{t("house.namedSetsOfPostingRules")}</span>
        <Button className="ml-auto" onClick={() => setEditing("new")}>
          {t("house.newPreset")}
        </Button>
      </div>
      <ul className="mt-1.5">
        {making.presets.map((preset) => (
          <li
            key={preset.id}
            className="flex items-baseline gap-3 border-t border-hair-soft py-1.5"
          >
            <b className="w-44 font-[620]">{preset.name}</b>
            <span className="min-w-0 flex-1 text-[13px] text-ink-2">
              {preset.what}
              <span className="block text-ink-3">
                {RULE_IDS.flatMap((id) =>
                  preset.rules[id] === undefined
                    ? []
                    : [
                        t("house.ruleAndValue", {
                          rule: ALL_RULES[id].words,
                          value: wordsOf(id, preset.rules[id]),
                        }),
                      ],
                ).join(" · ")}
              </span>
            </span>
            {preset.own ? (
              <span className="flex gap-2">
                <Button onClick={() => setEditing(preset)}>
                  <Rich id="house.edit" name={<span className="sr-only"> {preset.name}</span>} />
                </Button>
                <Button
                  look="quiet"
                  onClick={() =>
                    onSee({
                      title: t("house.removeThePreset", { name: preset.name }),
                      edit: { ...NOTHING, presets: { [preset.id]: null } },
                    })
                  }
                >
                  <Rich id="house.remove" name={<span className="sr-only"> {preset.name}</span>} />
                </Button>
              </span>
            ) : (
              <span className="text-[13px] text-ink-3">{t("house.amigosOwn")}</span>
            )}
          </li>
        ))}
      </ul>
      {editing !== undefined && (
        <PresetDialog
          preset={editing === "new" ? undefined : editing}
          taken={new Set(making.presets.map(({ id }) => id))}
          onClose={() => setEditing(undefined)}
          onSee={(edit) => {
            setEditing(undefined);
            onSee(edit);
          }}
        />
      )}
    </Panel>
  );
}

function PresetDialog({
  preset,
  taken,
  onClose,
  onSee,
}: {
  preset: Making["presets"][number] | undefined;
  taken: ReadonlySet<string>;
  onClose: () => void;
  onSee: (edit: { title: string; edit: HouseEdit }) => void;
}) {
  const [name, setName] = useState(preset?.name ?? "");
  const [what, setWhat] = useState(preset?.what ?? "");
  const [rules, setRules] = useState<Partial<Record<RuleId, string>>>(preset?.rules ?? {});
  const id = preset?.id ?? freeId(name, taken);
  const submit = (): void =>
    onSee({
      title:
        preset === undefined
          ? t("house.newPreset2", { name: name.trim() })
          : t("house.previewChange", { name: preset.name }),
      edit: { ...NOTHING, presets: { [id]: { name: name.trim(), what: what.trim(), ...rules } } },
    });
  return (
    <Modal wide title={preset === undefined ? t("house.newPreset") : preset.name} onClose={onClose}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          submit();
        }}
      >
        <div className="grid sm:grid-cols-2 gap-3">
          <Field
            label={t("house.name")}
            autoFocus
            value={name}
            onChange={(event) => setName(event.target.value)}
            maxLength={60}
            placeholder={t("house.homework")}
          />
          <Field
            label={t("house.description")}
            value={what}
            onChange={(event) => setWhat(event.target.value)}
            maxLength={200}
            placeholder={t("house.teachersSetWorkStudentsAsk")}
          />
        </div>
        <div className="grid sm:grid-cols-2 gap-x-6 gap-y-1.5">
          {RULE_IDS.filter((rule) => ALL_RULES[rule].form === "choice").map((rule) => (
            <p key={rule} className="flex items-center justify-between gap-2 text-[13px]">
              {say(ALL_RULES[rule].words)}
              <RuleOfPreset rule={rule} rules={rules} setRules={setRules} />
            </p>
          ))}
        </div>
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>{t("house.close")}</Button>
          <Button
            type="submit"
            look="go"
            disabled={name.trim() === "" || Object.keys(rules).length === 0}
          >
            {t("house.preview")}
          </Button>
        </div>
      </form>
    </Modal>
  );
}

/** An id for a new preset, from its name. */
function freeId(name: string, taken: ReadonlySet<string>): string {
  const base =
    name
      .toLowerCase()
      .normalize("NFKD")
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-+|-+$/g, "")
      .slice(0, 50) || "preset";
  for (let turn = 1; ; turn++) {
    const id = turn === 1 ? base : `${base}-${turn}`;
    if (!taken.has(id)) return id;
  }
}
