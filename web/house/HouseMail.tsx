import { useState, type FormEvent } from "react";
import type { MailHouse, MailSettings } from "@amigo/contract/mail";
import {
  useChangeMailSettingsMutation,
  useMailHouseQuery,
  usePauseQueueMutation,
} from "../data/mail";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { Field } from "../ui/Field";
import { FaultLine, Loading, Panel } from "../ui/Page";
import { MailKeys } from "./MailKeys";
import { MailReports } from "./MailReports";
import { Renewable, SettingsFault } from "./Renewable";
import { Warn } from "../ui/Signs";
import { moment } from "../ui/time";
import { Rich, t } from "../texts/house";
import { weekdays } from "../ui/weekdays";

/** The mail side of the house: what is on its way, how digests and held mail are treated, the DNS records to add. */
export function HouseMail() {
  const { data, error } = useMailHouseQuery(undefined, {
    pollingInterval: 10_000,
    skipPollingIfUnfocused: true,
  });
  if (data === undefined)
    return error === undefined ? (
      <Loading what={t("house.theMailSettings")} />
    ) : (
      <FaultLine error={error} />
    );
  return (
    <div className="grid items-start lg:grid-cols-2 gap-3.5">
      <div className="flex flex-col gap-3.5">
        <Queue queue={data.queue} />
        <Renewable>
          {(renew) => <Settings settings={data.settings} version={data.version} onRenew={renew} />}
        </Renewable>
        <MailReports />
      </div>
      <div className="flex flex-col gap-3.5">
        <MailKeys keys={data.keys} />
        <Records records={data.records} />
      </div>
    </div>
  );
}

function Queue({ queue }: { queue: MailHouse["queue"] }) {
  const me = useMe();
  const [pause, pausing] = usePauseQueueMutation();
  return (
    <Panel className="px-[18px] py-3.5">
      <h2>{t("house.onItsWay")}</h2>
      <p className="my-2">
        <Rich
          id="house.waitingRetryingDeliveredAndReports"
          waiting={<b className="font-[640]">{queue.waiting}</b>}
          deferred={<b className="font-[640]">{queue.deferred}</b>}
          sentToday={<b className="font-[640]">{queue.sentToday}</b>}
          bouncedToday={queue.bouncedToday}
          oldest={
            queue.oldest !== null && (
              <span className="text-ink-3">
                {t("house.theOldestFrom", { when: moment(queue.oldest, me.timeZone) })}
              </span>
            )
          }
        />
      </p>
      {queue.relayAway !== null && (
        <p className="my-2" role="status">
          <Warn>
            {t("house.theRelayIsAway", {
              relay: queue.relayAway.relay,
              when: moment(queue.relayAway.since, me.timeZone),
              words: queue.relayAway.words,
            })}
          </Warn>
        </p>
      )}
      <div className="flex flex-wrap items-center gap-3">
        {queue.pausedBy === "" ? (
          <Button disabled={pausing.isLoading} onClick={() => void pause(true)}>
            {t("house.pauseSending")}
          </Button>
        ) : (
          <>
            <Warn>{t("house.pausedSendingNoMailGoes", { pausedBy: queue.pausedBy })}</Warn>
            <Button look="go" disabled={pausing.isLoading} onClick={() => void pause(false)}>
              {t("house.resumeSending")}
            </Button>
          </>
        )}
      </div>
      <FaultLine error={pausing.error} />
    </Panel>
  );
}

