import { useState, type FormEvent, type ReactNode } from "react";
import { counted } from "@amigo/core/text/sentence";
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

type Doing =
  | { what: "add app" | "remove app" | "add passkey" | "new codes" }
  | { what: "remove passkey"; id: string; name: string };

/** How one's own sign-in is protected by a second step. */
export function TwoStepPanel() {
  const me = useMe();
  const { data, error } = useTwoStepQuery();
  const [doing, setDoing] = useState<Doing>();
  if (error !== undefined) return <FaultLine error={error} />;
  if (data === undefined) return <Loading what="your sign-in" />;
  const isOn = data.authenticator !== null || data.passkeys.length > 0;
  return (
    <Panel className="px-[18px] py-3.5">
      <h2>Two-step sign-in</h2>
      <p className="text-[13px] text-ink-2">
        {isOn
          ? "On. After your password you are asked for a code or a passkey, so that nobody gets in with the password alone."
          : data.isRequired
            ? `Your ${me.kind} asks for it: after your password you give a code from your phone or use a passkey. Set up one of the two.`
            : "Off. Add an app or a passkey, and nobody gets in with your password alone."}
      </p>
      <ul className="mt-2">
        <Line
          name="Authenticator app"
          detail={
            data.authenticator === null
              ? "An app on your phone that shows a new code every 30 seconds"
              : `Set up ${moment(data.authenticator, me.timeZone)}`
          }
        >
          {data.authenticator === null ? (
            <Button onClick={() => setDoing({ what: "add app" })}>Set up an app</Button>
          ) : (
            <Button onClick={() => setDoing({ what: "remove app" })}>Remove app</Button>
          )}
        </Line>
        {data.passkeys.map(({ id, name, since, lastUsed }) => (
          <Line
            key={id}
            name={`Passkey “${name}”`}
            detail={`Added ${moment(since, me.timeZone)}${lastUsed === null ? "" : `, last used ${moment(lastUsed, me.timeZone)}`}`}
          >
            <Button onClick={() => setDoing({ what: "remove passkey", id, name })}>
              Remove<span className="sr-only"> the passkey {name}</span>
            </Button>
          </Line>
        ))}
        {data.passkeysWork && (
          <Line
            name={data.passkeys.length === 0 ? "Passkey" : "Another passkey"}
            detail="Your fingerprint, face, PIN or a security key. It can also sign you in alone."
          >
            <Button onClick={() => setDoing({ what: "add passkey" })}>Add a passkey</Button>
          </Line>
        )}
        {isOn && (
          <Line
            name="Recovery codes"
            detail={
              data.recoveryCodes === 0
                ? "None left. Make new ones for the day your phone is lost."
                : `${counted(data.recoveryCodes, "code")} left, for the day your phone is lost`
            }
          >
            <Button onClick={() => setDoing({ what: "new codes" })}>Make new codes</Button>
          </Line>
        )}
      </ul>
      {doing !== undefined && (
        <TwoStepDialog key={doing.what} doing={doing} onClose={() => setDoing(undefined)} />
      )}
    </Panel>
  );
}

function Line({ name, detail, children }: { name: string; detail: string; children: ReactNode }) {
  return (
    <li className="flex flex-wrap items-center gap-3 border-t border-hair-soft py-2">
      <span className="min-w-48 flex-1">
        <b className="font-[620]">{name}</b>
        <span className="block text-[13px] text-ink-2">{detail}</span>
      </span>
      {children}
    </li>
  );
}

