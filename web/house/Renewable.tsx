import { Fragment, useState, type ReactNode } from "react";
import { api } from "../data/api";
import { useStore } from "../data/store";
import { t } from "../texts/ui";
import { Button } from "../ui/Button";
import { FaultLine } from "../ui/Page";

/** A form that can be begun again with what the settings are now: they are fetched first. */
export function Renewable({ children }: { children: (renew: () => void) => ReactNode }) {
  const [turn, setTurn] = useState(0);
  const dispatch = useStore();
  const renew = async (): Promise<void> => {
    dispatch(api.util.invalidateTags(["house"]));
    await Promise.all(dispatch(api.util.getRunningQueriesThunk()));
    setTurn((before) => before + 1);
  };
  return <Fragment key={turn}>{children(() => void renew())}</Fragment>;
}

/** Why settings were not saved. Where somebody else has changed them, the form can be begun again with those. */
export function SettingsFault({ error, onRenew }: { error: unknown; onRenew: () => void }) {
  const isStale =
    typeof error === "object" &&
    error !== null &&
    "type" in error &&
    error.type === "changed-since";
  return (
    <>
      <FaultLine error={error} />
      {isStale && (
        <Button className="self-start" onClick={onRenew}>
          {t("ui.showTheCurrentSettings")}
        </Button>
      )}
    </>
  );
}
