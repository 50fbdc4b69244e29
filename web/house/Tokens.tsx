import { say } from "@amigo/language/say";
import { TOKEN_SCOPE_NAMES, TOKEN_SCOPES, type TokenScope } from "@amigo/core/access/tokenScopes";
import {
  useState,
  type FormEvent,
  type ReactNode,
  type Dispatch,
  type SetStateAction,
} from "react";
import { useMakeTokenMutation, useRevokeTokenMutation, useTokensQuery } from "../data/house";
import { useMe } from "../data/me";
import { Rich, t } from "../texts/house";
import { Button } from "../ui/Button";
import { DayField } from "../ui/DayField";
import { FaultLine, Panel } from "../ui/Page";
import { dayOf, moment } from "../ui/time";

function Section({ title, line, children }: { title: string; line?: string; children: ReactNode }) {
  return (
    <Panel className="px-[18px] py-3.5">
      <h2>{title}</h2>
      {line !== undefined && <p className="text-[13px] text-ink-2">{line}</p>}
      <div className="mt-2">{children}</div>
    </Panel>
  );
}

/** The day a year from now, as a field for dates has it. */
function aYearOn(): string {
  const day = new Date();
  day.setFullYear(day.getFullYear() + 1);
  return day.toISOString().slice(0, 10);
}

/** The tokens by which scripts ask the API: made, looked at and revoked. */
export function Tokens() {
  const me = useMe();
  const { data: tokens = [], error } = useTokensQuery();
  const [make, making] = useMakeTokenMutation();
  const [revoke, revoking] = useRevokeTokenMutation();
  const [name, setName] = useState("");
  const [scopes, setScopes] = useState<readonly TokenScope[]>(["read lists"]);
  const [lastDay, setLastDay] = useState(aYearOn);
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const answer = await make({ name, scopes: [...scopes], lastDay });
    if (answer.error === undefined) setName("");
  };
  return (
    <div className="flex max-w-3xl flex-col gap-3.5">
      <Section title={t("house.apiTokens")} line={t("house.aTokenLetsAScript")}>
        <TokenForm
          submit={submit}
          name={name}
          setName={setName}
          lastDay={lastDay}
          setLastDay={setLastDay}
          scopes={scopes}
          setScopes={setScopes}
          making={making}
        />
        <div className="mt-2">
          <FaultLine error={making.error ?? revoking.error ?? error} />
        </div>
        {making.data !== undefined && (
          <div role="status" className="mt-2 rounded-md border border-leaf bg-leaf-soft px-3 py-2">
            <p>{t("house.copyItNowItIs")}</p>
            <code className="mono wrap-anywhere select-all">{making.data.token}</code>
          </div>
        )}
        <ul className="mt-3">
          {tokens.map((token) => (
            <li key={token.id} className="flex items-center gap-3 border-t border-hair-soft py-2">
              <span className="flex-1">
                <b className="font-[560]">{token.name}</b>
                <span className="block text-[13px] text-ink-2">
                  {token.scopes.map((scope) => say(TOKEN_SCOPES[scope].words)).join("; ")}
                  {token.lastDay !== null &&
                    t("house.tokenWorksUntil", { when: dayOf(token.lastDay) })}
                </span>
              </span>
              <span className="text-[13px] text-ink-2">
                {token.by}, {moment(token.createdAt, me.timeZone)}
                {token.lastUsedAt === null
                  ? t("house.notUsedYet")
                  : t("house.lastUsed", { when: moment(token.lastUsedAt, me.timeZone) })}
              </span>
              <Button onClick={() => void revoke(token.id)}>{t("house.revoke")}</Button>
            </li>
          ))}
        </ul>
        {tokens.length === 0 && <p className="mt-2 text-ink-2">{t("house.noTokenIsInForce")}</p>}
        <p className="mt-3 text-[13px] text-ink-2">
          <Rich
            id="house.whatScriptsCanAskThe"
            a={(chunks) => (
              <a
                className="text-petrol underline"
                href="/api/openapi.json"
                target="_blank"
                rel="noreferrer"
              >
                {chunks}
              </a>
            )}
          />
        </p>
      </Section>
    </div>
  );
}

function TokenForm({
  submit,
  name,
  setName,
  lastDay,
  setLastDay,
  scopes,
  setScopes,
  making,
}: {
  submit: (event: FormEvent) => Promise<void>;
  name: string;
  setName: Dispatch<SetStateAction<string>>;
  lastDay: string;
  setLastDay: Dispatch<SetStateAction<string>>;
  scopes: readonly TokenScope[];
  setScopes: Dispatch<SetStateAction<readonly TokenScope[]>>;
  making: ReturnType<typeof useMakeTokenMutation>[1];
}) {
  return (
    <form className="flex flex-col gap-3" onSubmit={(event) => void submit(event)}>
      <div className="flex flex-wrap items-end gap-3">
        <input
          aria-label={t("house.nameOfTheToken")}
          placeholder={t("house.whatItIsForE")}
          value={name}
          onChange={(event) => setName(event.target.value)}
          className="h-[30px] w-72 max-w-full rounded-md border border-hair bg-panel px-2.5"
        />
        <DayField
          inline
          label={t("house.lastDay")}
          value={lastDay}
          onChange={setLastDay}
          required
        />
      </div>
      <fieldset>
        <legend className="mb-1 text-[13px] text-ink-2">{t("house.whatTheTokenMayDo")}</legend>
        <div className="grid gap-x-4 gap-y-1 sm:grid-cols-2">
          {TOKEN_SCOPE_NAMES.map((scope) => (
            <label key={scope} className="flex items-center gap-2">
              <input
                type="checkbox"
                checked={scopes.includes(scope)}
                onChange={(event) =>
                  setScopes(
                    event.target.checked
                      ? [...scopes, scope]
                      : scopes.filter((candidate) => candidate !== scope),
                  )
                }
              />
              {say(TOKEN_SCOPES[scope].words)}
            </label>
          ))}
        </div>
      </fieldset>
      <div>
        <Button
          look="go"
          type="submit"
          disabled={name.trim() === "" || scopes.length === 0 || making.isLoading}
        >
          {t("house.makeAToken")}
        </Button>
      </div>
    </form>
  );
}
