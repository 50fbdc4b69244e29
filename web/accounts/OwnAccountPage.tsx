import { useState, type FormEvent } from "react";
import { SHORTEST } from "@amigo/core/access/passwordLength";
import {
  useChangePasswordMutation,
  useEndOthersMutation,
  useEndSessionMutation,
  useSessionsQuery,
} from "../data/staff";
import { useMe } from "../data/me";
import { useOwnMemberPageMutation } from "../data/member";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { FaultLine, PageHead, Panel } from "../ui/Page";
import { moment } from "../ui/time";
import { browserName } from "./browserName";
import { OwnLanguage } from "./OwnLanguage";
import { NoticesPanel } from "./NoticesPanel";
import { MailPrograms } from "./MailPrograms";
import { TwoStepPanel } from "./TwoStepPanel";
import { t } from "../texts/accounts";

/** One's own account: how one signs in, where one is signed in, and the passwords. */
export function OwnAccountPage() {
  const me = useMe();
  return (
    <>
      <PageHead title={me.name} line={me.email} />
      <div className="grid max-w-6xl items-start gap-3.5 md:grid-cols-2">
        <div className="flex flex-col gap-3.5">
          <TwoStepPanel />
          <Sessions />
          <NoticesPanel />
        </div>
        <div className="flex flex-col gap-3.5">
          <OwnLanguage />
          <MemberPage />
          <Password />
          <MailPrograms />
        </div>
      </div>
    </>
  );
}

/** The way to the page that every member has: the lists that one's own address is on, and their shelves. */
function MemberPage() {
  const [open, { error, isLoading }] = useOwnMemberPageMutation();
  return (
    <Panel className="px-[18px] py-3.5">
      <h2>{t("accounts.yourMemberPage")}</h2>
      <p className="mt-1 mb-2 text-[13px] text-ink-2">{t("accounts.yourMemberPageHas")}</p>
      <FaultLine error={error} />
      <Button
        disabled={isLoading}
        onClick={() =>
          void open().then((answer) => {
            if (answer.error === undefined) window.location.assign("/member");
          })
        }
      >
        {t("accounts.openMemberPage")}
      </Button>
    </Panel>
  );
}

function Sessions() {
  const me = useMe();
  const { data: sessions = [], error } = useSessionsQuery();
  const [end, ending] = useEndSessionMutation();
  const [others, endingOthers] = useEndOthersMutation();
  return (
    <Panel className="px-[18px] py-3.5">
      <h2>{t("accounts.whereYouAreSignedIn")}</h2>
      <FaultLine error={error ?? ending.error ?? endingOthers.error} />
      <ul className="mt-1.5">
        {sessions.map((session) => (
          <li key={session.id} className="flex items-center gap-3 border-t border-hair-soft py-2">
            <span className="min-w-0 flex-1">
              <b className="font-[620]">{browserName(session.browser)}</b>
              {session.mine && <span className="text-ink-3"> {t("accounts.thisOne")}</span>}
              <span className="block text-[13px] text-ink-2">
                {t("accounts.sinceLastUsed", {
                  when: moment(session.since, me.timeZone),
                  when2: moment(session.lastSeen, me.timeZone),
                })}
              </span>
            </span>
            {!session.mine && (
              <Button disabled={ending.isLoading} onClick={() => void end(session.id)}>
                {t("accounts.signOutThere")}
              </Button>
            )}
          </li>
        ))}
      </ul>
      {sessions.length > 2 && (
        <Button className="mt-2" disabled={endingOthers.isLoading} onClick={() => void others()}>
          {t("accounts.signOutEverywhereElse")}
        </Button>
      )}
    </Panel>
  );
}

function Password() {
  const [current, setCurrent] = useState("");
  const [password, setPassword] = useState("");
  const [change, { error, isLoading, isSuccess }] = useChangePasswordMutation();
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const answer = await change({ current, password });
    if (answer.error === undefined) {
      setCurrent("");
      setPassword("");
    }
  };
  return (
    <Panel className="px-[18px] py-3.5">
      <h2 className="mb-1.5">{t("accounts.password")}</h2>
      <form className="flex flex-col gap-3" onSubmit={(event) => void submit(event)}>
        <Field
          label={t("accounts.currentPassword")}
          type="password"
          autoComplete="current-password"
          value={current}
          onChange={(event) => setCurrent(event.target.value)}
        />
        <Field
          label={t("accounts.newPassword")}
          type="password"
          autoComplete="new-password"
          value={password}
          onChange={(event) => setPassword(event.target.value)}
          help={t("accounts.atLeastCharactersThreeOr", { SHORTEST })}
        />
        <FaultLine error={error} />
        {isSuccess && (
          <p role="status" className="text-leaf-ink">
            {t("accounts.passwordChangedYouAreSigned")}
          </p>
        )}
        <div>
          <Button type="submit" disabled={current === "" || password === "" || isLoading}>
            {t("accounts.changePassword")}
          </Button>
        </div>
      </form>
    </Panel>
  );
}
