import {
  Area,
  AreaChart,
  CartesianGrid,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from "recharts";
import { useState } from "react";
import { Link } from "react-router";
import { say } from "@amigo/language/say";
import { may } from "@amigo/core/access/may";
import { sortWords } from "@amigo/core/mail/bounces/sortOf";
import type { Reach } from "@amigo/contract/mail";
import { useHealMutation, useReachQuery } from "../data/mail";
import { useMe } from "../data/me";
import { Address } from "../ui/Address";
import { MailWeeks } from "../posts/MailWeeks";
import { Brakes } from "./Brakes";
import { Button } from "../ui/Button";
import { Empty, FaultLine, FaultPage, Loading, PageHead, Panel } from "../ui/Page";
import { Warn } from "../ui/Signs";
import { moment, shortDayOf } from "../ui/time";
import { percent } from "../ui/percent";
import { WideTable } from "../ui/WideTable";
import { Rich, t } from "../texts/reach";

/** Who can be reached: by class and over time, who is missing what, and which addresses fail. */
export function ReachPage() {
  const me = useMe();
  const { data, error } = useReachQuery();
  if (data === undefined)
    return error === undefined ? (
      <Loading what={t("reach.whoIsReached")} />
    ) : (
      <FaultPage error={error} />
    );
  return (
    <>
      <PageHead
        title={t("reach.reach")}
        line={
          data.students === 0
            ? t("reach.nobodyIsKnownYet")
            : t("reach.ofStudentsHaveAGuardian", {
                reached: data.reached,
                students: data.students,
                share: percent(share(data.reached, data.students)),
              })
        }
      />
      <Brakes brakes={data.brakes} />
      {data.students === 0 ? (
        <Panel>
          <Empty title={t("reach.nobodyIsKnownYet")}>
            <p>{t("reach.peopleComeFromYourSheets")}</p>
          </Empty>
        </Panel>
      ) : (
        <div className="grid items-start gap-3.5 lg:grid-cols-[minmax(0,5fr)_minmax(0,6fr)]">
          <div className="flex min-w-0 flex-col gap-3.5">
            <Weeks weeks={data.weeks} />
            {may(me.role, "see posts") && (
              <Panel>
                <MailWeeks />
              </Panel>
            )}
            <Classes classes={data.classes} />
          </div>
          <Troubles troubles={data.troubles} />
        </div>
      )}
    </>
  );
}

function share(part: number, whole: number): number {
  return whole === 0 ? 0 : Math.floor((1000 * part) / whole) / 10;
}

function Weeks({ weeks }: { weeks: Reach["weeks"] }) {
  const points = weeks.map(({ day, students, reached }) => ({
    day: shortDayOf(day),
    share: students === 0 ? 0 : Math.round((1000 * reached) / students) / 10,
    of: students,
  }));
  if (points.length < 2)
    return (
      <Panel className="px-4 py-3">
        <h2>{t("reach.overTheLastWeeks")}</h2>
        <p className="text-ink-2">{t("reach.theChartBeginsWhenThere")}</p>
      </Panel>
    );
  return (
    <Panel className="px-4 py-3">
      <h2>{t("reach.overTheLastWeeks")}</h2>
      <figure
        aria-label={t("reach.shareOfStudentsWithA", {
          list: points.map(({ day, share }) => `${day} ${percent(share)}`).join(", "),
        })}
        className="mt-2 h-40"
      >
        <ResponsiveContainer width="100%" height="100%">
          <AreaChart data={points} margin={{ top: 4, right: 8, bottom: 0, left: -18 }}>
            <CartesianGrid stroke="var(--hair-soft)" vertical={false} />
            <XAxis dataKey="day" tick={{ fill: "var(--ink-3)", fontSize: 12 }} />
            <YAxis
              domain={[0, 100]}
              tick={{ fill: "var(--ink-3)", fontSize: 12 }}
              tickFormatter={percent}
              width={64}
            />
            <Tooltip
              formatter={(value) => [percent(Number(value)), "reached"]}
              contentStyle={{
                background: "var(--panel)",
                border: "1px solid var(--hair)",
                color: "var(--ink)",
              }}
            />
            <Area
              dataKey="share"
              stroke="var(--petrol)"
              fill="var(--petrol-soft)"
              isAnimationActive={false}
            />
          </AreaChart>
        </ResponsiveContainer>
      </figure>
    </Panel>
  );
}

function Classes({ classes }: { classes: Reach["classes"] }) {
  const [open, setOpen] = useState("");
  return (
    <Panel className="overflow-hidden">
      <WideTable label={t("reach.reachByClass")} className="w-full">
        <thead>
          <tr className="border-b border-hair text-left text-[12px] text-ink-3">
            <th className="px-4 py-1.5 font-[500]">{t("reach.class")}</th>
            <th className="px-2 py-1.5 font-[500]">{t("reach.reached")}</th>
            <th className="px-4 py-1.5 font-[500]">{t("reach.missing")}</th>
          </tr>
        </thead>
        <tbody>
          {classes.map(({ name, site, students, reached, missing }) => (
            <tr
              key={`${site} ${name}`}
              className="border-b border-hair-soft align-baseline last:border-b-0"
            >
              <td className="px-4 py-1.5">
                <b className="font-[620]">{name}</b>{" "}
                <span className="text-[13px] text-ink-3">{site}</span>
              </td>
              <td className="px-2 py-1.5 whitespace-nowrap">
                {t("reach.of", { reached, students })}
                <span
                  aria-hidden="true"
                  className="mt-1 block h-[5px] w-24 overflow-hidden forced-color-adjust-none rounded-[3px] bg-hair-soft"
                >
                  <span
                    className="block h-full bg-petrol"
                    style={{ width: `${share(reached, students)}%` }}
                  />
                </span>
              </td>
              <td className="px-4 py-1.5">
                {missing.length === 0 ? (
                  <span className="text-ink-3">{t("reach.nobody")}</span>
                ) : (
                  <>
                    <button
                      type="button"
                      aria-expanded={open === name}
                      onClick={() => setOpen(open === name ? "" : name)}
                      className="underline underline-offset-2"
                    >
                      <Warn>{t("reach.students", { missing: missing.length })}</Warn>
                    </button>
                    {open === name && (
                      <ul className="mt-1 text-[13px]">
                        {missing.map(({ id, name: who, why }) => (
                          <li key={id}>
                            <Link to={`/people/${id}`} className="font-[560] hover:underline">
                              {who}
                            </Link>
                            : {why}
                          </li>
                        ))}
                      </ul>
                    )}
                  </>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </WideTable>
    </Panel>
  );
}

function Troubles({ troubles }: { troubles: Reach["troubles"] }) {
  const me = useMe();
  const [heal, healing] = useHealMutation();
  return (
    <Panel className="overflow-hidden">
      <h2 className="border-b border-hair px-4 py-2">
        {troubles.length === 0
          ? t("reach.noAddressFails")
          : t("reach.addressesFail", { troubles: troubles.length })}
      </h2>
      <FaultLine error={healing.error} />
      {troubles.length === 0 ? (
        <p className="px-4 py-4 text-ink-2">{t("reach.addressesWhoseMailBouncesAppear")}</p>
      ) : (
        <ul>
          {troubles.map(({ address, state, sort, words, since, people, where, source, lists }) => (
            <li key={address} className="border-b border-hair-soft px-4 py-2.5 last:border-b-0">
              <p className="flex items-baseline gap-2">
                <Address className="font-[620]">{address}</Address>
                <span
                  className={`ml-auto whitespace-nowrap text-[13px] ${state === "stopped" ? "text-brick" : "text-marigold-ink"}`}
                >
                  {state === "stopped" ? t("reach.mailHasStopped") : t("reach.retrying")}
                </span>
              </p>
              <p className="text-[13px]">
                <Rich
                  id="reach.onLists"
                  people={
                    people.length === 0
                      ? t("reach.nobodyInTheSheets")
                      : people.map(({ id, name, detail }, index) => (
                          <span key={id}>
                            {index > 0 && "; "}
                            <Link to={`/people/${id}`} className="font-[560] hover:underline">
                              {name}
                            </Link>
                            , {detail}
                          </span>
                        ))
                  }
                  lists={lists}
                />
              </p>
              <p className="text-[13px] text-ink-2">
                {moment(since, me.timeZone)}: {say(sortWords(sort))}.{" "}
                <span className="mono wrap-anywhere">{words}</span>
              </p>
              <p className="mt-1 flex items-center gap-3 text-[13px]">
                {where !== "" &&
                  (source === null || !may(me.role, "see sources") ? (
                    <span className="text-ink-3">{where}</span>
                  ) : (
                    <Link
                      to={`/sources/${source}`}
                      className="text-petrol underline underline-offset-2"
                    >
                      {where}
                    </Link>
                  ))}
                <Button
                  className="ml-auto min-h-[26px]! text-[13px]"
                  disabled={healing.isLoading}
                  onClick={() => void heal(address)}
                >
                  <Rich
                    id="reach.thisAddressWorksResumeMail"
                    address={<span className="sr-only">, {address}</span>}
                  />
                </Button>
              </p>
            </li>
          ))}
        </ul>
      )}
    </Panel>
  );
}