function Settings({
  settings,
  version: first,
  onRenew,
}: {
  settings: MailSettings;
  version: string;
  onRenew: () => void;
}) {
  const [version, setVersion] = useState(first);
  const [typed, setTyped] = useState({
    ...settings,
    undoSeconds: String(settings.undoSeconds),
    heldDays: String(settings.heldDays),
    manyAddresses: String(settings.manyAddresses),
    softDays: String(settings.softDays),
  });
  const [change, changing] = useChangeMailSettingsMutation();
  const field = (
    name: "undoSeconds" | "heldDays" | "manyAddresses" | "softDays",
    label: string,
    help?: string,
  ) => (
    <Field
      label={label}
      inputMode="numeric"
      value={typed[name]}
      onChange={(event) => setTyped({ ...typed, [name]: event.target.value.replace(/\D/g, "") })}
      {...(help === undefined ? {} : { help })}
    />
  );
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const { data } = await change({
      version,
      digestHour: typed.digestHour,
      digestDay: typed.digestDay,
      undoSeconds: Number(typed.undoSeconds),
      heldDays: Number(typed.heldDays),
      manyAddresses: Number(typed.manyAddresses),
      softDays: Number(typed.softDays),
      languageParts: typed.languageParts,
    });
    if (data !== undefined) setVersion(data.version);
  };
  return (
    <Panel className="px-[18px] py-3.5">
      <h2 className="mb-2">{t("house.mailSettings")}</h2>
      <form className="flex flex-col gap-3" onSubmit={(event) => void submit(event)}>
        <p className="flex flex-wrap items-center gap-2">
          <Rich
            id="house.digestsGoOutAtThe"
            choice={
              <Choice
                label={t("house.hourOfDigests")}
                value={String(typed.digestHour)}
                onChange={(hour) => setTyped({ ...typed, digestHour: Number(hour) })}
                options={Array.from({ length: 24 }, (_, hour) => ({
                  value: String(hour),
                  name: `${String(hour).padStart(2, "0")}:00`,
                }))}
              />
            }
            choice2={
              <Choice
                label={t("house.dayOfWeeklyDigests")}
                value={String(typed.digestDay)}
                onChange={(day) => setTyped({ ...typed, digestDay: Number(day) })}
                options={weekdays("long").map((name, index) => ({
                  value: String(index + 1),
                  name,
                }))}
              />
            }
          />
        </p>
        {field("undoSeconds", t("house.secondsInWhichASent"))}
        {field("manyAddresses", t("house.askMeBeforeSendingTo"))}
        {field("heldDays", t("house.daysAfterWhichHeldMail"))}
        {field("softDays", t("house.daysOfFailuresAfterWhich"), t("house.anAddressThatIsGone"))}
        <label className="flex items-start gap-2">
          <input
            type="checkbox"
            className="mt-1"
            checked={typed.languageParts}
            onChange={(event) => setTyped({ ...typed, languageParts: event.target.checked })}
          />
          <span>
            {t("house.sendLanguagesAsParts")}
            <span className="block text-[13px] text-ink-2">
              {t("house.sendLanguagesAsPartsHelp")}
            </span>
          </span>
        </label>
        <SettingsFault error={changing.error} onRenew={onRenew} />
        <div className="flex items-center gap-3">
          <Button type="submit" look="go" disabled={changing.isLoading}>
            {t("house.saveMailSettings")}
          </Button>
          {changing.isSuccess && (
            <span role="status" className="text-leaf-ink">
              {t("house.kept")}
            </span>
          )}
        </div>
      </form>
    </Panel>
  );
}

const STATES = {
  there: [t("house.found"), "text-leaf-ink"],
  missing: [t("house.missing"), "text-marigold-ink"],
  other: [t("house.different"), "text-marigold-ink"],
} as const;

function Records({ records }: { records: MailHouse["records"] }) {
  return (
    <Panel className="px-[18px] py-3.5">
      <h2>{t("house.dnsRecordsToAdd")}</h2>
      <p className="mt-1 mb-2 text-[13px] text-ink-2">{t("house.giveTheseToWhoeverLooks")}</p>
      <ul>
        {records.map(({ name, type, value, why, state, found }) => (
          <li key={`${type} ${name}`} className="border-t border-hair-soft py-2.5">
            <p className="flex flex-wrap items-baseline gap-x-2">
              <b className="mono min-w-0 wrap-anywhere">{name}</b>
              <span className="text-[13px] text-ink-2">{type}</span>
              <span className={`ml-auto whitespace-nowrap text-[13px] ${STATES[state][1]}`}>
                {STATES[state][0]}
              </span>
            </p>
            <p className="my-1 text-[13px] text-ink-2">{why}</p>
            <code
              className="mono block max-h-24 overflow-auto rounded border border-hair bg-sunk px-2 py-1 wrap-anywhere select-all"
              tabIndex={0}
            >
              {value}
            </code>
            {state === "other" && (
              <p className="mt-1 text-[13px] wrap-anywhere">
                <Rich id="house.found2" found={<span className="mono">{found}</span>} />
              </p>
            )}
          </li>
        ))}
      </ul>
    </Panel>
  );
}
