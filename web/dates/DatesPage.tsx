import { Link, useNavigate, useSearchParams } from "react-router";
import { may } from "@amigo/core/access/may";
import type { DateLine } from "@amigo/contract/dates";
import { useDatesQuery } from "../data/dates";
import { useMe } from "../data/me";
import { t } from "../texts/t";
import { Button } from "../ui/Button";
import { Empty, FaultLine, Loading, PageHead, Panel } from "../ui/Page";
import { Tabs } from "../ui/Tabs";
import { AnswerBar, AnswerFigures } from "./AnswerBar";
import { monthOf, repeatWords, timeOf, weekdayWord } from "./whenWords";

/** The dates to come, or the past ones, by month. */
export function DatesPage() {
  const me = useMe();
  const navigate = useNavigate();
  const [search, setSearch] = useSearchParams();
  const which = search.get("show") === "past" ? "past" : "coming";
  const { data: dates, error } = useDatesQuery(which);
  const months = byMonth(dates ?? []);
  const make = may(me.role, "make dates") && (
    <Button look="go" onClick={() => void navigate("/dates/new")}>
      {t("dates.makeADate")}
    </Button>
  );
  return (
    <>
      <PageHead title={t("dates.dates")} line={t("dates.whatListsAreInvitedTo")}>
        {make}
      </PageHead>
      <Tabs
        label={t("dates.which")}
        value={which}
        tabs={[
          ["coming", t("dates.coming")],
          ["past", t("dates.past")],
        ]}
        onChange={(value) => setSearch(value === "past" ? { show: "past" } : {})}
      />
      <FaultLine error={error} />
      {dates === undefined ? (
        error === undefined && <Loading what={t("dates.theDates")} />
      ) : dates.length === 0 ? (
        <Panel>
          <Empty title={which === "past" ? t("dates.noPastDates") : t("dates.noDates")}>
            <p>{t("dates.inviteAClassToA")}</p>
            <p className="mt-3">{make}</p>
          </Empty>
        </Panel>
      ) : (
        <div className="flex flex-col gap-4">
          {[...months].map(([month, lines]) => (
            <section key={month} aria-label={monthOf(`${month}-01`)}>
              <h2 className="mb-1.5">{monthOf(`${month}-01`)}</h2>
              <Panel>
                <ul>
                  {lines.map((line) => (
                    <DateRow key={line.id} line={line} />
                  ))}
                </ul>
              </Panel>
            </section>
          ))}
        </div>
      )}
    </>
  );
}

/** Returns dates by their months, in the order in which they come. */
function byMonth(dates: readonly DateLine[]): Map<string, DateLine[]> {
  const months = new Map<string, DateLine[]>();
  for (const line of dates) {
    const month = line.when.from.slice(0, 7);
    months.set(month, [...(months.get(month) ?? []), line]);
  }
  return months;
}

function DateRow({ line }: { line: DateLine }) {
  const { when } = line;
  return (
    <li className="border-t border-hair-soft first:border-t-0">
      <Link
        to={`/dates/${line.id}`}
        className="grid items-center gap-x-4 gap-y-1 px-3.5 py-2.5 hover:bg-sunk md:grid-cols-[5.5rem_minmax(0,1fr)_minmax(0,14rem)_9rem]"
      >
        <span className="flex items-baseline gap-2 md:flex-col md:gap-0">
          <span className="text-[18px] font-[640] tabular-nums">
            {Number(when.from.slice(8, 10))}{" "}
            <span className="text-[13px] font-normal text-ink-2">{weekdayWord(when.from)}</span>
          </span>
          <span className="text-[13px] text-ink-2">
            {when.allDay ? t("dates.allDay") : timeOf(when.from)}
          </span>
        </span>
        <span className="min-w-0">
          <span
            className={`font-[620] wrap-anywhere ${line.isCancelled ? "line-through text-ink-3" : ""}`}
          >
            {line.title}
          </span>
          {line.isCancelled && <span className="ml-2 text-brick">− {t("dates.calledOff")}</span>}
          <span className="block text-[13px] text-ink-2 wrap-anywhere">
            {[line.place, repeatWords(line.repeat)].filter((part) => part !== "").join(" · ")}
          </span>
        </span>
        <span className="min-w-0 text-[13px] text-ink-2 wrap-anywhere">
          {line.lists.map(({ title }) => title).join(", ")}
        </span>
        <span className="flex flex-col gap-1">
          <AnswerBar counts={line.counts} />
          <AnswerFigures counts={line.counts} />
        </span>
      </Link>
    </li>
  );
}
