import { useState, type FormEvent, type Dispatch, type SetStateAction } from "react";
import { PROGRAM_USES, type ProgramUse } from "@amigo/core/access/programUses";
import { useMe } from "../data/me";
import {
  useEndMailPasswordMutation,
  useMakeMailPasswordMutation,
  useTwoStepQuery,
} from "../data/twoStep";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { FaultLine, Panel } from "../ui/Page";
import { dayOf, moment } from "../ui/time";
import { Rich, t } from "../texts/accounts";

/** Passwords for one's own programs, by which one writes to lists and sees dates without giving them the account's own. */
export function MailPrograms() {
  const me = useMe();
  const { data } = useTwoStepQuery();
  const [name, setName] = useState("");
  const [password, setPassword] = useState("");
  const [uses, setUses] = useState<ProgramUse[]>(["mail", "calendars"]);
  const [make, making] = useMakeMailPasswordMutation();
  const [end, ending] = useEndMailPasswordMutation();
  const programs = data?.mailPrograms ?? [];
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const answer = await make({ name, password, uses });
    if (answer.error !== undefined) return;
    setName("");
    setPassword("");
  };
  return (
    <Panel className="px-[18px] py-3.5">
      <h2>{t("accounts.mailPrograms")}</h2>
      <p className="text-[13px] text-ink-2">{t("accounts.toSendThroughAmigoFrom")}</p>
      {programs.length > 0 && (
        <ul className="mt-2">
          {programs.map((program) => (
            <li key={program.id} className="flex items-center gap-3 border-t border-hair-soft py-2">
              <span className="min-w-0 flex-1">
                <b className="font-[620]">{program.name}</b>{" "}
                <span className="text-[13px] text-ink-2">
                  {program.uses.map((use) => USES[use]).join(", ")}
                </span>
                <span className="block text-[13px] text-ink-2">
                  {program.lastUsed === null
                    ? t("accounts.notUsedYetWorksUntil", { until: dayOf(program.lastDay) })
                    : t("accounts.lastUsedWorksUntil", {
                        when: moment(program.lastUsed, me.timeZone),
                        until: dayOf(program.lastDay),
                      })}
                </span>
              </span>
              <Button disabled={ending.isLoading} onClick={() => void end(program.id)}>
                <Rich
                  id="accounts.endThePasswordOf"
                  name={program.name}
                  span={(chunks) => <span className="sr-only">{chunks}</span>}
                />
              </Button>
            </li>
          ))}
        </ul>
      )}
      {making.data !== undefined && (
        <div role="status" className="mt-2 rounded-md border border-leaf bg-leaf-soft px-3 py-2">
          <p>{t("accounts.copyItIntoTheMail", { email: me.email })}</p>
          <code className="mono wrap-anywhere select-all">{making.data.password}</code>
          {uses.includes("calendars") && (
            <p className="mt-1 text-[13px]">
              {t("accounts.serverAddress", { address: `${location.origin}/dav/` })}
            </p>
          )}
          {uses.includes("shelves") && (
            <p className="mt-1 text-[13px]">
              {t("accounts.shelvesAddress", { address: `${location.origin}/shelves/` })}
            </p>
          )}
        </div>
      )}
      <form className="mt-2 flex flex-col gap-3" onSubmit={(event) => void submit(event)}>
        <NewProgramFields
          name={name}
          setName={setName}
          password={password}
          setPassword={setPassword}
        />
        <UseFields uses={uses} setUses={setUses} />
        <FaultLine error={making.error ?? ending.error} />
        <div>
          <Button
            type="submit"
            disabled={
              name.trim() === "" || password === "" || uses.length === 0 || making.isLoading
            }
          >
            {t("accounts.makeAPassword")}
          </Button>
        </div>
      </form>
    </Panel>
  );
}

function NewProgramFields({
  name,
  setName,
  password,
  setPassword,
}: {
  name: string;
  setName: Dispatch<SetStateAction<string>>;
  password: string;
  setPassword: Dispatch<SetStateAction<string>>;
}) {
  return (
    <div className="grid gap-3 sm:grid-cols-2">
      <Field
        label={t("accounts.nameOfTheMailProgram")}
        placeholder={t("accounts.eGLaptop")}
        maxLength={80}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <Field
        label={t("accounts.accountPassword")}
        type="password"
        autoComplete="current-password"
        value={password}
        onChange={(event) => setPassword(event.target.value)}
      />
    </div>
  );
}

const USES: Record<ProgramUse, string> = {
  mail: t("accounts.sendMail"),
  calendars: t("accounts.calendarsAndAddressBooks"),
  shelves: t("accounts.shelvesAsFolders"),
};

function UseFields({
  uses,
  setUses,
}: {
  uses: readonly ProgramUse[];
  setUses: (uses: ProgramUse[]) => void;
}) {
  return (
    <fieldset className="flex flex-wrap gap-x-5 gap-y-1">
      <legend className="mb-1 text-[13px] font-[560]">{t("accounts.programUse")}</legend>
      {PROGRAM_USES.map((use) => (
        <label key={use} className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={uses.includes(use)}
            onChange={(event) =>
              setUses(event.target.checked ? [...uses, use] : uses.filter((one) => one !== use))
            }
          />
          {USES[use]}
        </label>
      ))}
    </fieldset>
  );
}
