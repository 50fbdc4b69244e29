import type { Dispatch, SetStateAction } from "react";
import { t } from "../texts/mail";
import { Button } from "../ui/Button";
import { Modal } from "../ui/Modal";
import { Warn } from "../ui/Signs";

export function AskFirst({
  setAsking,
  asks,
  submit,
  asking,
}: {
  setAsking: Dispatch<SetStateAction<"now" | "later" | undefined>>;
  asks: { id: string; sentence: string }[];
  submit: (how: "now" | "later", asked?: readonly string[]) => Promise<void>;
  asking: "now" | "later";
}) {
  return (
    <Modal title={t("mail.checkBeforeSending")} onClose={() => setAsking(undefined)}>
      <ul className="mb-4 flex flex-col gap-2">
        {asks.map(({ id: ask, sentence }) => (
          <li key={ask}>
            <Warn>{sentence}</Warn>
          </li>
        ))}
      </ul>
      <div className="flex justify-end gap-2">
        <Button autoFocus onClick={() => setAsking(undefined)}>
          {t("mail.backToTheMail")}
        </Button>
        <Button
          look="go"
          onClick={() =>
            void submit(
              asking,
              asks.map((ask) => ask.id),
            )
          }
        >
          {t("mail.sendAnyway")}
        </Button>
      </div>
    </Modal>
  );
}
