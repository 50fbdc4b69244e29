import { Field } from "./Field";

const DAYS = ["Mo", "Tu", "We", "Th", "Fr", "Sa", "Su"];
const DAY_NAMES = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];

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
        <legend className="mb-1 text-[13px] font-[560]">Days</legend>
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
        label={`Times, on the clocks of ${zone}`}
        value={times}
        onChange={(event) => onTimes(event.target.value)}
        className="min-w-44 flex-1"
      />
    </div>
  );
}
