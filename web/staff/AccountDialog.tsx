import { useState, type FormEvent, type Dispatch, type SetStateAction } from "react";
import type { AccountLine } from "@amigo/contract/staff";
import type { HouseRole } from "@amigo/core/access/may";
import { useMe } from "../data/me";
import { useChangeAccountMutation, useEndAccountMutation, useInviteMutation } from "../data/staff";
import { useResetTwoStepMutation } from "../data/twoStep";
import { Rich, t } from "../texts/ui";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { DayField } from "../ui/DayField";
import { Modal } from "../ui/Modal";
import { FaultLine } from "../ui/Page";
import { today } from "../ui/time";
import { HelperSheets } from "./HelperSheets";
import { PersonFields } from "./PersonFields";
import { TwoStepState } from "./TwoStepState";

export function AccountDialog({
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
  const form = useAccountForm(account, sites);
  const { name, setName, email, setEmail, role, setRole, site, setSite } = form;
  const { chosen, setChosen, lastDay, setLastDay, isComplete } = form;
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
  const needsSite = role === "site coordinator" || me.role === "site coordinator";
  const places = [
    ...(needsSite ? [] : [{ value: "", name: t("ui.noSite") }]),
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
            <EndButton account={account} end={end} isEnding={ending.isLoading} onDone={onDone} />
          )}
          <Button onClick={onClose}>{t("ui.close")}</Button>
          <Button
            look="go"
            type="submit"
            disabled={inviting.isLoading || changing.isLoading || !isComplete}
          >
            {account === undefined ? t("ui.mailTheInvitation") : t("ui.changeIt")}
          </Button>
        </div>
      </form>
    </Modal>
  );
}

/** What the form about an account holds: as the account is, or empty for a new one. */
function useAccountForm(account: AccountLine | undefined, sites: readonly string[]) {
  const [name, setName] = useState("");
  const [email, setEmail] = useState("");
  const [role, setRole] = useState<HouseRole>(account?.role ?? "staff");
  const [site, setSite] = useState(account?.site ?? (sites.length === 1 ? (sites[0] ?? "") : ""));
  const [chosen, setChosen] = useState<readonly string[]>(
    account?.sources.map(({ id }) => id) ?? [],
  );
  const [lastDay, setLastDay] = useState(account?.lastDay ?? "");
  const isNamed = account !== undefined || (name.trim() !== "" && email.trim() !== "");
  const isComplete = isNamed && (role !== "site coordinator" || site !== "");
  return {
    ...{ name, setName, email, setEmail, role, setRole, site, setSite },
    ...{ chosen, setChosen, lastDay, setLastDay, isComplete },
  };
}

function EndButton({
  account,
  end,
  isEnding,
  onDone,
}: {
  account: AccountLine;
  end: ReturnType<typeof useEndAccountMutation>[0];
  isEnding: boolean;
  onDone: (sentence: string) => void;
}) {
  const run = async (): Promise<void> => {
    const { error } = await end({ id: account.id, ended: true });
    if (error === undefined) onDone(t("ui.theAccountOfHasEnded", { name: account.name }));
  };
  return (
    <Button look="quiet" className="mr-auto" disabled={isEnding} onClick={() => void run()}>
      {t("ui.endItNow")}
    </Button>
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

export const ROLES: Record<HouseRole, { name: string; what: string }> = {
  coordinator: { name: t("ui.coordinator"), what: t("ui.doesEverything") },
  "site coordinator": {
    name: t("ui.siteCoordinator"),
    what: t("ui.looksAfterTheListsAnd"),
  },
  staff: { name: t("ui.staff"), what: t("ui.seesAndWritesToWhat") },
  helper: { name: t("ui.helper"), what: t("ui.addsRowsToSingleSheets") },
};
