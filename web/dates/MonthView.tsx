import { Link } from "react-router";
import type { DateTime, SeasonTerm } from "@amigo/contract/dates";
import { monthAfter, weeksOfMonth } from "@amigo/core/calendar/weeks";
import { addDays } from "@amigo/core/calendar/when";
import { useDateTimesQuery } from "../data/dates";
import { useMe } from "../data/me";
import { t } from "../texts/dates";
import { FaultLine, Loading, Panel } from "../ui/Page";
import { today } from "../ui/time";
import { isHoliday } from "./holidays";
import { SpanHead } from "./SpanHead";
import { timeOf } from "../ui/whenWords";
import { monthOf, weekdayWord } from "./dateWords";

const WEEK = [0, 1, 2, 3, 4, 5, 6] as const;

/** A month of dates, day by day, holidays behind. */
export function MonthView({ from, onMove }: { from: string; onMove: (day: string) => void }) {
  const now = today(useMe().timeZone);
  const weeks = weeksOfMonth(from);
  const first = weeks[0] ?? from;
  const { data, error } = useDateTimesQuery({
    from: first,
    until: addDays(weeks.at(-1) ?? from, 6),
  });
  return (
    <>
      <SpanHead
        title={monthOf(from)}
        back={{ name: t("dates.monthBefore"), day: monthAfter(from, -1) }}
        on={{ name: t("dates.monthAfter"), day: monthAfter(from, 1) }}
        today={now}
        onMove={onMove}
      />
      <FaultLine error={error} />
      {data === undefined ? (
        error === undefined && <Loading what={t("dates.theDates")} />
      ) : (
        <Panel className="overflow-hidden">
          <table className="w-full table-fixed border-collapse">
            <thead>
              <tr>
                {WEEK.map((day) => (
                  <th
                    key={day}
                    scope="col"
                    className="border-l border-hair px-2 py-1.5 text-left text-[13px] font-[560] first:border-l-0"
                  >
                    {weekdayWord(addDays(first, day))}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {weeks.map((monday) => (
                <tr key={monday} className="border-t border-hair align-top">
                  {WEEK.map((index) => (
                    <Day
                      key={index}
                      day={addDays(monday, index)}
                      isOutside={addDays(monday, index).slice(0, 7) !== from.slice(0, 7)}
                      isNow={addDays(monday, index) === now}
                      times={data.times}
                      terms={data.terms}
                    />
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </Panel>
      )}
    </>
  );
}

function Day({
  day,
  isOutside,
  isNow,
  times,
  terms,
}: {
  day: string;
  isOutside: boolean;
  isNow: boolean;
  times: readonly DateTime[];
  terms: readonly SeasonTerm[];
}) {
  const ofDay = times.filter(
    ({ when }) => when.from.slice(0, 10) <= day && when.until.slice(0, 10) >= day,
  );
  return (
    <td
      className={`h-24 border-l border-hair p-1 first:border-l-0 ${isHoliday(terms, day) ? "holidays" : ""}`}
    >
      <span
        className={`inline-block rounded px-1 text-[13px] tabular-nums ${isNow ? "bg-petrol font-[620] text-on-petrol" : isOutside ? "text-ink-3" : "text-ink-2"}`}
        aria-current={isNow ? "date" : undefined}
      >
        {Number(day.slice(8))}
      </span>
      {terms
        .filter(({ firstDay }) => firstDay === day)
        .map(({ name }) => (
          <span key={name} className="ml-1 text-[13px] text-ink-2 wrap-anywhere">
            {name}
          </span>
        ))}
      {ofDay.map((time) => (
        <Link
          key={`${time.id} ${time.when.from}`}
          to={`/dates/${time.id}`}
          title={[time.title, ...time.lists.map(({ title }) => title)].join("\n")}
          className="mt-0.5 block rounded border border-hair bg-panel px-1 text-[13px] leading-snug hover:border-petrol"
        >
          {!time.when.allDay && time.when.from.startsWith(day) && (
            <span className="text-ink-2 tabular-nums">{timeOf(time.when.from)} </span>
          )}
          <span
            className={`wrap-anywhere ${time.isCancelled ? "text-ink-3 line-through" : "font-[560]"}`}
          >
            {time.title}
          </span>
        </Link>
      ))}
    </td>
  );
}
