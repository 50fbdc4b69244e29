import { Field } from "./Field";
import { weekdays } from "./weekdays";
import { t } from "../texts/ui";

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
  const names = weekdays("long");
  return (
    <div className="flex flex-wrap items-end gap-3">
      <fieldset>
        <legend className="mb-1 text-[13px] font-[560]">{t("ui.days")}</legend>
        <div className="flex gap-1">
          {weekdays("short").map((name, at) => {
            const day = at + 1;
            const on = days.includes(day);
            return (
              <label
                key={name}
                title={names[at]}
                className={`flex h-[34px] w-[38px] cursor-pointer items-center justify-center rounded-md border text-[13px] has-focus-visible:outline-2 has-focus-visible:outline-petrol ${on ? "border-petrol bg-petrol-soft font-[650] text-petrol" : "border-hair"}`}
              >
                <input
                  type="checkbox"
                  className="sr-only"
                  aria-label={names[at] ?? name}
                  checked={on}
                  onChange={() =>
                    onDays(
                      on ? days.filter((candidate) => candidate !== day) : [...days, day].sort(),
                    )
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
