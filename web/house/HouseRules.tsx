import { useState, type Dispatch, type SetStateAction } from "react";
import { say } from "@amigo/language/say";
import { boundKey, BOUND_RULES, kindWords, type Bound } from "@amigo/core/posting/houseRules";
import { ALL_INVARIANTS } from "@amigo/core/posting/invariants/allInvariants";
import { LIST_KINDS, type ListKind } from "@amigo/core/posting/rules/rule";
import type { Making } from "@amigo/contract/edits";
import { useMakingQuery } from "../data/edits";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { EditDialog } from "../edits/EditDialog";
import { FaultLine, Loading, Panel } from "../ui/Page";
import { boundIn } from "../rules/rulesDraft";
import { WideTable } from "../ui/WideTable";
import { t } from "../texts/house";
import { BoundRow } from "./BoundRow";
import { type HouseEdit, NOTHING, Presets } from "./Presets";

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
