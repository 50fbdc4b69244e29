import { useState, type FormEvent } from "react";
import { SHORTEST } from "@amigo/core/access/passwordLength";
import {
  useChangePasswordMutation,
  useEndOthersMutation,
  useEndSessionMutation,
  useSessionsQuery,
} from "../data/staff";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { FaultLine, PageHead, Panel } from "../ui/Page";
import { moment } from "../ui/time";
import { MailPrograms } from "./MailPrograms";
import { TwoStepPanel } from "./TwoStepPanel";

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
        </div>
        <div className="flex flex-col gap-3.5">
          <Password />
          <MailPrograms />
        </div>
      </div>
    </>
  );
}

function Sessions() {
  const me = useMe();
  const { data: sessions = [], error } = useSessionsQuery();
  const [end, ending] = useEndSessionMutation();
  const [others, endingOthers] = useEndOthersMutation();
  return (
    <Panel className="px-[18px] py-3.5">
      <h2>Where you are signed in</h2>
      <FaultLine error={error ?? ending.error ?? endingOthers.error} />
      <ul className="mt-1.5">
        {sessions.map((own) => (
          <li key={own.id} className="flex items-center gap-3 border-t border-hair-soft py-2">
            <span className="min-w-0 flex-1">
              <b className="font-[620]">{browserName(own.browser)}</b>
              {own.mine && <span className="text-ink-3"> (this one)</span>}
              <span className="block text-[13px] text-ink-2">
                since {moment(own.since, me.timeZone)}, last used{" "}
                {moment(own.lastSeen, me.timeZone)}
              </span>
            </span>
            {!own.mine && (
              <Button disabled={ending.isLoading} onClick={() => void end(own.id)}>
                Sign out there
              </Button>
            )}
          </li>
        ))}
      </ul>
      {sessions.length > 2 && (
        <Button className="mt-2" disabled={endingOthers.isLoading} onClick={() => void others()}>
          Sign out everywhere else
        </Button>
      )}
    </Panel>
  );
}

/** A browser in two words, from how it calls itself. */
function browserName(agent: string): string {
  const browser = (/(Firefox|Edg|OPR|Chrome|Safari)\//.exec(agent)?.[1] ?? "")
    .replace("Edg", "Edge")
    .replace("OPR", "Opera");
  const system = /(Windows|Android|iPhone|iPad|Mac OS X|Linux)/.exec(agent)?.[1] ?? "";
  return browser === ""
    ? agent === ""
      ? "A program"
      : agent.slice(0, 40)
    : `${browser}${system === "" ? "" : ` on ${system}`}`;
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
      <h2 className="mb-1.5">Password</h2>
      <form className="flex flex-col gap-3" onSubmit={(event) => void submit(event)}>
        <Field
          label="Current password"
          type="password"
          autoComplete="current-password"
          value={current}
          onChange={(event) => setCurrent(event.target.value)}
        />
        <Field
          label="New password"
          type="password"
          autoComplete="new-password"
          value={password}
          onChange={(event) => setPassword(event.target.value)}
          help={`At least ${SHORTEST} characters. Three or four words with spaces are easy to remember.`}
        />
        <FaultLine error={error} />
        {isSuccess && (
          <p role="status" className="text-leaf-ink">
            ✓ Password changed. You are signed out everywhere else.
          </p>
        )}
        <div>
          <Button type="submit" disabled={current === "" || password === "" || isLoading}>
            Change password
          </Button>
        </div>
      </form>
    </Panel>
  );
}
