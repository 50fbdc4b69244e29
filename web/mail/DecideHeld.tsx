import { useState } from "react";
import { useDecideHeldMutation } from "../data/posts";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { FaultLine } from "../ui/Page";
import { t } from "../texts/mail";

/** What can be done with a held mail: let it out, return it with a word, drop it. */
export function DecideHeld({ id }: { id: string }) {
  const [decide, { error, isLoading }] = useDecideHeldMutation();
  const [returning, setReturning] = useState(false);
  const [word, setWord] = useState("");
  return (
    <div className="flex flex-col gap-2">
      <div className="flex flex-wrap items-end gap-2">
        <Button
          look="go"
          disabled={isLoading}
          onClick={() => void decide({ id, decision: "let out", word: "" })}
        >
          {t("mail.sendItOut")}
        </Button>
        {returning ? (
          <form
            className="flex flex-1 items-end gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              void decide({ id, decision: "return", word });
            }}
          >
            <Field
              label={t("mail.messageToTheSender")}
              className="flex-1"
              autoFocus
              value={word}
              onChange={(event) => setWord(event.target.value)}
              maxLength={1000}
              placeholder={t("mail.pleaseAskTheOfficeFor")}
            />
            <Button type="submit" disabled={isLoading}>
              {t("mail.returnToSender")}
            </Button>
            <Button look="quiet" onClick={() => setReturning(false)}>
              {t("mail.cancel")}
            </Button>
          </form>
        ) : (
          <>
            <Button disabled={isLoading} onClick={() => setReturning(true)}>
              {t("mail.returnToSender2")}
            </Button>
            <Button
              look="quiet"
              disabled={isLoading}
              onClick={() => void decide({ id, decision: "drop", word: "" })}
            >
              {t("mail.discard")}
            </Button>
          </>
        )}
      </div>
      <FaultLine error={error} />
    </div>
  );
}
