import type { HealthDetail } from "@amigo/contract/house";
import { useHealthDetailsQuery } from "../data/house";
import { useMe } from "../data/me";
import { t } from "../texts/house";
import { Button } from "../ui/Button";
import { FaultLine, Loading, Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { moment } from "../ui/time";
import { WideTable } from "../ui/WideTable";

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
      <WideTable label={t("house.system")} className="w-full">
        <thead>
          <tr className="border-y border-hair text-left text-[12px] text-ink-3">
            <th className="px-4 py-1.5 font-[500]">{t("house.systemWhat")}</th>
            <th className="px-2 py-1.5 font-[500]">{t("house.systemState")}</th>
            <th className="px-4 py-1.5 font-[500]">{t("house.systemFound")}</th>
          </tr>
        </thead>
        <tbody>
          {data.details.map((detail) => (
            <Row key={detail.what} detail={detail} />
          ))}
        </tbody>
      </WideTable>
    </Panel>
  );
}

function Row({ detail: { what, state, words, at } }: { detail: HealthDetail }) {
  const me = useMe();
  return (
    <tr className="border-b border-hair-soft align-baseline last:border-b-0">
      <td className="px-4 py-1.5 font-[560] whitespace-nowrap">{what}</td>
      <td className="px-2 py-1.5 whitespace-nowrap">
        <State of={state} />
      </td>
      <td className="px-4 py-1.5 wrap-anywhere">
        {words}
        {at !== null && <span className="text-ink-3"> {moment(at, me.timeZone)}</span>}
      </td>
    </tr>
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
