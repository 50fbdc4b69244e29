import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from "@headlessui/react";
import { X } from "lucide-react";
import { useId, useState } from "react";
import { fold } from "@amigo/core/text/fold";
import { useAllListsQuery } from "../data/lists";
import { t } from "../texts/t";

const SHOWN = 12;

/** The lists that are invited, with a field that finds more of them by any word of their title. */
export function ListsField({
  chosen,
  onChange,
}: {
  chosen: readonly string[];
  onChange: (lists: string[]) => void;
}) {
  const id = useId();
  const [text, setText] = useState("");
  const { data } = useAllListsQuery("");
  const open = (data?.lists ?? []).filter(({ state }) => state === "open");
  const titles = new Map((data?.lists ?? []).map((list) => [list.id, list.title]));
  const words = fold(text).split(" ");
  const hits = open
    .filter((list) => !chosen.includes(list.id))
    .filter((list) => words.every((word) => fold(list.title).includes(word)))
    .slice(0, SHOWN);
  return (
    <div>
      <label htmlFor={id} className="mb-1 block text-[13px] font-[560]">
        {t("dates.listsToInvite")}
      </label>
      <Combobox
        value={null}
        onChange={(list: { id: string } | null) => {
          if (list === null) return;
          onChange([...chosen, list.id]);
          setText("");
        }}
        immediate
      >
        <div className="flex min-h-[34px] flex-wrap items-center gap-1.5 rounded-md border border-hair bg-panel px-1.5 py-1 focus-within:outline-2 focus-within:outline-petrol">
          {chosen.map((list) => (
            <span
              key={list}
              className="inline-flex items-center gap-1 rounded bg-petrol-soft px-1.5 py-0.5"
            >
              {titles.get(list) ?? "…"}
              <button
                type="button"
                aria-label={t("dates.removeList", { title: titles.get(list) ?? "" })}
                onClick={() => onChange(chosen.filter((one) => one !== list))}
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
            placeholder={chosen.length === 0 ? t("dates.startOfAListsTitle") : ""}
            autoComplete="off"
            className="min-w-40 flex-1 bg-transparent px-1 outline-none!"
          />
        </div>
        <ComboboxOptions
          anchor={{ to: "bottom start", gap: 4 }}
          className="z-50 max-h-80! w-(--input-width) min-w-72 overflow-auto rounded-md border border-hair bg-panel py-1 shadow-lg empty:hidden"
        >
          {hits.map((list) => (
            <ComboboxOption
              key={list.id}
              value={list}
              className="flex cursor-pointer justify-between gap-3 px-3 py-1.5 data-focus:bg-petrol-soft"
            >
              <span className="min-w-0 wrap-anywhere">{list.title}</span>
              <span className="shrink-0 text-[13px] text-ink-2">
                {t("dates.members", { members: list.members })}
              </span>
            </ComboboxOption>
          ))}
        </ComboboxOptions>
      </Combobox>
    </div>
  );
}
