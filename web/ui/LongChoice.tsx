import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from "@headlessui/react";
import { useMemo, useState } from "react";
import { fold } from "@amigo/core/text/fold";
import type { ChoiceOption } from "./Choice";

/** How high the line of an option is, in pixels. */
const LINE = 33;

/** A choice of many, found by typing any part of a name. Only the options in sight are made, however many there are. */
export function LongChoice<Value extends string>({
  label,
  value,
  options,
  onChange,
  className = "",
}: {
  label: string;
  value: Value;
  options: readonly ChoiceOption<Value>[];
  onChange: (value: Value) => void;
  className?: string;
}) {
  const [text, setText] = useState("");
  const found = useMemo(() => {
    const wanted = lettersOf(text);
    return options.filter(({ name }) => lettersOf(name).includes(wanted));
  }, [options, text]);
  const chosen = options.find((option) => option.value === value) ?? null;
  return (
    <Combobox
      immediate
      value={chosen}
      onChange={(option: ChoiceOption<Value> | null) => {
        if (option !== null) onChange(option.value);
      }}
      onClose={() => setText("")}
      virtual={{ options: found }}
    >
      <ComboboxInput
        aria-label={label}
        displayValue={(option: ChoiceOption<Value> | null) => option?.name ?? ""}
        onChange={(event) => setText(event.target.value)}
        onFocus={(event) => event.target.select()}
        autoComplete="off"
        className={`min-h-[26px] truncate rounded-md border border-hair bg-panel px-2 text-[13px] leading-normal font-[560] hover:border-petrol ${className}`}
      />
      {found.length > 0 && (
        <ComboboxOptions
          modal={false}
          anchor={{ to: "bottom start", gap: 4 }}
          style={{ height: `${Math.min(found.length * LINE, 320) + 10}px` }}
          className="z-50 w-80 overflow-auto rounded-md border border-hair bg-panel py-1 shadow-lg outline-none"
        >
          {({ option }: { option: ChoiceOption<Value> }) => (
            <ComboboxOption
              value={option}
              className="w-full cursor-pointer truncate px-3 py-1.5 data-focus:bg-petrol-soft data-selected:font-[620]"
            >
              {option.name}
            </ComboboxOption>
          )}
        </ComboboxOptions>
      )}
    </Combobox>
  );
}

/** The letters and digits of a name, so that `class 01` finds `ml-class01-2627`. */
function lettersOf(text: string): string {
  return fold(text).replace(/[^\p{L}\p{N}]+/gu, "");
}
