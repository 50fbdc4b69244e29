import {
  Combobox,
  ComboboxInput,
  ComboboxOption,
  ComboboxOptions,
  Dialog,
  DialogPanel,
} from "@headlessui/react";
import { useState } from "react";
import { useNavigate } from "react-router";
import { may } from "@amigo/core/access/may";
import { useMe } from "../data/me";
import { useFindQuery } from "../data/accounts";
import { t } from "../texts/app";
import { type Hit, PLACES } from "./findPlaces";

/** Finds any list, class, person, source or place by the start of its words. */
export function Find({ onClose }: { onClose: () => void }) {
  const me = useMe();
  const navigate = useNavigate();
  const [text, setText] = useState("");
  const q = text.trim();
  const { currentData: found = [], isFetching } = useFindQuery(q, { skip: q === "" });
  const words = q.toLowerCase().split(/\s+/);
  const places = PLACES.filter(
    ({ needs, title, detail }) =>
      may(me.role, needs) &&
      words.every((word) =>
        `${title} ${detail}`
          .toLowerCase()
          .split(" ")
          .some((piece) => piece.startsWith(word)),
      ),
  ).sort(
    (a, b) =>
      Number(b.title.toLowerCase().startsWith(q.toLowerCase())) -
      Number(a.title.toLowerCase().startsWith(q.toLowerCase())),
  );
  const hits: Hit[] = [
    ...found.map(({ id, ...hit }) => ({ ...hit, key: `${hit.kind} ${id}` })),
    ...places,
  ];
  return (
    <Dialog open onClose={onClose} className="relative z-40">
      <div className="fixed inset-0 bg-ink/30" aria-hidden="true" />
      <div className="fixed inset-0 flex items-start justify-center md:p-4 md:pt-[12vh]">
        <DialogPanel className="w-full overflow-hidden border max-md:h-dvh md:max-w-2xl md:rounded-lg border-hair bg-panel shadow-2xl">
          <Combobox
            onChange={(hit: Hit | null) => {
              if (hit !== null) {
                onClose();
                void navigate(hit.to);
              }
            }}
          >
            <ComboboxInput
              autoFocus
              aria-label={t("app.find")}
              placeholder={t("app.startOfAListClass")}
              onChange={(event) => setText(event.target.value)}
              onKeyDown={(event) => {
                if (event.key === "Escape") onClose();
              }}
              className="h-12 w-full border-b border-hair bg-transparent px-4 text-[16px] outline-none"
            />
            <Hits hits={hits} isFetching={isFetching} q={q} />
          </Combobox>
        </DialogPanel>
      </div>
    </Dialog>
  );
}

function Hits({
  hits,
  isFetching,
  q,
}: {
  hits: Hit[];
  isFetching: ReturnType<typeof useFindQuery>["isFetching"];
  q: string;
}) {
  return (
    <ComboboxOptions static className="max-h-[80dvh] overflow-auto md:max-h-[55vh] py-1">
      {hits.map((hit) => (
        <ComboboxOption
          key={hit.key}
          value={hit}
          className="flex cursor-pointer items-baseline gap-x-3 px-4 py-2 data-focus:bg-petrol-soft"
        >
          <span className="w-14 shrink-0 text-xs text-ink-3">{hit.kind}</span>
          <span className="min-w-0">
            <span className="mr-2.5 font-[600]">{hit.title}</span>
            <span
              className={`min-w-0 wrap-anywhere text-ink-2 ${hit.kind === "list" ? "mono" : ""}`}
            >
              {hit.detail}
            </span>
          </span>
        </ComboboxOption>
      ))}
      {hits.length === 0 && (
        <p role="status" className="px-4 py-6 text-ink-2">
          {isFetching ? t("app.looking") : t("app.nothingHereStartsWithTry", { q })}
        </p>
      )}
    </ComboboxOptions>
  );
}
