import { useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { may } from "@amigo/core/access/may";
import { counted } from "@amigo/core/text/sentence";
import type { Board, BoardList } from "@amigo/contract/board";
import type { EditWanted } from "@amigo/contract/edits";
import { useMe } from "../data/me";
import { Button } from "../ui/Button";
import { EditDialog } from "../ui/EditDialog";
import { Empty, FaultPage, Loading, PageHead, Panel } from "../ui/Page";
import { Choice } from "../ui/Choice";
import { Minus, Plus } from "../ui/Signs";
import { SearchField } from "../ui/SearchField";
import { StepBar } from "../ui/StepBar";
import { houseLocale, moment } from "../ui/time";
import { useBoardQuery } from "../data/board";
import { Cards } from "./Cards";
import { Grid } from "./Grid";
import { NextStep } from "./NextStep";
import { useNarrow } from "../ui/useNarrow";
import { filterBoard, readFilters } from "./filterBoard";

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
  if (board === undefined) return <Loading what="the board" />;
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
  const leads = [
    ...new Set([
      ...board.sites.flatMap(({ rows }) =>
        rows.flatMap(({ cells }) => cells.flatMap((cell) => cell.leads)),
      ),
      ...board.others.flatMap((list) => list.leads),
    ]),
  ].sort((a, b) => a.localeCompare(b, houseLocale()));
  const line = (
    <>
      {counted(board.lists, "list")},{" "}
      {board.outOfStep === 0 ? "all in step" : `${board.outOfStep} out of step`}
      {board.lastReading !== null && (
        <>
          {" "}
          with <b className="font-[620] text-ink">{board.lastReading.source}</b>, imported{" "}
          {moment(board.lastReading.at, me.timeZone)}
        </>
      )}
    </>
  );
  return (
    <div className="flex flex-col lg:min-h-0 lg:flex-1">
      <PageHead title="Board" line={line}>
        {may(me.role, "change lists") && (
          <Button onClick={() => void navigate("/lists/new")}>Make a list</Button>
        )}
        <Button onClick={() => void navigate("/lists")}>All lists</Button>
      </PageHead>
      <NextStep board={board} />
      {said !== "" && (
        <p role="status" className="mb-3 rounded-md border border-leaf bg-leaf-soft px-3 py-2">
          {said}
        </p>
      )}
      <div className="mb-2.5 flex flex-wrap items-center gap-2">
        <SearchField
          label="Search the board"
          placeholder="Class, list or coach"
          value={filters.q}
          onChange={(value) => set("q", value)}
          className="w-44"
        />
        {board.sites.length > 1 && (
          <Choice
            label="Sites shown"
            value={filters.site}
            onChange={(value) => set("site", value)}
            options={[
              { value: "", name: "All sites" },
              ...board.sites.map(({ name }) => ({ value: name, name })),
            ]}
          />
        )}
        {leads.length > 1 && (
          <Choice
            label="Lead"
            value={filters.lead}
            onChange={(value) => set("lead", value)}
            options={[
              { value: "", name: "Every lead" },
              ...leads.map((name) => ({ value: name, name })),
            ]}
          />
        )}
        <Choice
          label="Lists shown"
          value={filters.only}
          onChange={(value) => set("only", value)}
          options={[
            { value: "", name: "Every list" },
            { value: "step", name: "Out of step" },
            { value: "mine", name: "Mine" },
            { value: "missing", name: "Missing lists" },
            { value: "unreached", name: "Families not reached" },
          ]}
        />
        <Choice
          label="Order of the classes"
          value={filters.byTrouble ? "trouble" : ""}
          onChange={(value) => set("order", value)}
          options={[
            { value: "", name: "By name" },
            { value: "trouble", name: "Most trouble first" },
          ]}
        />
        {shown.narrowed && (
          <Button look="quiet" onClick={() => setSearch({}, { replace: true })}>
            Show everything
          </Button>
        )}
      </div>
      {shown.rows === 0 && shown.others.length === 0 ? (
        <Panel>
          <Empty title="No list found">
            <p>Nothing on the board matches your search and filters.</p>
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

/** The lists that belong to no class, team or committee. */
function Others({ lists }: { lists: readonly BoardList[] }) {
  if (lists.length === 0) return null;
  return (
    <section aria-label="Lists outside the grid" className="mt-3">
      <h2 className="mb-1.5">Other lists</h2>
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
        <PageHead title="Board" />
        <Panel>
          <Empty title="No list of yours yet">
            <p>Lists that you lead appear here once a coordinator has imported the roster.</p>
          </Empty>
        </Panel>
      </>
    );
  return (
    <>
      <PageHead title="Board" line={board.lists === 0 ? "No lists yet" : "No class yet"}>
        <Button onClick={() => void navigate("/lists/new")}>Make a list</Button>
        <Button onClick={() => void navigate("/lists")}>All lists</Button>
      </PageHead>
      <Panel>
        <Empty
          title={
            board.hasRound
              ? "Your first lists are ready to review"
              : "Lists come out of your roster"
          }
        >
          {board.hasRound ? (
            <>
              <p className="mb-4">
                The roster is imported. Review what it changes, then bring the lists in step with
                one button.
              </p>
              <Button look="go" onClick={() => void navigate("/changes")}>
                Review the changes
              </Button>
            </>
          ) : (
            <>
              <p className="mb-4">
                Start with the sheet that your office keeps. Amigo finds the classes, students and
                guardians in it and proposes lists for each class.
                {me.demo && " This demo house has sample sheets ready."}
              </p>
              <Button look="go" onClick={() => void navigate("/sources")}>
                Import the first sheet
              </Button>
            </>
          )}
        </Empty>
      </Panel>
      <Others lists={board.others} />
    </>
  );
}
