import { useState, type FormEvent } from "react";
import type { SECOND_STEPS } from "@amigo/contract/twoStep";
import {
  useCancelSignInMutation,
  useGiveCodeMutation,
  useUsePasskeyMutation,
} from "../data/twoStep";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { FaultLine, Panel } from "../ui/Page";
import { t } from "../texts/start";

/** The second step of a sign-in: a code, a passkey, or a recovery code. */
export function SecondStep({
  ways,
  onDone,
}: {
  ways: readonly (typeof SECOND_STEPS)[number][];
  onDone: () => void;
}) {
  const [recovering, setRecovering] = useState(!ways.includes("code") && !ways.includes("passkey"));
  const [code, setCode] = useState("");
  const [give, giving] = useGiveCodeMutation();
  const [askPasskey, using] = useUsePasskeyMutation();
  const [cancel] = useCancelSignInMutation();
  const withCode = recovering || ways.includes("code");
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const answer = await give(code);
    if (answer.error === undefined) onDone();
    else setCode("");
  };
  return (
    <Panel className="p-4">
      <h2>{t("start.secondStep")}</h2>
      <form className="mt-2 flex flex-col gap-3" onSubmit={(event) => void submit(event)}>
        {withCode && (
          <Field
            key={recovering ? "recovery" : "app"}
            label={recovering ? t("start.recoveryCode") : t("start.codeFromYourAuthenticatorApp")}
            autoFocus
            autoComplete="one-time-code"
            inputMode={recovering ? "text" : "numeric"}
            spellCheck={false}
            maxLength={40}
            required
            value={code}
            onChange={(event) => setCode(event.target.value)}
            help={recovering ? t("start.oneOfTheCodesThat") : t("start.sixDigitsTheyChangeEvery")}
          />
        )}
        <FaultLine error={giving.error ?? using.error} />
        {withCode && (
          <Button look="go" type="submit" disabled={code.trim() === "" || giving.isLoading}>
            {t("start.signIn")}
          </Button>
        )}
        {ways.includes("passkey") && (
          <Button
            look={withCode ? "plain" : "go"}
            autoFocus={!withCode}
            disabled={using.isLoading}
            onClick={() =>
              void askPasskey().then(({ error }) => {
                if (error === undefined) onDone();
              })
            }
          >
            {t("start.useAPasskey")}
          </Button>
        )}
        <p className="flex flex-wrap gap-x-4 text-[13px]">
          {ways.includes("recovery code") && !(recovering && ways.length === 1) && (
            <Button
              look="quiet"
              onClick={() => {
                setRecovering(!recovering);
                setCode("");
              }}
            >
              {recovering ? t("start.useMyAppOrPasskey") : t("start.useARecoveryCode")}
            </Button>
          )}
          <Button look="quiet" onClick={() => void cancel()}>
            {t("start.startAgain")}
          </Button>
        </p>
        <p className="text-[13px] text-ink-2">{t("start.ifYouHaveLostYour")}</p>
      </form>
    </Panel>
  );
}
