import { useVirtualizer, type ReactVirtualizer } from "@tanstack/react-virtual";
import { useRef } from "react";
import { Link } from "react-router";
import type { ListLine } from "@amigo/contract/lists";
import { t } from "../texts/lists";

const COLUMNS =
  "28px minmax(170px,1.3fr) minmax(190px,1.3fr) minmax(90px,.6fr) minmax(140px,1fr) minmax(110px,.9fr) 80px 92px";

const STATE_WORDS = { open: "", closed: "closed", "season over": t("lists.seasonOver") } as const;

export function ListsTable({
  lists,
  ticked,
  all,
  onTick,
}: {
  lists: readonly ListLine[];
  ticked: ReadonlySet<string>;
  all: boolean;
  onTick: (ticked: ReadonlySet<string>) => void;
}) {
  const scroll = useRef<HTMLDivElement>(null);
  const drawn = useVirtualizer({
    count: lists.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => 38,
    overscan: 12,
    getItemKey: (index) => lists[index]?.id ?? index,
  });
  const toggle = (id: string): void => {
    const next = new Set(ticked);
    if (!next.delete(id)) next.add(id);
    onTick(next);
  };
  return (
    <div
      ref={scroll}
      role="table"
      aria-label={t("lists.lists")}
      aria-rowcount={lists.length}
      className="max-lg:h-[65dvh] min-h-[220px] overflow-auto lg:flex-1 rounded-lg border border-hair bg-panel"
    >
      <div
        role="row"
        className="sticky top-0 z-10 grid min-w-fit items-center gap-x-3 border-b border-hair bg-panel px-4 py-1.5 text-[12px] font-[500] text-ink-3"
        style={{ gridTemplateColumns: COLUMNS }}
      >
        <span role="columnheader">
          <input
            type="checkbox"

            aria-label={t("lists.tickAllShown", { lists: lists.length })}
            checked={all}
            onChange={() =>
              onTick(all ? new Set() : new Set([...ticked, ...lists.map(({ id }) => id)]))
            }
          />
        </span>
        {[
          t("lists.list"),
          t("lists.name"),
          t("lists.site"),
          t("lists.recipe"),
          t("lists.lead"),
          t("lists.members"),
          t("lists.state"),
        ].map((title) => (
          <span key={title} role="columnheader">
            {title}
          </span>
        ))}
      </div>
      <ListRows drawn={drawn} lists={lists} ticked={ticked} toggle={toggle} />
    </div>
  );
}

function ListRows({
  drawn,
  lists,
  ticked,
  toggle,
}: {
  drawn: ReactVirtualizer<HTMLDivElement, Element>;
  lists: readonly ListLine[];
  ticked: ReadonlySet<string>;
  toggle: (id: string) => void;
}) {
  return (
    <div role="rowgroup" className="relative min-w-fit" style={{ height: drawn.getTotalSize() }}>
      {drawn.getVirtualItems().map(({ index, key, start }) => {
        const list = lists[index];
        if (list === undefined) return null;
        return (
          <div
            key={key}
            role="row"
            className="absolute inset-x-0 grid h-[38px] min-w-fit items-center gap-x-3 border-b border-hair-soft px-4"
            style={{ gridTemplateColumns: COLUMNS, transform: `translateY(${start}px)` }}
          >
            <span role="cell">
              <input
                type="checkbox"

                aria-label={t("lists.tick", { title: list.title })}
                checked={ticked.has(list.id)}
                onChange={() => toggle(list.id)}
              />
            </span>
            <span role="cell" className="sticky left-0 z-1 truncate bg-panel leading-[36px]">
              <Link to={`/lists/${list.id}`} className="font-[620] text-petrol hover:underline">
                {list.title}
              </Link>
            </span>
            <span role="cell" className="mono truncate" title={list.name}>
              {list.name}
            </span>
            <span role="cell" className="truncate text-[13px] text-ink-2">
              {list.site}
            </span>
            <span role="cell" className="truncate text-[13px] text-ink-2">
              {list.recipe === "" ? t("lists.none") : list.recipe}
              {list.apart && <span className="text-marigold-ink"> {t("lists.apart")}</span>}
            </span>
            <span role="cell" className="truncate text-[13px] text-ink-2">
              {list.leads.join(", ")}
            </span>
            <span role="cell">{list.members}</span>
            <span role="cell" className="text-[13px] text-ink-2">
              {STATE_WORDS[list.state]}
            </span>
          </div>
        );
      })}
    </div>
  );
}
