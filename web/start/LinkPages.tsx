import { useState, type FormEvent } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { SHORTEST } from "@amigo/core/access/passwordLength";
import { api } from "../data/api";
import {
  useChoosePasswordMutation,
  useLookAtLinkQuery,
  useSignInByLinkMutation,
} from "../data/staff";
import { useStore } from "../data/store";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { FaultLine, Loading, Panel } from "../ui/Page";
import { t } from "../texts/start";

/** Behind an invitation, or a link for a new password: choosing one, and being signed in. */
export function PasswordPage() {
  const { token = "" } = useParams();
  const navigate = useNavigate();
  const dispatch = useStore();
  const { data: link, error } = useLookAtLinkQuery(token);
  const [password, setPassword] = useState("");
  const [choose, choosing] = useChoosePasswordMutation();
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const answer = await choose({ token, password });
    if (answer.error !== undefined) return;
    dispatch(api.util.resetApiState());
    void navigate("/", { replace: true });
  };
  return (
    <main className="mx-auto flex min-h-dvh max-w-md flex-col justify-center gap-4 p-6">
      {link === undefined ? (
        error === undefined ? (
          <Loading what={t("start.theLink")} />
        ) : (
          <>
            <FaultLine error={error} />
            <Link to="/" className="text-petrol underline underline-offset-2">
              {t("start.toTheSignInPage")}
            </Link>
          </>
        )
      ) : (
        <>
          <div>
            <h1 className="text-[26px]!">{link.house}</h1>
            <p className="text-ink-2">
              {link.what === "invitation"
                ? t("start.welcomeChooseAPasswordAnd", { name: link.name })
                : t("start.chooseANewPasswordYou", { name: link.name })}
            </p>
          </div>
          <Panel className="p-4">
            <form className="flex flex-col gap-3" onSubmit={(event) => void submit(event)}>
              <input type="hidden" autoComplete="username" value={link.email} readOnly />
              <p className="mono text-ink-2">{link.email}</p>
              <Field
                label={t("start.password")}
                type="password"
                autoFocus
                autoComplete="new-password"
                value={password}
                onChange={(event) => setPassword(event.target.value)}
                help={t("start.atLeastCharactersThreeOr", { SHORTEST })}
              />
              <FaultLine error={choosing.error} />
              <Button look="go" type="submit" disabled={password === "" || choosing.isLoading}>
                {t("start.chooseItAndSignIn")}
              </Button>
            </form>
          </Panel>
        </>
      )}
    </main>
  );
}

/** Behind a sign-in link. Programs that look at links in mails must not use it up, so it waits for a click. */
export function EnterPage() {
  const { token = "" } = useParams();
  const navigate = useNavigate();
  const dispatch = useStore();
  const [enter, { error, isLoading }] = useSignInByLinkMutation();
  const submit = async (): Promise<void> => {
    const answer = await enter(token);
    if (answer.error !== undefined) return;
    dispatch(api.util.resetApiState());
    void navigate("/", { replace: true });
  };
  return (
    <main className="mx-auto flex min-h-dvh max-w-md flex-col justify-center gap-4 p-6">
      <h1 className="text-[26px]!">{t("start.signIn")}</h1>
      <FaultLine error={error} />
      {error === undefined ? (
        <Button look="go" autoFocus disabled={isLoading} onClick={() => void submit()}>
          {t("start.signInOnThisDevice")}
        </Button>
      ) : (
        <Link to="/" className="text-petrol underline underline-offset-2">
          {t("start.toTheSignInPage")}
        </Link>
      )}
    </main>
  );
}
