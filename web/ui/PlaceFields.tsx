import { useId, useMemo } from "react";
import { countries, LANGUAGES } from "@amigo/core/text/place";
import { Field } from "./Field";
import { t } from "../texts/ui";

/** Where a school or club is. */
export interface Place {
  timeZone: string;
  country: string;
  language: string;
}

/** Time zone, country and language, each chosen from a list that can be typed in. */
export function PlaceFields({
  value,
  onChange,
}: {
  value: Place;
  onChange: (part: Partial<Place>) => void;
}) {
  const id = useId();
  const all = useMemo(() => countries(), []);
  const zones = useMemo(() => ["UTC", ...Intl.supportedValuesOf("timeZone")], []);
  const languages = useMemo(() => {
    const names = new Intl.DisplayNames("en", { type: "language" });
    return LANGUAGES.map((code) => ({ code, name: names.of(code) ?? code }));
  }, []);
  return (
    <>
      <Field
        label={t("ui.timeZone")}
        help={t("ui.allTimesOnPagesAnd")}
        list={`${id}-zones`}
        required
        value={value.timeZone}
        onChange={(event) => onChange({ timeZone: event.target.value })}
      />
      <datalist id={`${id}-zones`}>
        {zones.map((zone) => (
          <option key={zone} value={zone} />
        ))}
      </datalist>
      <Select
        label={t("ui.country")}
        help={t("ui.forTheWayDatesAre")}
        value={value.country}
        options={[{ code: "", name: t("ui.notSaid") }, ...all]}
        onChange={(country) => onChange({ country })}
      />
      <Select
        label={t("ui.language")}
        help={t("ui.forDatesAndSortingPages")}
        value={value.language}
        options={languages}
        onChange={(language) => onChange({ language })}
      />
    </>
  );
}

/** Whether it is a school or a club. */
export function KindField({
  value,
  onChange,
  className = "",
}: {
  value: "school" | "club";
  onChange: (kind: "school" | "club") => void;
  className?: string;
}) {
  return (
    <fieldset className={`flex gap-5 ${className}`}>
      <legend className="mb-1 text-[13px] font-[560]">{t("ui.thisIsA")}</legend>
      {(["school", "club"] as const).map((kind) => (
        <label key={kind} className="flex items-center gap-2">
          <input
            type="radio"
            name="kind"

            checked={value === kind}
            onChange={() => onChange(kind)}
          />
          {kind}
        </label>
      ))}
    </fieldset>
  );
}

function Select({
  label,
  help,
  value,
  options,
  onChange,
}: {
  label: string;
  help: string;
  value: string;
  options: readonly { code: string; name: string }[];
  onChange: (code: string) => void;
}) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="mb-1 block text-[13px] font-[560]">
        {label}
      </label>
      <select
        id={id}
        aria-describedby={`${id}-help`}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        className="h-[34px] w-full rounded-md border border-hair bg-panel px-2 hover:border-ink-3"
      >
        {options.map(({ code, name }) => (
          <option key={code} value={code}>
            {name}
          </option>
        ))}
      </select>
      <p id={`${id}-help`} className="mt-1 text-[13px] text-ink-3">
        {help}
      </p>
    </div>
  );
}
