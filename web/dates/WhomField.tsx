import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from "@headlessui/react";
import { X } from "lucide-react";
import { useId, useState } from "react";
import type { TargetHit } from "@amigo/contract/drafts";
import { useTargetsQuery } from "../data/drafts";
import { t } from "../texts/dates";

/** Whom a date is for: a list, somebody by themselves, or a private list. */
export interface Whom {
  kind: "list" | "person" | "private";
  id: string;
  name: string;
}

/** Those who are invited, with a field that finds more of them by the start of any word of their names. */
export function WhomField({
  chosen,
  onChange,
}: {
  chosen: readonly Whom[];
  onChange: (whom: Whom[]) => void;
}) {
  const id = useId();
  const [text, setText] = useState("");
  // Only what answers the text as it is now: a hit of an older text must never be taken by a quick Enter.
  const { currentData: found = [] } = useTargetsQuery(text.trim(), { skip: text.trim() === "" });
  const hits = found.filter(
    (hit): hit is TargetHit & Whom =>
      hit.kind !== "address" && !chosen.some((one) => one.kind === hit.kind && one.id === hit.id),
  );
  return (
    <div>
      <label htmlFor={id} className="mb-1 block text-[13px] font-[560]">
        {t("dates.whomToInvite")}
      </label>
      <Combobox
        value={null}
        onChange={(hit: Whom | null) => {
          if (hit === null) return;
          onChange([...chosen, { kind: hit.kind, id: hit.id, name: hit.name }]);
          setText("");
        }}
        immediate
      >
        <div className="flex min-h-[34px] flex-wrap items-center gap-1.5 rounded-md border border-hair bg-panel px-1.5 py-1 focus-within:outline-2 focus-within:outline-petrol">
          {chosen.map((whom) => (
            <span
              key={`${whom.kind} ${whom.id}`}
              className="inline-flex items-center gap-1 rounded bg-petrol-soft px-1.5 py-0.5"
            >
              {whom.name}
              <button
                type="button"
                aria-label={t("dates.removeList", { title: whom.name })}
                onClick={() => onChange(chosen.filter((one) => one !== whom))}
                className="rounded hover:text-brick"
              >
                <X size={13} aria-hidden="true" />
              </button>
            </span>
          ))}
          <ComboboxInput
            id={id}
            value={text}
            displayValue={() => text}
            onChange={(event) => setText(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === "Backspace" && text === "" && chosen.length > 0)
                onChange(chosen.slice(0, -1));
            }}
            placeholder={chosen.length === 0 ? t("dates.startOfAName") : ""}
            autoComplete="off"
            className="min-w-40 flex-1 bg-transparent px-1 outline-none!"
          />
        </div>
        <ComboboxOptions
          anchor={{ to: "bottom start", gap: 4 }}
          className="z-50 max-h-80! w-(--input-width) min-w-72 overflow-auto rounded-md border border-hair bg-panel py-1 shadow-lg empty:hidden"
        >
          {hits.map((hit) => (
            <ComboboxOption
              key={`${hit.kind} ${hit.id}`}
              value={hit}
              className="flex cursor-pointer justify-between gap-3 px-3 py-1.5 data-focus:bg-petrol-soft"
            >
              <span className="min-w-0 wrap-anywhere">{hit.name}</span>
              <span className="min-w-0 text-right text-[13px] text-ink-2 wrap-anywhere">
                {hit.detail}
              </span>
            </ComboboxOption>
          ))}
        </ComboboxOptions>
      </Combobox>
    </div>
  );
}

/** Returns those who are invited as the contract has them. */
export function wantedOf(whom: readonly Whom[]): {
  lists: string[];
  people: string[];
  privateLists: string[];
} {
  const of = (kind: Whom["kind"]): string[] =>
    whom.filter((one) => one.kind === kind).map(({ id }) => id);
  return { lists: of("list"), people: of("person"), privateLists: of("private") };
}
