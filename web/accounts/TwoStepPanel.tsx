import { useState, type FormEvent } from "react";
import { useSignOutMutation } from "../data/accounts";
import { api } from "../data/api";
import { useMe } from "../data/me";
import { useStore } from "../data/store";
import {
  useAddPasskeyMutation,
  useBeginAuthenticatorMutation,
  useConfirmAuthenticatorMutation,
  useRemoveAuthenticatorMutation,
  useRemovePasskeyMutation,
  useRenewRecoveryCodesMutation,
  useTwoStepQuery,
} from "../data/twoStep";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { Modal } from "../ui/Modal";
import { FaultLine, Loading, Panel } from "../ui/Page";
import { moment } from "../ui/time";
import { t } from "../texts/accounts";
import { ScanAndConfirm } from "./ScanAndConfirm";
import { RecoveryCodes } from "./RecoveryCodes";
import { Line, PasskeyLine, RecoveryCodesLine, type Doing } from "./TwoStepLines";

/** How one's own sign-in is protected by a second step. */
export function TwoStepPanel() {
  const me = useMe();
  const { data, error } = useTwoStepQuery();
  const [doing, setDoing] = useState<Doing>();
  if (error !== undefined) return <FaultLine error={error} />;
  if (data === undefined) return <Loading what={t("accounts.yourSignIn")} />;
  const isOn = data.authenticator !== null || data.passkeys.length > 0;
  return (
    <Panel className="px-[18px] py-3.5">
      <h2>{t("accounts.twoStepSignIn")}</h2>
      <p className="text-[13px] text-ink-2">
        {isOn
          ? t("accounts.onAfterYourPasswordYou")
          : data.isRequired
            ? t("accounts.yourAsksForItAfter", { kind: me.kind })
            : t("accounts.offAddAnAppOr")}
      </p>
      <ul className="mt-2">
        <Line
          name={t("accounts.authenticatorApp")}
          detail={
            data.authenticator === null
              ? t("accounts.anAppOnYourPhone")
              : t("accounts.setUp", { when: moment(data.authenticator, me.timeZone) })
          }
        >
          {data.authenticator === null ? (
            <Button onClick={() => setDoing({ what: "add app" })}>
              {t("accounts.setUpAnApp")}
            </Button>
          ) : (
            <Button onClick={() => setDoing({ what: "remove app" })}>
              {t("accounts.removeApp")}
            </Button>
          )}
        </Line>
        {data.passkeys.map(({ id, name, since, lastUsed }) => (
          <PasskeyLine
            key={id}
            id={id}
            name={name}
            lastUsed={lastUsed}
            since={since}
            me={me}
            setDoing={setDoing}
          />
        ))}
        {data.passkeysWork && (
          <Line
            name={
              data.passkeys.length === 0 ? t("accounts.passkey2") : t("accounts.anotherPasskey")
            }
            detail={t("accounts.yourFingerprintFacePinOr")}
          >
            <Button onClick={() => setDoing({ what: "add passkey" })}>
              {t("accounts.addAPasskey")}
            </Button>
          </Line>
        )}
        {isOn && <RecoveryCodesLine data={data} setDoing={setDoing} />}
      </ul>
      {doing !== undefined && (
        <TwoStepDialog key={doing.what} doing={doing} onClose={() => setDoing(undefined)} />
      )}
    </Panel>
  );
}

const TITLES: Record<Doing["what"], string> = {
  "add app": t("accounts.setUpAnAuthenticatorApp"),
  "remove app": t("accounts.removeTheAuthenticatorApp"),
  "add passkey": t("accounts.addAPasskey"),
  "remove passkey": t("accounts.removeAPasskey"),
  "new codes": t("accounts.makeNewRecoveryCodes"),
};

