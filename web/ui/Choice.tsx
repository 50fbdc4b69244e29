import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from "@headlessui/react";
import { ChevronDown } from "lucide-react";
import { t } from "../texts/ui";

/** What can be chosen, and what it is called. */
export interface ChoiceOption<Value extends string> {
  value: Value;
  name: string;
}

/** A choice of a few, shown by the one that is chosen. */
export function Choice<Value extends string>({
  label,
  value,
  options,
  onChange,
  className = "",
  small = false,
}: {
  label: string;
  value: Value;
  options: readonly ChoiceOption<Value>[];
  onChange: (value: Value) => void;
  className?: string;
  small?: boolean;
}) {
  const chosen = options.find((option) => option.value === value)?.name ?? t("ui.choose");
  return (
    <Listbox value={value} onChange={onChange}>
      <ListboxButton
        aria-label={`${label}: ${chosen}`}
        className={`inline-flex items-center gap-1.5 whitespace-nowrap rounded-md leading-normal border border-hair bg-panel font-[560] hover:border-petrol ${small ? "min-h-[26px] px-2 text-[13px]" : "min-h-[30px] px-3"} ${className}`}
      >
        <span className="truncate">{chosen}</span>
        <ChevronDown size={14} aria-hidden="true" className="shrink-0" />
      </ListboxButton>
      <ListboxOptions
        anchor={{ to: "bottom start", gap: 4 }}
        className="z-50 max-h-80! min-w-(--button-width) overflow-auto rounded-md border border-hair bg-panel py-1 shadow-lg outline-none"
      >
        {options.map((option) => (
          <ListboxOption
            key={option.value}
            value={option.value}
            className="cursor-pointer px-3 py-1.5 data-focus:bg-petrol-soft data-selected:font-[620]"
          >
            {option.name}
          </ListboxOption>
        ))}
      </ListboxOptions>
    </Listbox>
  );
}
