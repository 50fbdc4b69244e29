import type { HealthDetail } from "@amigo/contract/health";
import { useHealthDetailsQuery } from "../data/house";
import { useMe } from "../data/me";
import { t } from "../texts/house";
import { Button } from "../ui/Button";
import { FaultLine, Loading, Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { moment } from "../ui/time";

/** What this Amigo needs to do its work, and how it is: database, disk, mail, backup and more. */
export function System() {
  const { data, error, refetch, isFetching } = useHealthDetailsQuery();
  if (data === undefined)
    return error === undefined ? <Loading what={t("house.system")} /> : <FaultLine error={error} />;
  return (
    <Panel className="overflow-hidden">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 px-4 pt-3">
        <h2>{t("house.system")}</h2>
        <span className="text-ink-3">{t("house.systemVersion", { version: data.version })}</span>
        <Button className="ml-auto" disabled={isFetching} onClick={() => void refetch()}>
          {t("house.systemLookAgain")}
        </Button>
      </div>
      <p className="px-4 pb-2 text-[13px] text-ink-2">{t("house.systemHelp")}</p>
      <ul aria-label={t("house.system")} className="border-t border-hair">
        {data.details.map((detail) => (
          <Row key={detail.what} detail={detail} />
        ))}
      </ul>
    </Panel>
  );
}

function Row({ detail: { what, state, words, at } }: { detail: HealthDetail }) {
  const me = useMe();
  return (
    <li className="grid gap-x-3 border-b border-hair-soft px-4 py-1.5 last:border-b-0 sm:grid-cols-[200px_110px_1fr]">
      <b className="font-[560]">{what}</b>
      <span>
        <State of={state} />
      </span>
      <span className="wrap-anywhere text-ink-2">
        {words}
        {at !== null && <span className="text-ink-3"> {moment(at, me.timeZone)}</span>}
      </span>
    </li>
  );
}

function State({ of }: { of: HealthDetail["state"] }) {
  if (of === "ok") return <span className="text-leaf-ink">✓ {t("house.systemOk")}</span>;
  if (of === "warning") return <Warn>{t("house.systemWarning")}</Warn>;
  return (
    <span className="text-brick">
      <b>! </b>
      {t("house.systemFailing")}
    </span>
  );
}
