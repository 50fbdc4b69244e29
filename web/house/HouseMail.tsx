import { useState, type FormEvent } from "react";
import { counted } from "@amigo/core/text/sentence";
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
import { Renewable, SettingsFault } from "../ui/Renewable";
import { Warn } from "../ui/Signs";
import { moment } from "../ui/time";

const DAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];

/** The mail side of the house: what is on its way, how digests and held mail are treated, what has to stand in the DNS. */
export function HouseMail() {
  const { data, error } = useMailHouseQuery(undefined, {
    pollingInterval: 10_000,
    skipPollingIfUnfocused: true,
  });
  if (data === undefined)
    return error === undefined ? <Loading what="the mail settings" /> : <FaultLine error={error} />;
  return (
    <div className="grid items-start lg:grid-cols-2 gap-3.5">
      <div className="flex flex-col gap-3.5">
        <Queue queue={data.queue} />
        <Renewable>
          {(renew) => <Settings settings={data.settings} version={data.version} onRenew={renew} />}
        </Renewable>
      </div>
      <Records records={data.records} />
    </div>
  );
}

function Queue({ queue }: { queue: MailHouse["queue"] }) {
  const me = useMe();
  const [pause, pausing] = usePauseQueueMutation();
  return (
    <Panel className="px-[18px] py-3.5">
      <h2>On its way</h2>
      <p className="my-2">
        <b className="font-[640]">{queue.waiting}</b> waiting,{" "}
        <b className="font-[640]">{queue.deferred}</b> retrying,{" "}
        <b className="font-[640]">{queue.sentToday}</b> delivered and{" "}
        {counted(queue.bouncedToday, "report")} of trouble in a day
        {queue.oldest !== null && (
          <span className="text-ink-3">; the oldest from {moment(queue.oldest, me.timeZone)}</span>
        )}
        .
      </p>
      <div className="flex flex-wrap items-center gap-3">
        {queue.pausedBy === "" ? (
          <Button disabled={pausing.isLoading} onClick={() => void pause(true)}>
            Pause sending
          </Button>
        ) : (
          <>
            <Warn>{queue.pausedBy} paused sending. No mail goes out.</Warn>
            <Button look="go" disabled={pausing.isLoading} onClick={() => void pause(false)}>
              Resume sending
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
    });
    if (data !== undefined) setVersion(data.version);
  };
  return (
    <Panel className="px-[18px] py-3.5">
      <h2 className="mb-2">Mail settings</h2>
      <form className="flex flex-col gap-3" onSubmit={(event) => void submit(event)}>
        <p className="flex flex-wrap items-center gap-2">
          Digests go out at{" "}
          <Choice
            label="Hour of digests"
            value={String(typed.digestHour)}
            onChange={(hour) => setTyped({ ...typed, digestHour: Number(hour) })}
            options={Array.from({ length: 24 }, (_, hour) => ({
              value: String(hour),
              name: `${String(hour).padStart(2, "0")}:00`,
            }))}
          />
          , the weekly ones on{" "}
          <Choice
            label="Day of weekly digests"
            value={String(typed.digestDay)}
            onChange={(day) => setTyped({ ...typed, digestDay: Number(day) })}
            options={DAYS.map((name, index) => ({ value: String(index + 1), name }))}
          />
          .
        </p>
        {field("undoSeconds", "Seconds in which a sent mail can be undone")}
        {field("manyAddresses", "Ask me before sending to more addresses than")}
        {field("heldDays", "Days after which held mail without a decision is returned")}
        {field(
          "softDays",
          "Days of failures after which mail to an address stops",
          "An address that is gone for good is stopped at once.",
        )}
        <SettingsFault error={changing.error} onRenew={onRenew} />
        <div className="flex items-center gap-3">
          <Button type="submit" look="go" disabled={changing.isLoading}>
            Save mail settings
          </Button>
          {changing.isSuccess && (
            <span role="status" className="text-leaf-ink">
              ✓ Kept.
            </span>
          )}
        </div>
      </form>
    </Panel>
  );
}

const STATES = {
  there: ["✓ found", "text-leaf-ink"],
  missing: ["! missing", "text-marigold-ink"],
  other: ["! different", "text-marigold-ink"],
} as const;

function Records({ records }: { records: MailHouse["records"] }) {
  return (
    <Panel className="px-[18px] py-3.5">
      <h2>DNS records to add</h2>
      <p className="mt-1 mb-2 text-[13px] text-ink-2">
        Give these to whoever looks after your domain. Each shows what the DNS holds now.
      </p>
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
                Found: <span className="mono">{found}</span>
              </p>
            )}
          </li>
        ))}
      </ul>
    </Panel>
  );
}
