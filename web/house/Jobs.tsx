import type { Job } from "@amigo/contract/jobs";
import { useJobsQuery, useRunJobMutation } from "../data/jobs";
import { useMe } from "../data/me";
import { t } from "../texts/house";
import { Button } from "../ui/Button";
import { FaultLine, Loading, Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { moment } from "../ui/time";
import { WideTable } from "../ui/WideTable";

/** The work that Amigo does by itself: when it was done last, what came of it, and when it is due next. */
export function Jobs() {
  const { data: jobs, error } = useJobsQuery(undefined, {
    pollingInterval: 5_000,
    skipPollingIfUnfocused: true,
  });
  const [run, running] = useRunJobMutation();
  if (jobs === undefined)
    return error === undefined ? (
      <Loading what={t("house.recurringWork")} />
    ) : (
      <FaultLine error={error} />
    );
  return (
    <Panel className="overflow-hidden">
      <h2 className="px-4 pt-3">{t("house.recurringWork")}</h2>
      <p className="px-4 pb-2 text-[13px] text-ink-2">{t("house.recurringWorkHelp")}</p>
      <FaultLine error={running.error} />
      <WideTable label={t("house.recurringWork")} className="w-full">
        <thead>
          <tr className="border-y border-hair text-left text-[12px] text-ink-3">
            <th className="px-4 py-1.5 font-[500]">{t("house.jobWork")}</th>
            <th className="px-2 py-1.5 font-[500]">{t("house.jobLast")}</th>
            <th className="px-2 py-1.5 font-[500]">{t("house.jobResult")}</th>
            <th className="px-2 py-1.5 font-[500]">{t("house.jobNext")}</th>
            <th className="px-4 py-1.5">
              <span className="sr-only">{t("house.jobAction")}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {jobs.map((job) => (
            <Row
              key={job.name}
              job={job}
              disabled={running.isLoading}
              onRun={() => void run(job.name)}
            />
          ))}
        </tbody>
      </WideTable>
    </Panel>
  );
}

function Row({
  job: { what, last, took, next, failure, isAsked },
  disabled,
  onRun,
}: {
  job: Job;
  disabled: boolean;
  onRun: () => void;
}) {
  const me = useMe();
  return (
    <tr className="border-b border-hair-soft align-baseline last:border-b-0">
      <td className="px-4 py-1.5">{what}</td>
      <td className="px-2 py-1.5 whitespace-nowrap">
        {last === null ? (
          <span className="text-ink-3">{t("house.jobNotYet")}</span>
        ) : (
          moment(last, me.timeZone)
        )}
      </td>
      <td className="px-2 py-1.5">
        {failure !== "" ? (
          <Warn>{t("house.jobFailed", { failure })}</Warn>
        ) : (
          last !== null && t("house.jobDone", { seconds: ((took ?? 0) / 1000).toFixed(1) })
        )}
      </td>
      <td className="px-2 py-1.5 whitespace-nowrap">
        {next !== null && moment(next, me.timeZone)}
      </td>
      <td className="px-4 py-1.5 text-right">
        <Button
          className="min-h-[26px]! text-[13px]"
          disabled={disabled || isAsked}
          onClick={onRun}
        >
          {isAsked ? t("house.jobAsked") : t("house.jobRunNow")}
          <span className="sr-only">: {what}</span>
        </Button>
      </td>
    </tr>
  );
}
