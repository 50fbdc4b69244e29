import { Link } from "react-router";
import type { DateLine } from "@amigo/contract/dates";
import { t } from "../texts/dates";
import { Panel } from "../ui/Page";
import { AnswerBar, AnswerFigures } from "./AnswerBar";
import { timeOf } from "../ui/whenWords";
import { monthOf, repeatWords, weekdayWord } from "./dateWords";

/** Dates below their months, each with its answers. */
export function DatesList({ dates }: { dates: readonly DateLine[] }) {
  return (
    <div className="flex flex-col gap-4">
      {[...byMonth(dates)].map(([month, lines]) => (
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
