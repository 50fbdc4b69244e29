import { useState, type Dispatch, type SetStateAction } from "react";
import { say } from "@amigo/language/say";
import { boundKey, BOUND_RULES, kindWords, type Bound } from "@amigo/core/posting/houseRules";
import { ALL_INVARIANTS } from "@amigo/core/posting/invariants/allInvariants";
import { ALL_RULES, wordsOf } from "@amigo/core/posting/rules/allRules";
import { LIST_KINDS, RULE_IDS, type ListKind, type RuleId } from "@amigo/core/posting/rules/rule";
import type { EditWanted, Making } from "@amigo/contract/edits";
import { useMakingQuery } from "../data/edits";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { EditDialog } from "../edits/EditDialog";
import { Field } from "../ui/Field";
import { Modal } from "../ui/Modal";
import { FaultLine, Loading, Panel } from "../ui/Page";
import { boundIn } from "../rules/rulesDraft";
import { WideTable } from "../ui/WideTable";
import { t } from "../texts/t";
import { Rich } from "../texts/Rich";
import { RuleOfPreset } from "./RuleOfPreset";
import { BoundRow } from "./BoundRow";

type HouseEdit = Extract<EditWanted, { what: "house" }>;
const NOTHING: HouseEdit = {
  what: "house",
  bounds: {},
  invariants: {},
  presets: {},
  aliasUntil: "",
};

/** The limits within which every list stays: what is allowed by kind of list, what must hold between rules, and the house's own presets. */
export function HouseRules() {
  const { data: making, error } = useMakingQuery();
  const [changed, setChanged] = useState<Record<string, Bound>>({});
  const [edit, setEdit] = useState<{ title: string; edit: HouseEdit }>();
  const [said, setSaid] = useState("");
  const [kind, setKind] = useState<ListKind>("guardians");
  if (error !== undefined) return <FaultLine error={error} />;
  if (making === undefined) return <Loading what={t("house.theHouseRules")} />;
  const done = (sentence: string): void => {
    setEdit(undefined);
    setChanged({});
    setSaid(sentence);
  };
  const count = Object.keys(changed).length;
  return (
    <div className="flex flex-col gap-3.5">
      {said !== "" && (
        <p role="status" className="rounded-md border border-leaf bg-leaf-soft px-3 py-2">
          {said}
        </p>
      )}
      <AllowedRules
        kind={kind}
        setKind={setKind}
        count={count}
        setEdit={setEdit}
        changed={changed}
        making={making}
        setChanged={setChanged}
      />
      <Panel className="px-[18px] py-3.5">
        <h2>{t("house.rulesThatDependOnEach")}</h2>
        <ul className="mt-1.5">
          {ALL_INVARIANTS.map(({ id, words, canBeOff, refuses }) => {
            const isOff = making.invariantsOff.includes(id);
            return (
              <li key={id} className="flex items-center gap-3 border-t border-hair-soft py-1.5">
                <span className={`flex-1 ${isOff ? "text-ink-3 line-through" : ""}`}>
                  {say(words)}
                </span>
                <span className="text-[13px] text-ink-3">
                  {isOff
                    ? t("house.switchedOff")
                    : refuses
                      ? t("house.alwaysOn")
                      : t("house.shownAsAWarning")}
                </span>
                {canBeOff && (
                  <Button
                    className="min-h-[26px]! px-2! text-[13px]"
                    onClick={() =>
                      setEdit({
                        title: isOff ? t("house.previewSwitchItOn") : t("house.previewSwitchItOff"),
                        edit: { ...NOTHING, invariants: { [id]: isOff ? null : "off" } },
                      })
                    }
                  >
                    {t("house.switchOn", { isOff: String(isOff) })}
                  </Button>
                )}
              </li>
            );
          })}
        </ul>
      </Panel>
      <Presets making={making} onSee={setEdit} />
      {edit !== undefined && (
        <EditDialog {...edit} onClose={() => setEdit(undefined)} onDone={done} />
      )}
    </div>
  );
}

/** The presets of Amigo, and those that the house has made. */
function Presets({
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

function AllowedRules({
  kind,
  setKind,
  count,
  setEdit,
  changed,
  making,
  setChanged,
}: {
  kind: ListKind;
  setKind: Dispatch<SetStateAction<ListKind>>;
  count: number;
  setEdit: Dispatch<SetStateAction<{ title: string; edit: HouseEdit } | undefined>>;
  changed: Record<string, Bound>;
  making: Making;
  setChanged: Dispatch<SetStateAction<Record<string, Bound>>>;
}) {
  return (
    <Panel>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2 px-3 py-3 md:px-[18px]">
        <h2 className="whitespace-nowrap">{t("house.whatIsAllowed")}</h2>
        <Choice
          small
          label={t("house.for")}
          value={kind}
          onChange={setKind}
          options={LIST_KINDS.map((item) => ({
            value: item,
            name: t("house.for2", { kind: kindWords(item) }),
          }))}
        />
        <span className="min-w-0 flex-1 basis-64 text-[13px] text-ink-2">
          {t("house.tickedValuesCanBeChosen")}
        </span>
        <Button
          look="go"
          className="ml-auto"
          disabled={count === 0}
          onClick={() =>
            setEdit({
              title: t("house.previewChangeTheHouseRules"),
              edit: { ...NOTHING, bounds: changed },
            })
          }
        >
          {count === 0 ? t("house.preview") : t("house.preview2", { count })}
        </Button>
      </div>
      <WideTable label={t("house.houseRules")} className="w-full table-fixed text-[13px]">
        <thead>
          <tr className="border-y border-hair text-left text-[12px] text-ink-3">
            <th className="w-52 px-[18px] py-1.5 font-[500]">{t("house.rule")}</th>
            <th className="px-2 py-1.5 font-[500]">{t("house.allowed")}</th>
            <th className="w-[290px] px-2 py-1.5 font-[500]">{t("house.usual")}</th>
          </tr>
        </thead>
        <tbody>
          {BOUND_RULES.map((rule) => (
            <BoundRow
              key={rule}
              rule={rule}
              kind={kind}
              bound={changed[boundKey(kind, rule)] ?? boundIn(making, kind, rule)}
              isChanged={changed[boundKey(kind, rule)] !== undefined}
              onChange={(bound) => setChanged({ ...changed, [boundKey(kind, rule)]: bound })}
            />
          ))}
        </tbody>
      </WideTable>
    </Panel>
  );
}
