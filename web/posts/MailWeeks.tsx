import { Bar, BarChart, CartesianGrid, ResponsiveContainer, Tooltip, XAxis, YAxis } from "recharts";
import type { MailWeek } from "@amigo/contract/trace";
import { useMailWeeksQuery } from "../data/trace";
import { FaultLine, Loading } from "../ui/Page";
import { shortDayOf } from "../ui/time";
import { t } from "../texts/reach";

/** How many copies arrived, failed or wait, week by week, of one list or of all that one sees. */
export function MailWeeks({ list }: { list?: string }) {
  const { data: weeks, error } = useMailWeeksQuery(list === undefined ? {} : { list });
  if (error !== undefined) return <FaultLine error={error} />;
  if (weeks === undefined) return <Loading what={t("reach.mailByWeek")} />;
  return (
    <section className="px-4 py-3">
      <h2>{t("reach.mailByWeek")}</h2>
      {weeks.every(({ copies }) => copies === 0) ? (
        <p className="text-ink-2">{t("reach.noMailInTheseWeeks")}</p>
      ) : (
        <Chart weeks={weeks} />
      )}
    </section>
  );
}

/** Of each week, what the bars are made of. Colour is never alone: the line below and the label say the numbers. */
function Chart({ weeks }: { weeks: readonly MailWeek[] }) {
  const points = weeks.map(({ week, copies, delivered, failed, ...rest }) => ({
    ...{ day: shortDayOf(week), copies, delivered, failed, ...rest },
    waiting: copies - delivered - failed,
  }));
  const sum = (of: "posts" | "delivered" | "failed" | "waiting"): number =>
    points.reduce((all, point) => all + point[of], 0);
  const parts = [
    ["delivered", t("reach.delivered"), "var(--leaf)"],
    ["waiting", t("reach.onItsWay"), "var(--ink-3)"],
    ["failed", t("reach.failing"), "var(--brick)"],
  ] as const;
  return (
    <>
      <figure
        aria-label={t("reach.copiesByWeek", {
          list: points
            .filter(({ copies }) => copies > 0)
            .map(({ day, copies, failed }) => t("reach.copiesInAWeek", { day, copies, failed }))
            .join("; "),
        })}
        className="mt-2 h-36"
      >
        <ResponsiveContainer width="100%" height="100%">
          <BarChart data={points} margin={{ top: 4, right: 4, bottom: 0, left: -14 }}>
            <CartesianGrid stroke="var(--hair-soft)" vertical={false} />
            <XAxis dataKey="day" tick={{ fill: "var(--ink-3)", fontSize: 12 }} />
            <YAxis
              allowDecimals={false}
              tickCount={3}
              tick={{ fill: "var(--ink-3)", fontSize: 12 }}
              width={54}
            />
            <Tooltip
              cursor={{ fill: "var(--hair-soft)" }}
              contentStyle={{
                background: "var(--panel)",
                border: "1px solid var(--hair)",
                color: "var(--ink)",
              }}
            />
            {parts.map(([key, name, colour]) => (
              <Bar
                key={key}
                dataKey={key}
                name={name}
                stackId="copies"
                fill={colour}
                isAnimationActive={false}
              />
            ))}
          </BarChart>
        </ResponsiveContainer>
      </figure>
      <p className="mt-1 text-[13px] text-ink-2">
        {t("reach.inTwelveWeeks", {
          posts: sum("posts"),
          delivered: sum("delivered"),
          waiting: sum("waiting"),
          failed: sum("failed"),
        })}
      </p>
    </>
  );
}
