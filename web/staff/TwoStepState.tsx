import type { AccountLine } from "@amigo/contract/staff";
import { type useResetTwoStepMutation } from "../data/twoStep";
import { t } from "../texts/ui";
import { Button } from "../ui/Button";

export function TwoStepState({
  resetting,
  reset,
  account,
  onDone,
}: {
  resetting: ReturnType<typeof useResetTwoStepMutation>[1];
  reset: ReturnType<typeof useResetTwoStepMutation>[0];
  account: AccountLine;
  onDone: (sentence: string) => void;
}) {
  return (
    <p className="flex flex-wrap items-center gap-x-3 text-[13px] text-ink-2">
      <span className="flex-1">{t("ui.signsInWithTwoSteps")}</span>
      <Button
        disabled={resetting.isLoading}
        onClick={() =>
          void reset(account.id).then(({ error }) => {
            if (error === undefined) onDone(t("ui.signsInWithThePassword", { name: account.name }));
          })
        }
      >
        {t("ui.resetTwoStepSignIn")}
      </Button>
    </p>
  );
}
