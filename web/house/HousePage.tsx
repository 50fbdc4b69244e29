import { say } from "@amigo/language/say";
import { TOKEN_SCOPE_NAMES, TOKEN_SCOPES, type TokenScope } from "@amigo/core/access/tokenScopes";
import { capital } from "@amigo/core/text/sentence";
import {
  useState,
  type FormEvent,
  type ReactNode,
  type Dispatch,
  type SetStateAction,
} from "react";
import { useSearchParams } from "react-router";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { FaultLine, FaultPage, Loading, PageHead, Panel } from "../ui/Page";
import { Tabs } from "../ui/Tabs";
import { dayOf, moment } from "../ui/time";
import { Accounts } from "../staff/Accounts";
import { Basics } from "./Basics";
import { Guarding } from "./Guarding";
import { HouseMail } from "./HouseMail";
import { HouseRules } from "./HouseRules";
import { Journal } from "./Journal";
import { NamingWorkshop } from "./NamingWorkshop";
import { Recipes } from "./Recipes";
import { RetentionTab } from "./Retention";
import { Seasons } from "./Seasons";
import {
  useHouseQuery,
  useMakeTokenMutation,
  useRevokeTokenMutation,
  useTokensQuery,
} from "../data/house";
import { DayField } from "../ui/DayField";
import { t } from "../texts/t";
import { Rich } from "../texts/Rich";

/** The settings by what they are about; the first page of a group is the one that opens. */
const GROUPS = [
  {
    id: "lists",
    name: t("house.lists"),
    line: t("house.whichListsThereAreWhat"),
    pages: [
      ["", t("house.recipes")],
      ["names", t("house.naming")],
      ["rules", t("house.rules")],
      ["guards", t("house.safetyChecks")],
    ],
  },
  {
    id: "school",
    name: "",
    line: t("house.namePlaceDomainsAndSites"),
    pages: [
      ["places", t("house.nameAndDomains")],
      ["seasons", t("house.seasons")],
    ],
  },
  {
    id: "people",
    name: t("house.people"),
    line: t("house.whoCanSignInWhich"),
    pages: [
      ["people", t("house.accounts")],
      ["tokens", t("house.apiTokens")],
      ["retention", t("house.retention")],
    ],
  },
  {
    id: "mail",
    name: t("house.mail"),
    line: t("house.sendingDigestsHeldMailAnd"),
    pages: [["mail", t("house.mail")]],
  },
  {
    id: "journal",
    name: t("house.journal"),
    line: t("house.whoDidWhatAndWhen"),
    pages: [["journal", t("house.journal")]],
  },
] as const;

/** The settings: lists, the school itself, people, mail, and the journal. */
export function HousePage() {
  const { data: house, error } = useHouseQuery();
  const [search, setSearch] = useSearchParams();
  const tab = search.get("tab") ?? "";
  const group = GROUPS.find(({ pages }) => pages.some(([id]) => id === tab)) ?? GROUPS[0];
  if (error !== undefined) return <FaultPage error={error} />;
  if (house === undefined) return <Loading what={t("house.theSettings")} />;
  const open = (id: string): void => setSearch(id === "" ? {} : { tab: id });
  return (
    <div className="flex flex-col lg:min-h-0 lg:flex-1">
      <PageHead title={t("house.settings")} line={group.line} />
      <Tabs
        label={t("house.settings")}
        value={group.id}
        tabs={GROUPS.map(({ id, name }) => [id, name === "" ? capital(house.kind) : name] as const)}
        onChange={(id) => open(GROUPS.find((candidate) => candidate.id === id)?.pages[0][0] ?? "")}
      />
      {group.pages.length > 1 && (
        <nav
          aria-label={t("house.pagesOfTheseSettings")}
          className="-mt-1 mb-3.5 flex flex-wrap gap-1.5"
        >
          {group.pages.map(([id, name]) => (
            <button
              key={id}
              type="button"
              aria-current={id === tab ? "page" : undefined}
              onClick={() => open(id)}
              className={`rounded-full border px-3 py-0.5 text-[13px] ${id === tab ? "border-petrol bg-petrol-soft font-[620] text-petrol" : "border-hair bg-panel text-ink-2 hover:border-petrol"}`}
            >
              {name}
            </button>
          ))}
        </nav>
      )}
      {tab === "" && <Recipes house={house} />}
      {tab === "names" && <NamingWorkshop house={house} />}
      {tab === "rules" && <HouseRules />}
      {tab === "seasons" && <Seasons house={house} />}
      {tab === "places" && <Basics house={house} />}
      {tab === "guards" && <Guarding house={house} />}
      {tab === "people" && <Accounts />}
      {tab === "mail" && <HouseMail />}
      {tab === "tokens" && <Tokens />}
      {tab === "retention" && <RetentionTab />}
      {tab === "journal" && <Journal />}
    </div>
  );
}

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

function Tokens() {
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
              {say(say(TOKEN_SCOPES[scope].words))}
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
