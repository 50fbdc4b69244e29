import { inOrder } from "@amigo/language/inOrder";
import { Link } from "react-router";
import type { DateTime, SeasonTerm } from "@amigo/contract/dates";
import { mondayOf, weeksFrom } from "@amigo/core/calendar/weeks";
import { addDays } from "@amigo/core/calendar/when";
import { useDateTimesQuery } from "../data/dates";
import { useMe } from "../data/me";
import { t } from "../texts/dates";
import { Empty, FaultLine, Loading, Panel } from "../ui/Page";
import { dayOf, shortDayOf, today } from "../ui/time";
import { AnswerBar } from "./AnswerBar";
import { isHolidayWeek, termNames } from "./holidays";
import { SpanHead } from "./SpanHead";
import { timeOf } from "../ui/whenWords";
import { weekdayWord } from "./dateWords";

const WEEKS = 6;

/** Six weeks of dates: a row for each list, a column for each week, holidays behind. */
export function WeeksView({ from, onMove }: { from: string; onMove: (day: string) => void }) {
  const now = today(useMe().timeZone);
  const weeks = weeksFrom(from, WEEKS);
  const first = mondayOf(from);
  const last = addDays(first, WEEKS * 7 - 1);
  const { data, error } = useDateTimesQuery({ from: first, until: last });
  return (
    <>
      <SpanHead
        title={t("dates.fromTo", { from: shortDayOf(first), until: dayOf(last) })}
        back={{ name: t("dates.earlierWeeks"), day: addDays(first, -WEEKS * 7) }}
        on={{ name: t("dates.laterWeeks"), day: addDays(first, WEEKS * 7) }}
        today={now}
        onMove={onMove}
      />
      <FaultLine error={error} />
      {data === undefined ? (
        error === undefined && <Loading what={t("dates.theDates")} />
      ) : data.times.length === 0 ? (
        <Panel>
          <Empty title={t("dates.noDatesInTheseWeeks")}>
            <p>{t("dates.inviteAClassToA")}</p>
          </Empty>
        </Panel>
      ) : (
        <Grid weeks={weeks} times={data.times} terms={data.terms} now={now} />
      )}
    </>
  );
}

function Grid({
  weeks,
  times,
  terms,
  now,
}: {
  weeks: readonly string[];
  times: readonly DateTime[];
  terms: readonly SeasonTerm[];
  now: string;
}) {
  const lists = [
    ...new Map(times.flatMap((time) => time.lists).map(({ id, title }) => [id, title])),
  ].sort(([, a], [, b]) => inOrder(a, b));
  const isForPeople = times.some((time) => time.lists.length === 0);
  const holidays = new Map(weeks.map((monday) => [monday, isHolidayWeek(terms, monday)]));
  return (
    <Panel className="overflow-x-auto">
      <table className="w-full table-fixed border-collapse">
        <colgroup>
          <col className="w-[11rem]" />
          {weeks.map((monday) => (
            <col key={monday} />
          ))}
        </colgroup>
        <thead>
          <tr className="align-top">
            <th scope="col" className="p-2 text-left text-[13px] font-normal text-ink-2">
              {t("dates.list")}
            </th>
            {weeks.map((monday) => (
              <WeekHead
                key={monday}
                monday={monday}
                isNow={mondayOf(now) === monday}
                names={termNames(terms, monday)}
              />
            ))}
          </tr>
        </thead>
        <tbody>
          {[...lists, ...(isForPeople ? [["", t("dates.otherPeople")] as const] : [])].map(
            ([id, title]) => (
              <tr key={id} className="border-t border-hair align-top">
                <th scope="row" className="p-2 text-left font-[560] wrap-anywhere">
                  {id === "" ? (
                    title
                  ) : (
                    <Link to={`/lists/${id}`} className="hover:underline">
                      {title}
                    </Link>
                  )}
                </th>
                {weeks.map((monday) => (
                  <td
                    key={monday}
                    className={`border-l border-hair p-1 ${holidays.get(monday) === true ? "holidays" : ""}`}
                  >
                    {timesIn(times, id, monday).map((time) => (
                      <Card key={`${time.id} ${time.when.from}`} time={time} />
                    ))}
                  </td>
                ))}
              </tr>
            ),
          )}
        </tbody>
      </table>
    </Panel>
  );
}

function WeekHead({
  monday,
  isNow,
  names,
}: {
  monday: string;
  isNow: boolean;
  names: readonly string[];
}) {
  return (
    <th scope="col" className="border-l border-hair p-2 text-left font-[620]">
      {shortDayOf(monday)}
      {isNow && (
        <span className="ml-1 text-[13px] font-normal text-ink-2">{t("dates.thisWeek")}</span>
      )}
      {names.map((name) => (
        <span key={name} className="block text-[13px] font-normal text-ink-2 wrap-anywhere">
          {name}
        </span>
      ))}
    </th>
  );
}

function Card({ time }: { time: DateTime }) {
  const { when } = time;
  return (
    <Link
      to={`/dates/${time.id}`}
      title={time.title}
      className="mb-1 block rounded-md border border-hair bg-panel px-1.5 py-1 last:mb-0 hover:border-petrol"
    >
      <span
        className={`line-clamp-2 text-[13px] font-[620] wrap-anywhere ${time.isCancelled ? "text-ink-3 line-through" : ""}`}
      >
        {time.title}
      </span>
      <span className="block text-[13px] text-ink-2">
        {weekdayWord(when.from)} {when.allDay ? t("dates.allDay") : timeOf(when.from)}
      </span>
      {time.isCancelled ? (
        <span className="text-[13px] text-brick">− {t("dates.calledOff")}</span>
      ) : (
        <AnswerBar counts={time.counts} />
      )}
    </Link>
  );
}

function timesIn(times: readonly DateTime[], list: string, monday: string): DateTime[] {
  const next = addDays(monday, 7);
  return times.filter(
    ({ lists, when }) =>
      (list === "" ? lists.length === 0 : lists.some(({ id }) => id === list)) &&
      when.from >= monday &&
      when.from < next,
  );
}
