import { type Message } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from "@headlessui/react";
import { ALL_MEANINGS, meaningOf } from "@amigo/core/sheet/meanings/allMeanings";
import { SURE_ENOUGH } from "@amigo/core/sheet/columns/askColumns";
import { isUsed } from "@amigo/core/sheet/meanings/isUsed";
import type { MeaningId } from "@amigo/core/sheet/meanings/meaning";
import { meaningName } from "@amigo/core/sheet/meanings/meaningName";
import { t } from "../texts/sources";

export interface ShownMeaning {
  meaning: MeaningId;
  slot: number;
  confidence: number;
}

/** What a column can hold; of several children each has its own names, classes and levels. */
function optionsFor(children: number): { key: string; name: string }[] {
  return ALL_MEANINGS.flatMap(({ id, slotted, ofChild, most = 4 }) =>
    slotsOf(slotted ? most : ofChild === true ? children : 0, slotted).map((slot) => ({
      key: `${id} ${slot}`,
      name: say(meaningName({ meaning: id, slot })),
    })),
  );
}

function slotsOf(most: number, slotted: boolean): number[] {
  const numbered = Array.from({ length: most }, (_, index) => index + 1);
  return slotted ? numbered : [0, ...numbered];
}

/** More children than this in one row aren't offered. */
const MOST_CHILDREN = 5;

/** What a column holds, above it; a list to change it where it can be changed. */
export function MeaningHead({
  column,
  title,
  why,
  several = false,
  onChange,
}: {
  column: ShownMeaning;
  title: string;
  /** Why it is taken for that, in a sentence. */
  why?: Message | undefined;
  /** Whether a row has several children. */
  several?: boolean;
  onChange: ((meaning: MeaningId, slot: number) => void) | undefined;
}) {
  const { label, part } = meaningOf(column.meaning);
  const isUnused = !isUsed(column.meaning);
  const unsure = column.confidence < SURE_ENOUGH && !isUnused;
  const shown = (
    <>
      <span className="sr-only">{t("sources.columnHolds", { title })} </span>
      <b
        className={`block truncate font-semibold ${isUnused ? "text-ink-3" : unsure ? "text-marigold-ink" : "text-petrol"}`}
      >
        {t("sources.meaningOf", { meaning: label, slot: column.slot, isUnsure: String(unsure) })}
      </b>
      <small className="block truncate text-[11px] text-ink-3">
        {unsure ? t("sources.sure", { share: column.confidence }) : say(part) || "\u00a0"}
      </small>
    </>
  );
  if (onChange === undefined) return <div className="px-2 pb-1">{shown}</div>;
  return (
    <Listbox
      value={`${column.meaning} ${column.slot}`}
      onChange={(key: string) => {
        const [meaning = "unread", slot = "0"] = key.split(" ");
        onChange(meaning as MeaningId, Number(slot));
      }}
    >
      <ListboxButton
        title={t("sources.columnHoldsChangeWhatIt", { title, meaning: meaningName(column) })}
        className={`block w-full px-2 pb-1 text-left hover:bg-panel focus-visible:-outline-offset-2 ${unsure ? "bg-marigold-soft" : ""}`}
      >
        {shown}
      </ListboxButton>
      <ListboxOptions
        anchor={{ to: "bottom start", gap: 2 }}
        className="z-50 max-h-96! w-64 overflow-auto rounded-md border border-hair bg-panel py-1 shadow-lg outline-none"
      >
        {say(why) !== "" && (
          <div className="border-b border-hair-soft px-3 pb-1.5 text-[13px] wrap-anywhere text-ink-2">
            {say(why)}
          </div>
        )}
        <Options most={several ? MOST_CHILDREN : 0} />
      </ListboxOptions>
    </Listbox>
  );
}

/** What the column can hold instead; there are many, so they are said only while the list is open. */
function Options({ most }: { most: number }) {
  return optionsFor(most).map(({ key, name }) => (
    <ListboxOption
      key={key}
      value={key}
      className="cursor-pointer px-3 py-1 data-focus:bg-petrol-soft data-selected:font-[620]"
    >
      {name}
    </ListboxOption>
  ));
}
