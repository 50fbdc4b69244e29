import { useState, type FormEvent } from "react";
import type { House } from "@amigo/contract/house";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { Panel } from "../ui/Page";
import { Renewable, SettingsFault } from "./Renewable";
import { useChangeLimitsMutation } from "../data/house";
import { t } from "../texts/house";

/** What a round may do without a guard, and whom Amigo believes where sources disagree. */
export function Guarding({ house }: { house: House }) {
  return <Renewable>{(renew) => <Limits house={house} onRenew={renew} />}</Renewable>;
}

function Limits({ house, onRenew }: { house: House; onRenew: () => void }) {
  const { limits } = house;
  const [version, setVersion] = useState(house.versions.limits);
  const [typed, setTyped] = useState({
    listShare: percent(limits.listShare),
    listFew: String(limits.listFew),
    sourceShare: percent(limits.sourceShare),
    familiesOfAddress: String(limits.familiesOfAddress),
  });
  const [change, changing] = useChangeLimitsMutation();
  const field = (name: keyof typeof typed, label: string) => (
    <Field
      label={label}
      inputMode="numeric"
      value={typed[name]}
      onChange={(event) => setTyped({ ...typed, [name]: event.target.value })}
    />
  );
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const { data } = await change({
      version,
      listShare: Number(typed.listShare) / 100,
      listFew: Number(typed.listFew),
      sourceShare: Number(typed.sourceShare) / 100,
      familiesOfAddress: Number(typed.familiesOfAddress),
    });
    if (data !== undefined) setVersion(data.version);
  };
  return (
    <div className="grid items-start lg:grid-cols-2 gap-3.5">
      <Panel className="px-[18px] py-3.5">
        <h2>{t("house.safetyChecks")}</h2>
        <p className="mt-1 mb-3 text-[13px] text-ink-2">{t("house.aSafetyCheckStopsA")}</p>
        <form className="flex flex-col gap-3" onSubmit={(event) => void submit(event)}>
          {field("listShare", t("house.checkWhenAListLoses"))}
          {field("listFew", t("house.andMoreThan"))}
          {field("sourceShare", t("house.checkWhenASourceHas"))}
          {field("familiesOfAddress", t("house.checkWhenOneAddressBelongs"))}
          <SettingsFault error={changing.error} onRenew={onRenew} />
          <div className="flex items-center gap-3">
            <Button
              type="submit"
              look="go"
              disabled={
                changing.isLoading ||
                Object.values(typed).some(
                  (text) => text.trim() === "" || Number.isNaN(Number(text)),
                )
              }
            >
              {t("house.saveSafetyChecks")}
            </Button>
            {changing.data !== undefined && (
              <span role="status" className="text-leaf-ink">
                {t("house.savedTheOpenRoundWas")}
              </span>
            )}
          </div>
        </form>
      </Panel>
      <Panel className="px-[18px] py-3.5">
        <h2>{t("house.whichSourceWins")}</h2>
        <p className="mt-1 mb-2 text-[13px] text-ink-2">{t("house.whenSourcesDisagreeAboutA")}</p>
        <ol className="list-decimal pl-5">
          {house.precedence.map((words) => (
            <li key={words} className="border-t border-hair-soft py-1.5">
              {words}
            </li>
          ))}
        </ol>
        <p className="mt-1 text-[13px] text-ink-3">{t("house.namesAndClassesComeFrom")}</p>
      </Panel>
    </div>
  );
}

function percent(share: number): string {
  return String(Math.round(share * 1000) / 10);
}
