import type { z } from "zod";
import type { getAllLists } from "@amigo/contract/lists";
import { useVirtualizer, type ReactVirtualizer } from "@tanstack/react-virtual";
import { useRef, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { may } from "@amigo/core/access/may";
import { fold } from "@amigo/core/text/fold";
import type { EditWanted } from "@amigo/contract/edits";
import type { ListLine } from "@amigo/contract/lists";
import { useAllListsQuery } from "../data/lists";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { EditDialog } from "../ui/EditDialog";
import { Empty, FaultPage, Loading, PageHead, Panel } from "../ui/Page";
import { SearchField } from "../ui/SearchField";
import { ChangeMany } from "./ChangeMany";
import { t } from "../texts/t";
import { Rich } from "../texts/Rich";

const COLUMNS =
  "28px minmax(170px,1.3fr) minmax(190px,1.3fr) minmax(90px,.6fr) minmax(140px,1fr) minmax(110px,.9fr) 80px 92px";
const FORMATS = [
  ["xlsx", "XLSX"],
  ["ods", "ODS"],
  ["csv", "CSV"],
  ["vcf", "vCard"],
  ["txt", "addresses"],
] as const;
/** As many lists go into one file. */
const MOST_EXPORTED = 200;
const STATE_WORDS = { open: "", closed: "closed", "season over": t("lists.seasonOver") } as const;

/** Every list of a season, to be searched, ticked, changed together or exported. */
export function AllListsPage() {
  const me = useMe();
  const [search, setSearch] = useSearchParams();
  const season = search.get("season") ?? "";
  const q = search.get("q") ?? "";
  const show = search.get("show") ?? "";
  const { data, error } = useAllListsQuery(season);
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const [changing, setChanging] = useState(false);
  const [edit, setEdit] = useState<{ title: string; edit: EditWanted }>();
  const [said, setSaid] = useState("");
  const set = (name: string, value: string): void =>
    setSearch(
      (before) => {
        if (value === "") before.delete(name);
        else before.set(name, value);
        return before;
      },
      { replace: true },
    );
  if (error !== undefined) return <FaultPage error={error} />;
  if (data === undefined) return <Loading what={t("lists.theLists")} />;
  const words = fold(q)
    .split(" ")
    .filter((word) => word !== "");
  const lists = data.lists.filter(({ title, name, site, recipe, leads, state, apart }) => {
    if (show === "open" && state !== "open") return false;
    if (show === "closed" && state === "open") return false;
    if (show === "apart" && !apart) return false;
    if (show === "single" && recipe !== "") return false;
    const pieces = fold(
      `${title} ${name.replace(/[.-]/g, " ")} ${site} ${recipe} ${leads.join(" ")}`,
    ).split(" ");
    return words.every((word) => pieces.some((piece) => piece.startsWith(word)));
  });
  const chosen = data.lists.filter(({ id }) => ticked.has(id));
  const mayChange = may(me.role, "change lists");
  const current = data.seasons.find((candidate) =>
    season === "" ? candidate.current : candidate.label === season,
  );
  const all = lists.length > 0 && lists.every(({ id }) => ticked.has(id));
  return (
    <div className="flex flex-col lg:min-h-0 lg:flex-1">
      <ListsHead data={data} current={current} mayChange={mayChange} />
      {said !== "" && (
        <p role="status" className="mb-2.5 rounded-md border border-leaf bg-leaf-soft px-3 py-2">
          {said}
        </p>
      )}
      <div className="mb-2.5 flex flex-wrap items-center gap-2">
        <SearchField
          label={t("lists.searchTheLists")}
          placeholder={t("lists.nameRecipeSiteOrLead")}
          value={q}
          onChange={(value) => set("q", value)}
        />
        <Choice
          label={t("lists.season")}
          value={season}
          onChange={(value) => {
            set("season", value);
            setTicked(new Set());
          }}
          options={data.seasons.map(({ label, current: isCurrent }) => ({
            value: isCurrent ? "" : label,
            name: isCurrent
              ? t("lists.current", { label: label.replace("-", "–") })
              : label.replace("-", "–"),
          }))}
        />
        <Choice
          label={t("lists.listsShown")}
          value={show}
          onChange={(value) => set("show", value)}
          options={[
            { value: "", name: t("lists.everyList") },
            { value: "open", name: t("lists.openOnes") },
            { value: "closed", name: t("lists.closedOnes") },
            { value: "apart", name: t("lists.apartFromTheirRecipe") },
            { value: "single", name: t("lists.withoutARecipe") },
          ]}
        />
        {chosen.length > 0 && (
          <span className="ml-auto flex flex-wrap items-center gap-2">
            <b className="font-[620]">{t("lists.ticked", { chosen: chosen.length })}</b>
            {mayChange && current?.current === true && (
              <Button look="go" onClick={() => setChanging(true)}>
                {t("lists.changeLists", { chosen: chosen.length })}
              </Button>
            )}
            {chosen.length <= MOST_EXPORTED ? (
              <span className="flex items-center gap-2 text-[13px]">
                <Rich
                  id="lists.export"
                  formats={FORMATS.map(([format, name]) => (
                    <a
                      key={format}
                      className="text-petrol underline underline-offset-2"
                      download
                      href={`/api/lists/export/${format}?lists=${chosen.map(({ id }) => id).join(",")}`}
                    >
                      {name}
                    </a>
                  ))}
                />
              </span>
            ) : (
              <span className="text-[13px] text-ink-3">
                {t("lists.atMostGoIntoOne", { MOSTEXPORTED: MOST_EXPORTED })}
              </span>
            )}
          </span>
        )}
      </div>
      {lists.length === 0 ? (
        <Panel>
          <Empty title={data.lists.length === 0 ? t("lists.noListYet") : t("lists.noListFound")}>
            <p>
              {data.lists.length === 0
                ? t("lists.listsComeOutOfThe")
                : t("lists.tryFewerLettersOrShow")}
            </p>
          </Empty>
        </Panel>
      ) : (
        <Rows lists={lists} ticked={ticked} all={all} onTick={setTicked} />
      )}
      {changing && (
        <ChangeMany
          lists={chosen}
          onClose={() => setChanging(false)}
          onSee={(wanted) => {
            setChanging(false);
            setEdit(wanted);
          }}
        />
      )}
      {edit !== undefined && (
        <EditDialog
          {...edit}
          onClose={() => setEdit(undefined)}
          onDone={(sentence) => {
            setEdit(undefined);
            setTicked(new Set());
            setSaid(sentence);
          }}
        />
      )}
    </div>
  );
}

function Rows({
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

function ListsHead({
  data,
  current,
  mayChange,
}: {
  data: z.output<typeof getAllLists.answer>;
  current: { label: string; current: boolean } | undefined;
  mayChange: boolean;
}) {
  return (
    <PageHead
      title={t("lists.allLists")}
      line={t("lists.listsOf", {
        lists: data.lists.length,
        label: current?.label.replace("-", "–") ?? "",
      })}
    >
      <Link to="/lists/try" className="text-petrol underline underline-offset-2">
        {t("lists.tryAnAddress")}
      </Link>
      <Link to="/requests" className="mr-1 text-petrol underline underline-offset-2">
        {t("lists.requests")}
      </Link>
      {mayChange && (
        <Link
          to="/lists/new"
          className="inline-flex min-h-[30px] items-center rounded-md border border-hair bg-panel px-3 font-[560] hover:border-petrol"
        >
          {t("lists.makeAList")}
        </Link>
      )}
    </PageHead>
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