const TITLES: Record<Doing["what"], string> = {
  "add app": "Set up an authenticator app",
  "remove app": "Remove the authenticator app",
  "add passkey": "Add a passkey",
  "remove passkey": "Remove a passkey",
  "new codes": "Make new recovery codes",
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
  const isBusy =
    beginning.isLoading ||
    confirming.isLoading ||
    removingApp.isLoading ||
    adding.isLoading ||
    removing.isLoading ||
    renewing.isLoading;
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
      <Modal title="Keep these recovery codes" onClose={close}>
        <RecoveryCodes codes={codes} onClose={close} />
      </Modal>
    );
  return (
    <Modal title={TITLES[doing.what]} onClose={onClose}>
      <form className="flex flex-col gap-3" onSubmit={(event) => void submit(event)}>
        {"id" in doing && (
          <p>
            “{doing.name}” will no longer sign you in. It stays on your device until you delete it
            there.
          </p>
        )}
        {doing.what === "new codes" && <p>The codes that you have now stop working.</p>}
        {app === undefined ? (
          <>
            {doing.what === "add passkey" && (
              <Field
                label="Name of the passkey"
                autoFocus
                placeholder="e.g. Phone, or Laptop at work"
                maxLength={80}
                required
                value={name}
                onChange={(event) => setName(event.target.value)}
              />
            )}
            <Field
              label="Your password"
              type="password"
              autoFocus={doing.what !== "add passkey"}
              autoComplete="current-password"
              required
              value={password}
              onChange={(event) => setPassword(event.target.value)}
              help="Asked again so that nobody changes this at your open browser."
            />
          </>
        ) : (
          <ScanAndConfirm app={app} code={code} onCode={setCode} />
        )}
        <FaultLine
          error={
            beginning.error ??
            confirming.error ??
            removingApp.error ??
            adding.error ??
            removing.error ??
            renewing.error
          }
        />
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button
            look="go"
            type="submit"
            disabled={
              isBusy ||
              (app === undefined ? password === "" : code.trim() === "") ||
              (doing.what === "add passkey" && name.trim() === "")
            }
          >
            {app !== undefined
              ? "Turn on codes"
              : doing.what.startsWith("remove")
                ? "Remove"
                : "Continue"}
          </Button>
        </div>
      </form>
    </Modal>
  );
}

function ScanAndConfirm({
  app,
  code,
  onCode,
}: {
  app: { secret: string; picture: string };
  code: string;
  onCode: (code: string) => void;
}) {
  return (
    <div className="flex flex-wrap gap-4">
      <img
        src={`data:image/svg+xml;utf8,${encodeURIComponent(app.picture)}`}
        alt="QR code of the secret below"
        className="size-44 rounded-md border border-hair bg-white"
      />
      <div className="flex min-w-60 flex-1 flex-col gap-3">
        <p>
          Scan the picture with your authenticator app. If you can’t, type this secret into the app:
        </p>
        <code className="mono wrap-anywhere select-all">
          {(app.secret.match(/.{1,4}/g) ?? []).join(" ")}
        </code>
        <Field
          label="Code that the app shows"
          autoFocus
          autoComplete="one-time-code"
          inputMode="numeric"
          maxLength={40}
          required
          value={code}
          onChange={(event) => onCode(event.target.value)}
        />
      </div>
    </div>
  );
}

function RecoveryCodes({ codes, onClose }: { codes: readonly string[]; onClose: () => void }) {
  const text = codes.join("\n");
  return (
    <div className="flex flex-col gap-3">
      <p>
        Print them or keep them where you keep passwords. Each signs you in once, if your phone or
        passkey is lost. They are not shown again.
      </p>
      <ul
        aria-label="Recovery codes"
        className="mono grid grid-cols-2 gap-x-6 gap-y-1 rounded-md border border-hair bg-mist px-4 py-3"
      >
        {codes.map((code) => (
          <li key={code}>{code}</li>
        ))}
      </ul>
      <div className="flex flex-wrap justify-end gap-2">
        <Button onClick={() => void navigator.clipboard.writeText(text)}>Copy codes</Button>
        <a
          className="inline-flex min-h-[30px] items-center rounded-md border border-hair bg-panel px-3 font-[560] hover:border-petrol"
          download="amigo-recovery-codes.txt"
          href={`data:text/plain;charset=utf-8,${encodeURIComponent(`${text}\n`)}`}
        >
          Save as file
        </a>
        <Button look="go" autoFocus onClick={onClose}>
          I have kept them
        </Button>
      </div>
    </div>
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
          {me.name}, your {me.kind} asks your account for two-step sign-in. Set it up, and you can
          go on.
        </p>
      </div>
      <TwoStepPanel />
      <p>
        <Button
          look="quiet"
          onClick={() => void signOut().then(() => dispatch(api.util.resetApiState()))}
        >
          Sign out
        </Button>
      </p>
    </main>
  );
}
