import { Field } from "./Field";
import { t } from "../texts/t";

const DAYS = [t("ui.mo"), t("ui.tu"), t("ui.we"), t("ui.th"), t("ui.fr"), t("ui.sa"), t("ui.su")];
const DAY_NAMES = [
  t("ui.monday"),
  t("ui.tuesday"),
  t("ui.wednesday"),
  t("ui.thursday"),
  t("ui.friday"),
  t("ui.saturday"),
  t("ui.sunday"),
];

/** Times as they are typed, with commas or spaces between, each as `HH:MM`. */
export function readTimes(text: string): string[] {
  return text
    .split(/[\s,;]+/)
    .filter((time) => time !== "")
    .map((time) => (/^\d:/.test(time) ? `0${time}` : time));
}

/** Days of the week and times of day. `times` is as it is typed. */
export function DaysAndTimes({
  days,
  times,
  zone,
  onDays,
  onTimes,
}: {
  days: readonly number[];
  times: string;
  zone: string;
  onDays: (days: number[]) => void;
  onTimes: (times: string) => void;
}) {
  return (
    <div className="flex flex-wrap items-end gap-3">
      <fieldset>
        <legend className="mb-1 text-[13px] font-[560]">{t("ui.days")}</legend>
        <div className="flex gap-1">
          {DAYS.map((name, at) => {
            const day = at + 1;
            const on = days.includes(day);
            return (
              <label
                key={name}
                title={DAY_NAMES[at]}
                className={`flex h-[34px] w-[38px] cursor-pointer items-center justify-center rounded-md border text-[13px] has-focus-visible:outline-2 has-focus-visible:outline-petrol ${on ? "border-petrol bg-petrol-soft font-[650] text-petrol" : "border-hair"}`}
              >
                <input
                  type="checkbox"
                  className="sr-only"
                  aria-label={DAY_NAMES[at] ?? name}
                  checked={on}
                  onChange={() =>
                    onDays(on ? days.filter((own) => own !== day) : [...days, day].sort())
                  }
                />
                {name}
              </label>
            );
          })}
        </div>
      </fieldset>
      <Field
        label={t("ui.timesOnTheClocksOf", { zone })}
        value={times}
        onChange={(event) => onTimes(event.target.value)}
        className="min-w-44 flex-1"
      />
    </div>
  );
}
