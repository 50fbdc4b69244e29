import { useState, type FormEvent } from "react";
import type { House } from "@amigo/contract/house";
import { useChangeBasicsMutation } from "../data/house";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { Panel } from "../ui/Page";
import { Renewable, SettingsFault } from "./Renewable";
import { Picture } from "./Picture";
import { KindField, PlaceFields } from "../ui/PlaceFields";
import { dayOf } from "../ui/time";
import { t } from "../texts/house";

/** For how many days mail to the domain of before arrives, unless somebody says otherwise: a term. */
const USUAL_GRACE = 90;

/** What the school or club is called, where it is, its domains and the codes of its sites, with what follows from a change. */
export function Basics({ house }: { house: House }) {
  return <Renewable>{(renew) => <BasicsForm house={house} onRenew={renew} />}</Renewable>;
}

function BasicsForm({ house, onRenew }: { house: House; onRenew: () => void }) {
  const [version, setVersion] = useState(house.versions.basics);
  const [values, setValues] = useState({
    house: house.name,
    kind: house.kind,
    insideDomain: house.insideDomain,
    listDomain: house.listDomain,
    timeZone: house.timeZone,
    country: house.country,
    language: house.language,
    studentAddress: house.studentAddress,
    graceDays: USUAL_GRACE,
    insideGraceDays: USUAL_GRACE,
  });
  const [codes, setCodes] = useState<Record<string, string>>({});
  const [change, changing] = useChangeBasicsMutation();
  const set = (part: Partial<typeof values>): void =>
    setValues((before) => ({ ...before, ...part }));
  const lists = house.seasons.find(({ current }) => current)?.lists ?? 0;
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const { data } = await change({ ...values, codes, version });
    if (data === undefined) return;
    setCodes({});
    setVersion(data.version);
  };
  return (
    <form className="flex max-w-5xl flex-col gap-3.5" onSubmit={(event) => void submit(event)}>
      <div className="grid items-start gap-3.5 lg:grid-cols-2">
        <Panel className="flex flex-col gap-3 px-[18px] py-3.5">
          <h2>{t("house.nameAndPlace")}</h2>
          <KindField value={values.kind} onChange={(kind) => set({ kind })} />
          <Field
            label={t("house.nameOfThe", { kind: values.kind })}
            required
            maxLength={120}
            value={values.house}
            onChange={(event) => set({ house: event.target.value })}
          />
          <PlaceFields value={values} onChange={set} />
        </Panel>
        <div className="flex flex-col gap-3.5">
          <Panel className="flex flex-col gap-3 px-[18px] py-3.5">
            <h2>{t("house.domains")}</h2>
            <Field
              label={t("house.insideDomain")}
              help={t("house.addressesOfStaffAndStudents")}
              required
              value={values.insideDomain}
              onChange={(event) => set({ insideDomain: event.target.value })}
            />
            {values.insideDomain !== house.insideDomain && (
              <GraceField
                label={t("house.insideGraceDays", { domain: house.insideDomain })}
                help={t("house.insideGraceDaysHelp")}
                value={values.insideGraceDays}
                onChange={(insideGraceDays) => set({ insideGraceDays })}
              />
            )}
            <FormerDomains house={house} use="inside" />
            <Field
              label={t("house.listDomain")}
              help={
                values.listDomain === house.listDomain
                  ? t("house.addressesOfListsEndIn")
                  : t("house.listsWillBeReachedAt", {
                      lists,
                      listDomain: values.listDomain,
                    })
              }
              required
              value={values.listDomain}
              onChange={(event) => set({ listDomain: event.target.value })}
            />
            {values.listDomain !== house.listDomain && (
              <GraceField
                label={t("house.graceDays", { domain: house.listDomain })}
                help={t("house.graceDaysHelp")}
                value={values.graceDays}
                onChange={(graceDays) => set({ graceDays })}
              />
            )}
            <FormerDomains house={house} use="lists" />
            <Field
              label={t("house.studentsAddresses")}
              help={t("house.howTheyAreMadeFrom")}
              value={values.studentAddress}
              onChange={(event) => set({ studentAddress: event.target.value })}
            />
          </Panel>
          <Picture />
          <Panel className="px-[18px] py-3.5">
            <h2>{t("house.sites")}</h2>
            {house.sites.length === 0 ? (
              <p className="text-ink-2">{t("house.sitesComeFromTheFirst")}</p>
            ) : (
              house.sites.map(({ code, name, classes }) => (
                <div
                  key={code}
                  className="flex items-center gap-3 border-t border-hair-soft py-1.5"
                >
                  <input
                    aria-label={t("house.codeOf", { name })}
                    value={codes[name] ?? code}
                    maxLength={6}
                    onChange={(event) => setCodes({ ...codes, [name]: event.target.value })}
                    className="mono h-[30px] w-20 rounded-md border border-hair bg-panel px-2 uppercase hover:border-ink-3"
                  />
                  <b className="flex-1 font-[560]">{name}</b>
                  <span className="text-ink-3">{t("house.classes", { classes })}</span>
                </div>
              ))
            )}
          </Panel>
        </div>
      </div>
      <SettingsFault error={changing.error} onRenew={onRenew} />
      {changing.data !== undefined && (
        <div role="status" className="rounded-md border border-leaf bg-leaf-soft px-3 py-2">
          <b className="text-leaf-ink">{t("house.saved")}</b>
          {changing.data.follows.map((sentence) => (
            <p key={sentence}>{sentence}</p>
          ))}
        </div>
      )}
      <Button type="submit" look="go" className="self-start" disabled={changing.isLoading}>
        {t("house.save")}
      </Button>
    </form>
  );
}

/** For how many days a domain that is about to change still does what it did. */
function GraceField({
  label,
  help,
  value,
  onChange,
}: {
  label: string;
  help: string;
  value: number;
  onChange: (days: number) => void;
}) {
  return (
    <Field
      label={label}
      help={help}
      type="number"
      min={0}
      max={1000}
      value={value}
      onChange={(event) => onChange(Number(event.target.value))}
    />
  );
}

/** Domains of before that still do what they did, each with its last day. */
function FormerDomains({ house, use }: { house: House; use: "lists" | "inside" }) {
  return house.formerDomains
    .filter((former) => former.use === use)
    .map(({ domain, lastDay }) => (
      <p key={domain} className="text-[13px] text-ink-2">
        {use === "lists"
          ? t("house.formerDomain", { domain, lastDay: dayOf(lastDay) })
          : t("house.formerInsideDomain", { domain, lastDay: dayOf(lastDay) })}
      </p>
    ));
}
