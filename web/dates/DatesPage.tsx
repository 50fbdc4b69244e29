import { useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { may } from "@amigo/core/access/may";
import { useDatesQuery } from "../data/dates";
import { useMe } from "../data/me";
import { t } from "../texts/dates";
import { Button } from "../ui/Button";
import { Empty, FaultLine, Loading, PageHead, Panel } from "../ui/Page";
import { Tabs } from "../ui/Tabs";
import { today } from "../ui/time";
import { useNarrow } from "../ui/useNarrow";
import { DatesList } from "./DatesList";
import { MonthView } from "./MonthView";
import { Subscribe } from "./Subscribe";
import { WeeksView } from "./WeeksView";

const VIEWS = ["weeks", "month", "list", "past"] as const;
type View = (typeof VIEWS)[number];

/** The dates of the lists that one sees: by weeks, by month, as a list, and those that are over. */
export function DatesPage() {
  const me = useMe();
  const navigate = useNavigate();
  const isNarrow = useNarrow();
  const [isSubscribing, setSubscribing] = useState(false);
  const [search, setSearch] = useSearchParams();
  const asked = VIEWS.find((each) => each === search.get("show"));
  // A phone is too narrow for a calendar.
  const view = isNarrow ? (asked === "past" ? "past" : "list") : (asked ?? "weeks");
  const from = search.get("from") ?? today(me.timeZone);
  const show = (next: View, day?: string): void =>
    setSearch({ show: next, ...(day === undefined ? {} : { from: day }) });
  const make = may(me.role, "make dates") && (
    <Button look="go" onClick={() => void navigate("/dates/new")}>
      {t("dates.makeADate")}
    </Button>
  );
  const tabs: [View, string][] = [
    ["weeks", t("dates.byWeek")],
    ["month", t("dates.byMonth")],
    ["list", t("dates.coming")],
    ["past", t("dates.past")],
  ];
  return (
    <>
      <PageHead title={t("dates.dates")} line={t("dates.whatListsAreInvitedTo")}>
        <Button onClick={() => setSubscribing(true)}>{t("dates.showInYourCalendar")}</Button>
        {may(me.role, "make dates") && (
          <Button onClick={() => void navigate("/dates/import")}>{t("dates.importDates")}</Button>
        )}
        {make}
      </PageHead>
      <Tabs
        label={t("dates.which")}
        value={view}
        tabs={isNarrow ? tabs.slice(2) : tabs}
        onChange={(value) => show(value as View)}
      />
      {view === "weeks" && <WeeksView from={from} onMove={(day) => show("weeks", day)} />}
      {view === "month" && <MonthView from={from} onMove={(day) => show("month", day)} />}
      {isSubscribing && <Subscribe onClose={() => setSubscribing(false)} />}
      {(view === "list" || view === "past") && (
        <Listed which={view === "past" ? "past" : "coming"}>{make}</Listed>
      )}
    </>
  );
}

function Listed({ which, children }: { which: "coming" | "past"; children: React.ReactNode }) {
  const { data: dates, error } = useDatesQuery(which);
  if (error !== undefined) return <FaultLine error={error} />;
  if (dates === undefined) return <Loading what={t("dates.theDates")} />;
  if (dates.length > 0) return <DatesList dates={dates} />;
  return (
    <Panel>
      <Empty title={which === "past" ? t("dates.noPastDates") : t("dates.noDates")}>
        <p>{t("dates.inviteAClassToA")}</p>
        <p className="mt-3">{children}</p>
      </Empty>
    </Panel>
  );
}
