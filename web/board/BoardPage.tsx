import { BoardFilters } from "./BoardFilters";
import { useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { may } from "@amigo/core/access/may";
import type { Board, BoardList } from "@amigo/contract/board";
import type { EditWanted } from "@amigo/contract/edits";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { EditDialog } from "../edits/EditDialog";
import { Empty, FaultPage, Loading, PageHead, Panel } from "../ui/Page";
import { Minus, Plus } from "../ui/Signs";
import { StepBar } from "../ui/StepBar";
import { moment } from "../ui/time";
import { useBoardQuery } from "../data/board";
import { Cards } from "./Cards";
import { Grid } from "./Grid";
import { NextStep } from "./NextStep";
import { useNarrow } from "../ui/useNarrow";
import { filterBoard, readFilters } from "./filterBoard";
import { Rich, t } from "../texts/board";

/** Home: one row a class, grouped by site; one column a recipe; every cell a list with its step bar. */
export function BoardPage() {
  const me = useMe();
  const { data: board, error } = useBoardQuery();
  const [search, setSearch] = useSearchParams();
  const navigate = useNavigate();
  const narrow = useNarrow();
  const [making, setMaking] = useState<{ title: string; edit: EditWanted }>();
  const [said, setSaid] = useState("");
  if (error !== undefined) return <FaultPage error={error} />;
  if (board === undefined) return <Loading what={t("board.theBoard")} />;
  if (board.sites.length === 0 && (board.lists === 0 || me.role === "coordinator"))
    return <FirstSteps board={board} />;
  const filters = readFilters(search);
  const set = (name: string, value: string): void =>
    setSearch(
      (before) => {
        if (value === "") before.delete(name);
        else before.set(name, value);
        return before;
      },
      { replace: true },
    );
  const shown = filterBoard(board, filters);
  const Classes = narrow ? Cards : Grid;
  return (
    <div className="flex flex-col lg:min-h-0 lg:flex-1">
      <PageHead title={t("board.board")} line={<StateLine board={board} />}>
        {may(me.role, "change lists") && (
          <Button onClick={() => void navigate("/lists/new")}>{t("board.makeAList")}</Button>
        )}
        <Button onClick={() => void navigate("/lists")}>{t("board.allLists")}</Button>
      </PageHead>
      <NextStep board={board} />
      {said !== "" && (
        <p role="status" className="mb-3 rounded-md border border-leaf bg-leaf-soft px-3 py-2">
          {said}
        </p>
      )}
      <BoardFilters
        board={board}
        filters={filters}
        isNarrowed={shown.narrowed}
        onFilter={set}
        onClear={() => setSearch({}, { replace: true })}
      />
      {shown.rows === 0 && shown.others.length === 0 ? (
        <Panel>
          <Empty title={t("board.noListFound")}>
            <p>{t("board.nothingOnTheBoardMatches")}</p>
          </Empty>
        </Panel>
      ) : (
        <Classes
          columns={board.columns}
          sites={shown.sites}
          isDim={shown.isDim}
          onMake={
            may(me.role, "change lists")
              ? (key, title) =>
                  setMaking({
                    title,
                    edit: {
                      what: "lists",
                      aliasUntil: "",
                      lists: [{ key, points: { state: "open" } }],
                    },
                  })
              : undefined
          }
        />
      )}
      <Others lists={shown.others} />
      {making !== undefined && (
        <EditDialog
          title={making.title}
          edit={making.edit}
          onClose={() => setMaking(undefined)}
          onDone={(sentence) => {
            setMaking(undefined);
            setSaid(sentence);
          }}
        />
      )}
    </div>
  );
}

/** How many lists there are, whether they are in step, and what was imported last. */
function StateLine({ board }: { board: Board }) {
  const me = useMe();
  return (
    <Rich
      id="board.lists"
      lists={board.lists}
      state={
        board.outOfStep === 0
          ? t("board.allInStep")
          : t("board.outOfStep", { outOfStep: board.outOfStep })
      }
      import={
        board.lastReading !== null && (
          <>
            {" "}
            <Rich
              id="board.withImported"
              source={<b className="font-[620] text-ink">{board.lastReading.source}</b>}
              when={moment(board.lastReading.at, me.timeZone)}
            />
          </>
        )
      }
    />
  );
}

/** The lists that belong to no class, team or committee. */
function Others({ lists }: { lists: readonly BoardList[] }) {
  if (lists.length === 0) return null;
  return (
    <section aria-label={t("board.listsOutsideTheGrid")} className="mt-3">
      <h2 className="mb-1.5">{t("board.otherLists")}</h2>
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(230px,1fr))] gap-2 md:max-h-44 md:overflow-auto">
        {lists.map(({ list, title, name, count, joins, leaves }) => (
          <li key={list}>
            <Link
              to={`/lists/${list}`}
              className="block rounded-lg border border-hair bg-panel px-3.5 py-2 hover:border-petrol"
            >
              <span className="flex items-baseline gap-2">
                <b className="min-w-0 flex-1 truncate font-[620]">{title}</b>
                <b className="text-[15px] font-[650]">{count}</b>
                <span className="flex gap-1 text-[13px]">
                  <Plus count={joins} />
                  <Minus count={leaves} />
                </span>
              </span>
              <span className="mono mb-1.5 block truncate text-ink-2">{name}</span>
              <span aria-hidden="true">
                <StepBar count={count} joins={joins} leaves={leaves} />
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

function FirstSteps({ board }: { board: Board }) {
  const me = useMe();
  const navigate = useNavigate();
  if (me.role !== "coordinator")
    return (
      <>
        <PageHead title={t("board.board")} />
        <Panel>
          <Empty title={t("board.noListOfYoursYet")}>
            <p>{t("board.listsThatYouLeadAppear")}</p>
          </Empty>
        </Panel>
      </>
    );
  return (
    <>
      <PageHead
        title={t("board.board")}
        line={board.lists === 0 ? t("board.noListsYet") : t("board.noClassYet")}
      >
        <Button onClick={() => void navigate("/lists/new")}>{t("board.makeAList")}</Button>
        <Button onClick={() => void navigate("/lists")}>{t("board.allLists")}</Button>
      </PageHead>
      <Panel>
        <Empty
          title={board.hasRound ? t("board.yourFirstListsAreReady") : t("board.listsComeOutOfYour")}
        >
          {board.hasRound ? (
            <>
              <p className="mb-4">{t("board.theRosterIsImportedReview")}</p>
              <Button look="go" onClick={() => void navigate("/changes")}>
                {t("board.reviewTheChanges")}
              </Button>
            </>
          ) : (
            <>
              <p className="mb-4">{t("board.startWithTheSheetThat", { demo: String(me.demo) })}</p>
              <Button look="go" onClick={() => void navigate("/sources")}>
                {t("board.importTheFirstSheet")}
              </Button>
            </>
          )}
        </Empty>
      </Panel>
      <Others lists={board.others} />
    </>
  );
}
