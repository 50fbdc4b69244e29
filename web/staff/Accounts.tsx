import { useState, type FormEvent, type Dispatch, type SetStateAction } from "react";
import type { AccountLine } from "@amigo/contract/staff";
import { may, type HouseRole } from "@amigo/core/access/may";
import { each } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { useMe } from "../data/me";
import {
  useAccountsQuery,
  useChangeAccountMutation,
  useEndAccountMutation,
  useInviteAgainMutation,
  useInviteMutation,
} from "../data/staff";
import { useResetTwoStepMutation } from "../data/twoStep";
import { Rich } from "../texts/Rich";
import { t } from "../texts/t";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { DayField } from "../ui/DayField";
import { Modal } from "../ui/Modal";
import { FaultLine, Loading, Panel } from "../ui/Page";
import { WideTable } from "../ui/WideTable";
import { dayOf, today } from "../ui/time";
import { AccountButtons } from "./AccountButtons";
import { HelperSheets } from "./HelperSheets";
import { PersonFields } from "./PersonFields";
import { TwoStepFor } from "./TwoStepFor";
import { TwoStepState } from "./TwoStepState";

const ROLES: Record<HouseRole, { name: string; what: string }> = {
  coordinator: { name: t("ui.coordinator"), what: t("ui.doesEverything") },
  "site coordinator": {
    name: t("ui.siteCoordinator"),
    what: t("ui.looksAfterTheListsAnd"),
  },
  staff: { name: t("ui.staff"), what: t("ui.seesAndWritesToWhat") },
  helper: { name: t("ui.helper"), what: t("ui.addsRowsToSingleSheets") },
};

/** Who can sign in, as what and until when; inviting, changing, ending. */
export function Accounts() {
  const me = useMe();
  const { data, error } = useAccountsQuery();
  const [editing, setEditing] = useState<AccountLine | "new">();
  const [again, inviting] = useInviteAgainMutation();
  const [end, ending] = useEndAccountMutation();
  const [said, setSaid] = useState("");
  if (error !== undefined) return <FaultLine error={error} />;
  if (data === undefined) return <Loading what={t("ui.theAccounts")} />;
  const head = "px-4 py-1.5 font-[500]";
  return (
    <>
      {said !== "" && (
        <p role="status" className="mb-3 rounded-md border border-leaf bg-leaf-soft px-3 py-2">
          {said}
        </p>
      )}
      <div className="mb-2.5 flex items-center gap-3">
        <p className="text-ink-2">{t("ui.whoCanSignInMembers")}</p>
        <Button look="go" className="ml-auto" onClick={() => setEditing("new")}>
          {t("ui.inviteSomebody")}
        </Button>
      </div>
      <FaultLine error={inviting.error ?? ending.error} />
      {may(me.role, "change the house") && <TwoStepFor />}
      <Panel className="overflow-hidden">
        <WideTable label={t("ui.accounts")} className="w-full">
          <AccountsHead head={head} />
          <tbody>
            {data.accounts.map((account) => (
              <tr
                key={account.id}
                className={`border-b border-hair-soft last:border-b-0 ${account.state === "ended" ? "text-ink-3" : ""}`}
              >
                <td className="px-4 py-2 font-[620]">
                  {account.name}
                  {account.mine && <span className="font-normal text-ink-3"> {t("ui.you")}</span>}
                </td>
                <td className="mono px-4 py-2">{account.email}</td>
                <RoleCell account={account} />
                <td className="px-4 py-2 text-ink-2">
                  {account.leads === 0 ? "" : t("ui.lists", { leads: account.leads })}
                </td>
                <td className="px-4 py-2 text-ink-2">
                  {account.twoStep ? t("ui.on") : t("ui.off")}
                </td>
                <AccountButtons
                  account={account}
                  inviting={inviting}
                  again={again}
                  setSaid={setSaid}
                  ending={ending}
                  end={end}
                  setEditing={setEditing}
                />
              </tr>
            ))}
          </tbody>
        </WideTable>
      </Panel>
      {editing !== undefined && (
        <AccountDialog
          account={editing === "new" ? undefined : editing}
          roles={data.roles}
          sites={data.sites}
          sources={data.sources}
          onClose={() => setEditing(undefined)}
          onDone={(sentence) => {
            setEditing(undefined);
            setSaid(sentence);
          }}
        />
      )}
    </>
  );
}

