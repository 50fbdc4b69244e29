import type { DateWhen } from "@amigo/contract/dates";
import { t } from "../texts/dates";
import { DayField } from "../ui/DayField";

/** When something begins and ends: days, or moments. */
export function WhenFields({
  when,
  onChange,
}: {
  when: DateWhen;
  onChange: (when: DateWhen) => void;
}) {
  const move = (from: string): void => {
    if (from === "") return;
    // The end moves along, so that it stays as long as it was.
    const long = Date.parse(`${when.until}Z`) - Date.parse(`${when.from}Z`);
    const until = new Date(Date.parse(`${from}Z`) + (Number.isNaN(long) ? 0 : long))
      .toISOString()
      .slice(0, from.length);
    onChange({ ...when, from, until });
  };
  const shift = (allDay: boolean): void =>
    onChange(
      allDay
        ? { allDay, from: when.from.slice(0, 10), until: when.until.slice(0, 10) }
        : { allDay, from: `${when.from}T18:00`, until: `${when.until}T19:00` },
    );
  return (
    <div className="grid items-start gap-3 md:grid-cols-[1fr_1fr_auto]">
      <DayField
        label={t("dates.begins")}
        required
        withTime={!when.allDay}
        value={when.from}
        onChange={move}
      />
      <DayField
        label={when.allDay ? t("dates.lastDay") : t("dates.ends")}
        required
        withTime={!when.allDay}
        min={when.from.slice(0, 10)}
        value={when.until}
        onChange={(until) => {
          if (until !== "") onChange({ ...when, until });
        }}
      />
      <label className="flex items-center gap-2 md:mt-7">
        <input
          type="checkbox"
          checked={when.allDay}
          onChange={(event) => shift(event.target.checked)}
        />
        {t("dates.wholeDays")}
      </label>
    </div>
  );
}
