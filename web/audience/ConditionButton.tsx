import type { ChosenGroup } from "@amigo/core/audience/choices";
import { Rich } from "../texts/ui";

export function ConditionButton({
  onChange,
  group,
  first,
  label,
}: {
  onChange: (group: ChosenGroup) => void;
  group: ChosenGroup;
  first: { name: string; values: string[] };
  label: string;
}) {
  return (
    <button
      type="button"
      onClick={() =>
        onChange({
          ...group,
          condition: { column: first.name, comparison: "is", value: first.values[0] ?? "" },
        })
      }
      className="rounded px-1 text-[13px] text-petrol underline underline-offset-2"
    >
      <Rich
        id="ui.addAConditionTo"
        label={label}
        span={(chunks) => <span className="sr-only">{chunks}</span>}
      />
    </button>
  );
}