function AccountDialog({
  account,
  roles,
  sites,
  sources,
  onClose,
  onDone,
}: {
  account: AccountLine | undefined;
  roles: readonly HouseRole[];
  sites: readonly string[];
  sources: readonly { id: string; name: string }[];
  onClose: () => void;
  onDone: (sentence: string) => void;
}) {
  const me = useMe();
  const [name, setName] = useState("");
  const [email, setEmail] = useState("");
  const [role, setRole] = useState<HouseRole>(account?.role ?? "staff");
  const [site, setSite] = useState(account?.site ?? (sites.length === 1 ? (sites[0] ?? "") : ""));
  const [chosen, setChosen] = useState<readonly string[]>(
    account?.sources.map(({ id }) => id) ?? [],
  );
  const [lastDay, setLastDay] = useState(account?.lastDay ?? "");
  const [invite, inviting] = useInviteMutation();
  const [change, changing] = useChangeAccountMutation();
  const [end, ending] = useEndAccountMutation();
  const [reset, resetting] = useResetTwoStepMutation();
  const given = { role, site, sources: role === "helper" ? [...chosen] : [], lastDay };
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const { error } =
      account === undefined
        ? await invite({ name, email, ...given })
        : await change({ id: account.id, ...given });
    if (error === undefined)
      onDone(
        account === undefined
          ? t("ui.wasMailedAnInvitation", { name })
          : t("ui.isFromNowOn", { name: account.name, name2: ROLES[role].name }),
      );
  };
  const places = [
    ...(role === "site coordinator" || me.role === "site coordinator"
      ? []
      : [{ value: "", name: t("ui.noSite") }]),
    ...sites.map((eachSite) => ({ value: eachSite, name: eachSite })),
  ];
  return (
    <Modal title={account === undefined ? t("ui.inviteSomebody") : account.name} onClose={onClose}>
      <form className="flex flex-col gap-3" onSubmit={(event) => void submit(event)}>
        {account === undefined && (
          <PersonFields name={name} setName={setName} email={email} setEmail={setEmail} />
        )}
        <RoleChoice
          role={role}
          setRole={setRole}
          roles={roles}
          site={site}
          setSite={setSite}
          places={places}
        />
        {role === "helper" && (
          <HelperSheets sources={sources} chosen={chosen} setChosen={setChosen} />
        )}
        <DayField
          label={t("ui.lastDayIfThereIs")}

          min={today(me.timeZone)}
          value={lastDay}
          onChange={setLastDay}
          className="w-56 max-w-full"
        />
        {account?.twoStep === true && !account.mine && (
          <TwoStepState resetting={resetting} reset={reset} account={account} onDone={onDone} />
        )}
        <FaultLine error={inviting.error ?? changing.error ?? ending.error ?? resetting.error} />
        <div className="flex justify-end gap-2">
          {account !== undefined && !account.mine && (
            <Button
              look="quiet"
              className="mr-auto"
              disabled={ending.isLoading}
              onClick={() =>
                void end({ id: account.id, ended: true }).then(({ error }) => {
                  if (error === undefined)
                    onDone(t("ui.theAccountOfHasEnded", { name: account.name }));
                })
              }
            >
              {t("ui.endItNow")}
            </Button>
          )}
          <Button onClick={onClose}>{t("ui.close")}</Button>
          <Button
            look="go"
            type="submit"
            disabled={
              inviting.isLoading ||
              changing.isLoading ||
              (account === undefined && (name.trim() === "" || email.trim() === "")) ||
              (role === "site coordinator" && site === "")
            }
          >
            {account === undefined ? t("ui.mailTheInvitation") : t("ui.changeIt")}
          </Button>
        </div>
      </form>
    </Modal>
  );
}

function AccountsHead({ head }: { head: "px-4 py-1.5 font-[500]" }) {
  return (
    <thead>
      <tr className="border-b border-hair text-left text-[12px] text-ink-3">
        <th className={head}>{t("ui.name")}</th>
        <th className={head}>{t("ui.address")}</th>
        <th className={head}>{t("ui.role")}</th>
        <th className={head}>{t("ui.leads")}</th>
        <th className={head}>{t("ui.twoStepSignIn")}</th>
        <th className={head}>
          <span className="sr-only">{t("ui.whatCanBeDone")}</span>
        </th>
      </tr>
    </thead>
  );
}

function RoleCell({ account }: { account: AccountLine }) {
  return (
    <td className="px-4 py-2">
      {ROLES[account.role].name}
      {account.site === "" ? "" : `, ${account.site}`}
      {account.sources.length > 0 && `: ${say(each(account.sources.map(({ name }) => name)))}`}
      <span className="block text-[13px] text-ink-3">
        {account.state === "ended"
          ? t("ui.ended")
          : account.state === "invited"
            ? t("ui.invitedHasNoPasswordYet")
            : ""}
        {account.state !== "ended" &&
          account.lastDay !== "" &&
          t("ui.until", {
            isInvited: String(account.state === "invited"),
            when: dayOf(account.lastDay),
          })}
      </span>
    </td>
  );
}

function RoleChoice({
  role,
  setRole,
  roles,
  site,
  setSite,
  places,
}: {
  role: HouseRole;
  setRole: Dispatch<SetStateAction<HouseRole>>;
  roles: readonly HouseRole[];
  site: string;
  setSite: Dispatch<SetStateAction<string>>;
  places: { value: string; name: string }[];
}) {
  return (
    <p>
      <Rich
        id="ui.theyAreWhoIs"
        choice={
          <Choice
            small
            label={t("ui.role")}
            value={role}
            onChange={setRole}
            options={roles.map((eachRole) => ({ value: eachRole, name: ROLES[eachRole].name }))}
          />
        }
        until={
          role !== "helper" && (
            <>
              {" "}
              <Rich
                id="ui.at"
                choice={
                  <Choice
                    small
                    label={t("ui.site")}
                    value={site}
                    onChange={setSite}
                    options={places}
                  />
                }
              />
            </>
          )
        }
        name={ROLES[role].name}
        what={ROLES[role].what}
        span={(chunks) => <span className="text-[13px] text-ink-2">{chunks}</span>}
      />
    </p>
  );
}
