import type { Dispatch, SetStateAction } from "react";
import { t } from "../texts/mail";
import { Button } from "../ui/Button";
import { DayField } from "../ui/DayField";

export function LaterForm({
  submit,
  at,
  setAt,
  isReady,
}: {
  submit: (how: "now" | "later", asked?: readonly string[]) => Promise<void>;
  at: string;
  setAt: Dispatch<SetStateAction<string>>;
  isReady: boolean;
}) {
  return (
    <form
      className="flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void submit("later");
      }}
    >
      <DayField label={t("mail.itGoesOut")} withTime required value={at} onChange={setAt} />
      <Button type="submit" look="go" disabled={at === "" || !isReady}>
        {t("mail.sendAtThatTime")}
      </Button>
      <span className="pb-1.5 text-[13px] text-ink-3">{t("mail.toWhoeverIsOnThe")}</span>
    </form>
  );
}
