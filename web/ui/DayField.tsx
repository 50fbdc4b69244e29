import { CalendarDays } from "lucide-react";
import { useId, useRef, useState } from "react";
import { dayAndTimeOf, dayOf, readDay, readDayAndTime } from "./time";
import { t } from "../texts/ui";

interface DayFieldProps {
  label: string;
  /** `YYYY-MM-DD`, with `withTime` `YYYY-MM-DDTHH:mm`; empty for none. */
  value: string;
  onChange: (value: string) => void;
  /** The first and the last day that can be chosen, as `YYYY-MM-DD`. */
  min?: string;
  max?: string;
  required?: boolean;
  /** Whether a time of day goes with it. */
  withTime?: boolean;
  help?: string;
  /** Whether the label stands before the field in the same line. */
  inline?: boolean;
  className?: string;
}

/**
 * A day, read and written as the school writes its dates, whatever the browser's own language is. It can be typed in any
 * usual way, or chosen from the browser's calendar.
 */
export function DayField({
  label,
  value,
  onChange,
  min = "",
  max = "",
  required = false,
  withTime = false,
  help,
  inline = false,
  className = "",
}: DayFieldProps) {
  const id = useId();
  const picker = useRef<HTMLInputElement>(null);
  const { shown, fault, isWrong, take, enter, leave, forget } = useTypedDay(value, onChange, {
    min,
    max,
    withTime,
  });
  const note = isWrong ? fault : help;
  return (
    <div
      className={`${inline ? "flex flex-wrap items-center gap-2 text-[13px]" : ""} ${className}`}
    >
      <label htmlFor={id} className={inline ? "text-ink-2" : "mb-1 block text-[13px] font-[560]"}>
        {label}
      </label>
      <div className="relative">
        <input
          id={id}
          type="text"
          autoComplete="off"
          required={required}
          value={shown}
          placeholder={withTime ? dayAndTimeOf(`${EXAMPLE}T16:30`) : dayOf(EXAMPLE)}
          aria-invalid={isWrong}
          aria-describedby={note === undefined ? undefined : `${id}-note`}
          ref={(input) => input?.setCustomValidity(fault)}
          onChange={(event) => take(event.target.value)}
          onFocus={enter}
          onBlur={leave}
          className={`w-full rounded-md border border-hair bg-panel pe-8 ps-2.5 hover:border-ink-3 ${inline ? "h-[30px]" : "h-[34px]"} ${withTime ? "min-w-48" : "min-w-36"}`}
        />
        <button
          type="button"
          aria-label={t("ui.openTheCalendar", { label })}
          onClick={() => picker.current?.showPicker()}
          className="absolute inset-y-0 end-0 flex w-8 items-center justify-center text-ink-3 hover:text-ink"
        >
          <CalendarDays size={15} aria-hidden="true" />
        </button>
        <input
          ref={picker}
          type={withTime ? "datetime-local" : "date"}
          tabIndex={-1}
          aria-hidden="true"
          value={value}
          min={min === "" ? undefined : min}
          max={max === "" ? undefined : max}
          onChange={(event) => {
            forget();
            onChange(event.target.value);
          }}
          className="pointer-events-none absolute end-0 bottom-0 size-px opacity-0"
        />
      </div>
      {note !== undefined && (
        <p
          id={`${id}-note`}
          role={isWrong ? "alert" : undefined}
          className={`mt-1 text-[13px] ${isWrong ? "text-brick" : "text-ink-3"}`}
        >
          {note}
        </p>
      )}
    </div>
  );
}

interface Bounds {
  min: string;
  max: string;
  withTime: boolean;
}

/** What is typed into a field for a day, until it is left with a day that can be read. */
function useTypedDay(value: string, onChange: (value: string) => void, bounds: Bounds) {
  const { min, max, withTime } = bounds;
  const [typed, setTyped] = useState<string>();
  const [typing, setTyping] = useState(false);
  const [before, setBefore] = useState(value);
  const write = withTime ? dayAndTimeOf : dayOf;
  const fault = typed === undefined ? "" : faultOf(typed, bounds);
  return {
    shown: typed ?? (value === "" ? "" : write(value)),
    fault,
    /** While somebody still types, nothing is said against it. */
    isWrong: fault !== "" && !typing,
    take: (text: string): void => {
      const read = withTime ? readDayAndTime(text) : readDay(text, { from: min, until: max });
      // What can't be read changes nothing, neither does a half of it that could: "31/1/20" of "31/1/202x".
      const isRead = read !== undefined && faultOf(text, bounds) === "";
      onChange(text.trim() === "" ? "" : isRead ? read : before);
      setTyped(text);
    },
    enter: (): void => {
      setTyping(true);
      if (typed === undefined) setBefore(value);
    },
    leave: (): void => {
      setTyping(false);
      if (typed !== undefined && faultOf(typed, bounds) === "") setTyped(undefined);
    },
    forget: (): void => setTyped(undefined),
  };
}

/** A day whose parts can't be mistaken for each other. */
const EXAMPLE = "2027-07-31";

function faultOf(text: string, { min, max, withTime }: Bounds): string {
  if (text.trim() === "") return "";
  const read = withTime ? readDayAndTime(text) : readDay(text, { from: min, until: max });
  if (read === undefined)
    return t("ui.thisCantBeReadAs", {
      withTime: String(withTime),
      example: withTime ? dayAndTimeOf(`${EXAMPLE}T16:30`) : dayOf(EXAMPLE),
    });
  const day = read.slice(0, 10);
  if (min !== "" && day < min) return t("ui.chooseOrLater", { when: dayOf(min) });
  if (max !== "" && day > max) return t("ui.chooseOrEarlier", { when: dayOf(max) });
  return "";
}
