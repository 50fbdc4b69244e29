import { useState, type FormEvent } from "react";
import type { z } from "zod";
import type { StartPage } from "@amigo/contract/accounts";
import { api } from "../data/api";
import { useDemoSignInMutation, useEmptyDemoMutation, useSignInMutation } from "../data/accounts";
import { useStore } from "../data/store";
import { useUsePasskeyMutation } from "../data/twoStep";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { FaultLine, Panel } from "../ui/Page";
import { useMailLinkMutation } from "../data/staff";
import { SecondStep } from "./SecondStep";
import { Rich, t } from "../texts/start";

/** The door: address and password, then the second step; in the demo house also one click for each demo account. */
export function SignInPage({ start }: { start: z.output<typeof StartPage> }) {
  const dispatch = useStore();
  const enter = (): void => {
    dispatch(api.util.resetApiState());
  };
  return (
    <main className="mx-auto flex min-h-dvh max-w-md flex-col justify-center gap-4 p-6">
      <div>
        {start.picture !== "" && (
          <img src={start.picture} alt="" className="mb-3 max-h-24 max-w-full" />
        )}
        <h1 className="text-[26px]!">{start.house}</h1>
        <p className="text-ink-2">{t("start.mailingListsThatFollowThe")}</p>
      </div>
      {start.secondStep !== null ? (
        <SecondStep ways={start.secondStep} onDone={enter} />
      ) : (
        <FirstStep start={start} onDone={enter} />
      )}
    </main>
  );
}

function FirstStep({
  start,
  onDone: enter,
}: {
  start: z.output<typeof StartPage>;
  onDone: () => void;
}) {
  const [email, setEmail] = useState("");
  const [password, setPassword] = useState("");
  const [signIn, signingIn] = useSignInMutation();
  const [demoSignIn, demo] = useDemoSignInMutation();
  const [askPasskey, using] = useUsePasskeyMutation();
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const answer = await signIn({ email, password });
    if (answer.error === undefined) enter();
  };
  return (
    <>
      {start.demoAccounts.length > 0 && (
        <Panel className="overflow-hidden">
          <p className="border-b border-hair bg-marigold-soft px-4 py-2 text-marigold-ink">
            {t("start.thisIsTheDemoHouse")}
          </p>
          <ul>
            {start.demoAccounts.map(({ name, email: address, what }, index) => (
              <li key={address}>
                <button
                  type="button"
                  autoFocus={index === 0}
                  disabled={demo.isLoading}
                  onClick={() =>
                    void demoSignIn({ email: address }).then((answer) => {
                      if (answer.error === undefined) enter();
                    })
                  }
                  className="flex w-full items-baseline justify-between border-b border-hair-soft px-4 py-2 text-left hover:bg-petrol-soft focus-visible:-outline-offset-2"
                >
                  <b className="font-[620]">{name}</b>
                  <span className="text-ink-2">{what}</span>
                </button>
              </li>
            ))}
          </ul>
          <StartOver onDone={enter} />
        </Panel>
      )}
      <Panel className="p-4">
        <form className="flex flex-col gap-3" onSubmit={(event) => void submit(event)}>
          <Field
            label={t("start.emailAddress")}
            type="email"
            autoComplete="username"
            required
            value={email}
            onChange={(event) => setEmail(event.target.value)}
            autoFocus={start.demoAccounts.length === 0}
          />
          <Field
            label={t("start.password")}
            type="password"
            autoComplete="current-password"
            required
            value={password}
            onChange={(event) => setPassword(event.target.value)}
          />
          <FaultLine error={signingIn.error ?? demo.error ?? using.error} />
          <Button look="go" type="submit" disabled={signingIn.isLoading}>
            {signingIn.isLoading ? t("start.signingIn") : t("start.signIn")}
          </Button>
          {start.passkeys && (
            <Button
              disabled={using.isLoading}
              onClick={() =>
                void askPasskey().then(({ error }) => {
                  if (error === undefined) enter();
                })
              }
            >
              {t("start.signInWithAPasskey")}
            </Button>
          )}
          <ByMail email={email} />
        </form>
      </Panel>
      <p className="text-center text-[13px] text-ink-2">
        <Rich
          id="start.onAListAsA"
          a={(chunks) => (
            <a className="text-petrol underline underline-offset-2" href="/member">
              {chunks}
            </a>
          )}
        />
      </p>
    </>
  );
}

/** Starts the demo house over: its first day, before any roster is imported. Asked first, for everything in it goes. */
function StartOver({ onDone }: { onDone: () => void }) {
  const [asking, setAsking] = useState(false);
  const [empty, { isLoading, error }] = useEmptyDemoMutation();
  return (
    <div className="flex flex-wrap items-center gap-2 px-4 py-2 text-[13px]">
      {asking ? (
        <>
          <span className="flex-1">{t("start.everythingInThisDemoHouse")}</span>
          <Button onClick={() => setAsking(false)}>{t("start.cancel")}</Button>
          <Button
            disabled={isLoading}
            onClick={() =>
              void empty().then((answer) => {
                if (answer.error === undefined) {
                  setAsking(false);
                  onDone();
                }
              })
            }
          >
            {isLoading ? t("start.emptying") : t("start.removeAndStartOver")}
          </Button>
        </>
      ) : (
        <>
          <span className="flex-1 text-ink-2">{t("start.nothingImportedYet")}</span>
          <Button onClick={() => setAsking(true)}>{t("start.startWithAnEmptyRoster")}</Button>
        </>
      )}
      <FaultLine error={error} />
    </div>
  );
}

/** The ways in by a mailed link: for once, or with a new password. Both are told alike whether there is an account. */
function ByMail({ email }: { email: string }) {
  const [mail, { error, isLoading, isSuccess }] = useMailLinkMutation();
  const ask = (what: "sign-in" | "new password"): void => {
    void mail({ email, what });
  };
  if (isSuccess)
    return (
      <p role="status" className="text-[13px]">
        <Rich id="start.ifThereIsAnAccount" email={<b>{email}</b>} />
      </p>
    );
  return (
    <>
      <p className="flex flex-wrap gap-x-4 text-[13px]">
        <Button
          look="quiet"
          disabled={email.trim() === "" || isLoading}
          onClick={() => ask("sign-in")}
        >
          {t("start.mailMeALinkInstead")}
        </Button>
        <Button
          look="quiet"
          disabled={email.trim() === "" || isLoading}
          onClick={() => ask("new password")}
        >
          {t("start.iNeedANewPassword")}
        </Button>
      </p>
      <FaultLine error={error} />
    </>
  );
}
