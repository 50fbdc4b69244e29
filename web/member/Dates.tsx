import { useState } from "react";
import {
  useEndMemberFeedMutation,
  useMakeMemberFeedMutation,
  useMemberDatesQuery,
} from "../data/feeds";
import { t } from "../texts/member";
import { Select } from "./Select";
import { FeedAddress } from "../ui/FeedAddress";
import { FaultLine, Panel } from "../ui/Page";
import { whenWords } from "../ui/whenWords";

const ANSWERS = {
  yes: "member.youCome",
  maybe: "member.youMayCome",
  no: "member.youCant",
} as const;

/** What a member is invited to, each with their answer, and the same as a calendar for their program. */
export function Dates() {
  const [child, setChild] = useState("");
  const { data, error } = useMemberDatesQuery();
  const [make, making] = useMakeMemberFeedMutation();
  const [end, ending] = useEndMemberFeedMutation();
  if (error !== undefined) return <FaultLine error={error} />;
  if (data === undefined || (data.dates.length === 0 && data.url === "")) return null;
  return (
    <section aria-label={t("member.yourDates")}>
      <h2 className="mb-2">{t("member.yourDates")}</h2>
      <Panel>
        <ul>
          {data.dates.map(({ title, place, when, answer, isWaiting, path }) => (
            <li
              key={path}
              className="flex flex-wrap items-center justify-between gap-x-3 gap-y-1 border-t border-hair-soft px-3.5 py-2.5 first:border-t-0"
            >
              <span className="min-w-0">
                <b className="font-[620] wrap-anywhere">{title}</b>
                <span className="block text-[13px] text-ink-2 wrap-anywhere">
                  {[whenWords(when), place].filter((part) => part !== "").join(" · ")}
                </span>
                {answer !== null && (
                  <span className="block text-[13px]">
                    {isWaiting ? t("member.youWaitForAPlace") : t(ANSWERS[answer])}
                  </span>
                )}
              </span>
              <a
                href={path}
                className="inline-flex min-h-[36px] items-center rounded-md border border-hair bg-panel px-3 font-[560] hover:border-petrol"
              >
                {answer === null ? t("member.answer") : t("member.changeAnswer")}
                <span className="sr-only"> {title}</span>
              </a>
            </li>
          ))}
        </ul>
      </Panel>
      <details className="mt-2">
        <summary className="cursor-pointer font-[560] text-petrol">
          {t("member.datesInYourCalendar")}
        </summary>
        <div className="mt-2">
          {data.children.length > 0 && (
            <p className="mb-2">
              <Select
                label={t("member.whoseDates")}
                value={child}
                options={[
                  { value: "", name: t("member.allYourDates") },
                  ...data.children.map(({ id, name }) => ({
                    value: id,
                    name: t("member.datesOf", { name }),
                  })),
                ]}
                onChange={setChild}
              />
            </p>
          )}
          <FeedAddress
            url={data.children.find(({ id }) => id === child)?.url ?? data.url}
            isBusy={making.isLoading || ending.isLoading}
            onMake={() => void make(child)}
            onEnd={() => void end(child)}
          />
          <FaultLine error={making.error ?? ending.error} />
        </div>
      </details>
    </section>
  );
}
