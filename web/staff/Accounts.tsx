import { useState } from "react";
import type { AccountLine } from "@amigo/contract/staff";
import { may } from "@amigo/core/access/may";
import { each } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { useMe } from "../data/me";
import { useAccountsQuery, useEndAccountMutation, useInviteAgainMutation } from "../data/staff";
import { t } from "../texts/ui";
import { Button } from "../ui/Button";
import { FaultLine, Loading, Panel } from "../ui/Page";
import { WideTable } from "../ui/WideTable";
import { dayOf } from "../ui/time";
import { AccountButtons } from "./AccountButtons";
import { TwoStepFor } from "./TwoStepFor";
import { AccountDialog, ROLES } from "./AccountDialog";

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
