import { filterLists } from "./filterLists";
import type { ListLine, getAllLists } from "@amigo/contract/lists";
import type { z } from "zod";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { may } from "@amigo/core/access/may";
import type { EditWanted } from "@amigo/contract/edits";
import { useAllListsQuery } from "../data/lists";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";
import { EditDialog } from "../edits/EditDialog";
import { Empty, FaultPage, Loading, PageHead, Panel } from "../ui/Page";
import { SearchField } from "../ui/SearchField";
import { ChangeMany } from "./ChangeMany";
import { Rich, t } from "../texts/lists";
import { ListsTable } from "./ListsTable";

const FORMATS = [
  ["xlsx", "XLSX"],
  ["ods", "ODS"],
  ["csv", "CSV"],
  ["vcf", "vCard"],
  ["txt", "addresses"],
] as const;
/** As many lists go into one file. */
const MOST_EXPORTED = 200;

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
  const lists = filterLists(data.lists, { q, show });
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
          <Ticked
            chosen={chosen}
            onChange={mayChange && current?.current === true ? () => setChanging(true) : undefined}
          />
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
        <ListsTable lists={lists} ticked={ticked} all={all} onTick={setTicked} />
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

/** What can be done with the lists that are ticked. */
function Ticked({
  chosen,
  onChange,
}: {
  chosen: readonly ListLine[];
  /** Changes them in one round; undefined where that can't be. */
  onChange: (() => void) | undefined;
}) {
  return (
    <span className="ml-auto flex flex-wrap items-center gap-2">
      <b className="font-[620]">{t("lists.ticked", { chosen: chosen.length })}</b>
      {onChange !== undefined && (
        <Button look="go" onClick={onChange}>
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
  );
}
