import { useState, type FormEvent } from "react";
import type { NamingSettings } from "@amigo/contract/naming";
import { useChangeNamingMutation, useNamingQuery } from "../data/edits";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Field } from "../ui/Field";
import { FaultLine, Panel } from "../ui/Page";
import { Renewable, SettingsFault } from "./Renewable";
import { Rich, t } from "../texts/house";

/** What names have to keep to: how long they may be, which the house keeps for itself, whether the convention binds. */
export function NamingRules() {
  const { data, error } = useNamingQuery();
  if (error !== undefined) return <FaultLine error={error} />;
  return data === undefined ? null : (
    <Renewable>{(renew) => <Rules settings={data} onRenew={renew} />}</Renewable>
  );
}

function Rules({ settings, onRenew }: { settings: NamingSettings; onRenew: () => void }) {
  const [version, setVersion] = useState(settings.version);
  const [limit, setLimit] = useState(String(settings.nameLimit));
  const [reserved, setReserved] = useState(settings.reserved.join(", "));
  const [convention, setConvention] = useState(settings.convention);
  const [change, changing] = useChangeNamingMutation();
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const { data } = await change({
      version,
      nameLimit: Number(limit),
      reserved: reserved.split(/[\s,;]+/).filter((name) => name !== ""),
      convention,
    });
    if (data !== undefined) setVersion(data.version);
  };
  return (
    <Panel className="px-4 py-3.5">
      <h2 className="mb-2">{t("house.namingRules")}</h2>
      <form className="flex flex-col gap-2" onSubmit={(event) => void submit(event)}>
        <p>
          <Rich
            id="house.theConventionListsMayHave"
            choice={
              <Choice
                small
                label={t("house.theConvention")}
                value={convention}
                onChange={setConvention}
                options={[
                  { value: "advises", name: t("house.advises") },
                  { value: "binds", name: t("house.binds") },
                ]}
              />
            }
            isConvention={String(convention === "advises")}
          />
        </p>
        <Field
          label={t("house.longestNameThatIsEasy")}
          type="number"
          min={8}
          max={54}
          value={limit}
          onChange={(event) => setLimit(event.target.value)}
        />
        <Field
          label={t("house.reservedNames")}
          value={reserved}
          onChange={(event) => setReserved(event.target.value)}
          placeholder={t("house.officeBoardPress")}
          help={t("house.besideThoseOfRfc2142")}
        />
        <SettingsFault error={changing.error} onRenew={onRenew} />
        {changing.isSuccess && (
          <span role="status" className="text-leaf-ink">
            {t("house.saved")}
          </span>
        )}
        <Button type="submit" className="self-start" disabled={changing.isLoading}>
          {t("house.saveNamingRules")}
        </Button>
      </form>
    </Panel>
  );
}
