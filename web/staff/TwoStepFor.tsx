import type { TwoStepFor as Wanted } from "@amigo/core/access/twoStep";
import { useHouseQuery } from "../data/house";
import { useAskForTwoStepMutation } from "../data/twoStep";
import { Rich, t } from "../texts/ui";
import { Choice } from "../ui/Choice";
import { FaultLine } from "../ui/Page";

const WANTED: readonly { value: Wanted; name: string }[] = [
  { value: "nobody", name: t("ui.nobody") },
  { value: "coordinators", name: t("ui.coordinatorsAndSiteCoordinators") },
  { value: "everybody", name: t("ui.everybodyWithAnAccount") },
];

/** Whose sign-in needs a second step. */
export function TwoStepFor() {
  const { data: house } = useHouseQuery();
  const [change, { error }] = useAskForTwoStepMutation();
  if (house === undefined) return null;
  return (
    <div className="mb-3 flex flex-col gap-2">
      <p>
        <Rich
          id="ui.twoStepSignInIs"
          choice={
            <Choice
              small
              label={t("ui.whoNeedsTwoStepSign")}
              value={house.twoStep}
              options={WANTED}
              onChange={(value) => void change(value)}
            />
          }
          span={(chunks) => <span className="text-[13px] text-ink-2">{chunks}</span>}
        />
      </p>
      <FaultLine error={error} />
    </div>
  );
}