/** One change of how one signs in: the password first, then what it takes, then the recovery codes if there are new ones. */
function TwoStepDialog({ doing, onClose }: { doing: Doing; onClose: () => void }) {
  const dispatch = useStore();
  const [password, setPassword] = useState("");
  const [name, setName] = useState("");
  const [code, setCode] = useState("");
  const [codes, setCodes] = useState<readonly string[]>();
  const [begin, beginning] = useBeginAuthenticatorMutation();
  const [confirm, confirming] = useConfirmAuthenticatorMutation();
  const [removeApp, removingApp] = useRemoveAuthenticatorMutation();
  const [addPasskey, adding] = useAddPasskeyMutation();
  const [removePasskey, removing] = useRemovePasskeyMutation();
  const [renew, renewing] = useRenewRecoveryCodesMutation();
  const app = doing.what === "add app" ? beginning.data : undefined;
  const requests = [beginning, confirming, removingApp, adding, removing, renewing];
  const isBusy = requests.some(({ isLoading }) => isLoading);
  const isFilled =
    (app === undefined ? password !== "" : code.trim() !== "") &&
    (doing.what !== "add passkey" || name.trim() !== "");
  const close = (): void => {
    onClose();
    // Only now: a page that waits for the second step goes on once it is there, and the codes would be gone unread.
    dispatch(api.util.invalidateTags(["me", "house"]));
  };
  const show = (answer: { data?: { recoveryCodes: string[] }; error?: unknown }): void => {
    if (answer.data === undefined) return;
    if (answer.data.recoveryCodes.length === 0) close();
    else setCodes(answer.data.recoveryCodes);
  };
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    if (doing.what === "add app") {
      if (app === undefined) await begin(password);
      else show(await confirm(code));
    } else if (doing.what === "add passkey") show(await addPasskey({ password, name }));
    else if (doing.what === "new codes") show(await renew(password));
    else {
      const { error } =
        "id" in doing ? await removePasskey({ id: doing.id, password }) : await removeApp(password);
      if (error === undefined) close();
    }
  };
  if (codes !== undefined)
    return (
      <Modal title={t("accounts.keepTheseRecoveryCodes")} onClose={close}>
        <RecoveryCodes codes={codes} onClose={close} />
      </Modal>
    );
  return (
    <Modal title={TITLES[doing.what]} onClose={onClose}>
      <form className="flex flex-col gap-3" onSubmit={(event) => void submit(event)}>
        {"id" in doing && <p>{t("accounts.willNoLongerSignYou", { name: doing.name })}</p>}
        {doing.what === "new codes" && <p>{t("accounts.theCodesThatYouHave")}</p>}
        {app === undefined ? (
          <>
            {doing.what === "add passkey" && (
              <Field
                label={t("accounts.nameOfThePasskey")}
                autoFocus
                placeholder={t("accounts.eGPhoneOrLaptop")}
                maxLength={80}
                required
                value={name}
                onChange={(event) => setName(event.target.value)}
              />
            )}
            <Field
              label={t("accounts.yourPassword")}
              type="password"
              autoFocus={doing.what !== "add passkey"}
              autoComplete="current-password"
              required
              value={password}
              onChange={(event) => setPassword(event.target.value)}
              help={t("accounts.askedAgainSoThatNobody")}
            />
          </>
        ) : (
          <ScanAndConfirm app={app} code={code} onCode={setCode} />
        )}
        <FaultLine error={requests.find(({ error }) => error !== undefined)?.error} />
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>{t("accounts.cancel")}</Button>
          <Button look="go" type="submit" disabled={isBusy || !isFilled}>
            {app !== undefined
              ? t("accounts.turnOnCodes")
              : doing.what.startsWith("remove")
                ? t("accounts.remove")
                : t("accounts.continue")}
          </Button>
        </div>
      </form>
    </Modal>
  );
}

/** What stands in place of every page for an account that must set up its second step first. */
export function SetUpTwoStepPage() {
  const me = useMe();
  const dispatch = useStore();
  const [signOut] = useSignOutMutation();
  return (
    <main className="mx-auto flex min-h-dvh max-w-xl flex-col justify-center gap-4 p-6">
      <div>
        <h1 className="text-[26px]!">{me.house}</h1>
        <p className="text-ink-2">
          {t("accounts.yourAsksYourAccountFor", { name: me.name, kind: me.kind })}
        </p>
      </div>
      <TwoStepPanel />
      <p>
        <Button
          look="quiet"
          onClick={() => void signOut().then(() => dispatch(api.util.resetApiState()))}
        >
          {t("accounts.signOut")}
        </Button>
      </p>
    </main>
  );
}
