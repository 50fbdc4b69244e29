import { useEffect, useState } from "react";
import { PUSH_TOPICS, type PushTopic } from "@amigo/core/push/topics";
import type { Push } from "@amigo/contract/push";
import {
  useAddDeviceMutation,
  useChooseTopicsMutation,
  useDropDeviceMutation,
  usePushQuery,
  useTryDeviceMutation,
} from "../data/push";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { FaultLine, Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { moment } from "../ui/time";
import { t } from "../texts/accounts";
import { browserName } from "./browserName";
import { lookHere, subscribeHere, unsubscribeHere, type PushHere } from "./pushHere";

/** By which word the text of a topic is chosen. */
const WORD: Record<PushTopic, string> = {
  "held mail": "held",
  request: "request",
  "safety check": "check",
  address: "address",
};

/** Notices on one's own devices (Web Push): on which, and of what. */
export function NoticesPanel() {
  const { data, error } = usePushQuery();
  const [here, setHere] = useState<PushHere>();
  const [refused, setRefused] = useState(false);
  const [add, adding] = useAddDeviceMutation();
  useEffect(() => {
    void lookHere().then(setHere);
  }, []);
  const turnOn = async (key: string): Promise<void> => {
    const subscription = await subscribeHere(key).catch(() => undefined);
    setRefused(subscription === undefined);
    if (subscription === undefined) return;
    await add(subscription);
    setHere(await lookHere());
  };
  const isOn = here?.can === true && here.endpoint !== undefined && (data?.devices.length ?? 0) > 0;
  return (
    <Panel className="px-[18px] py-3.5">
      <h2>{t("accounts.noticesOnYourDevices")}</h2>
      <p className="mt-1 mb-2 text-[13px] text-ink-2">{t("accounts.noticesOnYourDevicesAre")}</p>
      <FaultLine error={error ?? adding.error} />
      {data !== undefined && data.devices.length > 0 && <Topics push={data} />}
      {data !== undefined && <Devices push={data} onDrop={() => void lookHere().then(setHere)} />}
      {here?.can === false && (
        <p className="text-[13px] text-ink-2">
          {t("accounts.noticesCantBeShownHere", { why: here.why })}
        </p>
      )}
      {data !== undefined && here?.can === true && !isOn && (
        <Button className="mt-2" disabled={adding.isLoading} onClick={() => void turnOn(data.key)}>
          {t("accounts.turnOnNoticesHere")}
        </Button>
      )}
      {refused && (
        <p role="alert" className="mt-2 text-brick">
          {t("accounts.yourBrowserDidntAllowNotices")}
        </p>
      )}
    </Panel>
  );
}

function Topics({ push: { topics } }: { push: Push }) {
  const [choose, { error }] = useChooseTopicsMutation();
  const toggle = (topic: PushTopic): void => {
    const next = topics.includes(topic)
      ? topics.filter((one) => one !== topic)
      : PUSH_TOPICS.filter((one) => one === topic || topics.includes(one));
    void choose(next);
  };
  return (
    <fieldset className="mb-2">
      <legend className="mb-1 text-[13px] font-[560]">{t("accounts.tellMeOf")}</legend>
      {PUSH_TOPICS.map((topic) => (
        <label key={topic} className="flex items-center gap-2 py-0.5">
          <input type="checkbox" checked={topics.includes(topic)} onChange={() => toggle(topic)} />
          {t("accounts.pushTopic", { topic: WORD[topic] })}
        </label>
      ))}
      <FaultLine error={error} />
    </fieldset>
  );
}

function Devices({ push: { devices }, onDrop }: { push: Push; onDrop: () => void }) {
  const me = useMe();
  const [drop, dropping] = useDropDeviceMutation();
  const [test, testing] = useTryDeviceMutation();
  const remove = async (id: string): Promise<void> => {
    const { error } = await drop(id);
    if (error !== undefined) return;
    // The last device of an account is most likely this one; a subscription that nobody uses is given back.
    if (devices.length === 1) await unsubscribeHere();
    onDrop();
  };
  return (
    <>
      <ul>
        {devices.map(({ id, browser, since, failing }) => (
          <li key={id} className="flex flex-wrap items-center gap-3 border-t border-hair-soft py-2">
            <span className="min-w-0 flex-1">
              <b className="font-[620]">{browserName(browser)}</b>
              <span className="block text-[13px] text-ink-2">
                {t("accounts.deviceSince", { when: moment(since, me.timeZone) })}
              </span>
              {failing && <Warn>{t("accounts.deviceIsFailing")}</Warn>}
            </span>
            <Button disabled={testing.isLoading} onClick={() => void test(id)}>
              {t("accounts.sendATestNotice")}
            </Button>
            <Button disabled={dropping.isLoading} onClick={() => void remove(id)}>
              {t("accounts.removeDevice")}
            </Button>
          </li>
        ))}
      </ul>
      <FaultLine error={dropping.error ?? testing.error} />
      {testing.isSuccess && (
        <p role="status" className="text-leaf-ink">
          {t("accounts.theTestNoticeIsOnItsWay")}
        </p>
      )}
    </>
  );
}
