import type { IntakeRow, IntakePage as Page } from "@amigo/contract/intakes";
import { useState, useMemo, useCallback, useRef, useEffect } from "react";
import { type IntakeCells, INTAKE_COLUMNS, INTAKE_TITLES } from "@amigo/core/intake/intake";
import { sentenceOf } from "../data/api";
import {
  useApproveRowsMutation,
  useRemoveRowsMutation,
  useSetWatchMutation,
} from "../data/intakes";
import { useMe } from "../data/me";
import { t } from "../texts/intakes";
import { Button } from "../ui/Button";
import { Panel } from "../ui/Page";
import { IntakeDialog } from "./IntakeDialog";
import { IntakeGrid } from "./IntakeGrid";
import { IntakeHead } from "./IntakeHead";
import { RowDetail } from "./RowDetail";
import { type Place, spanOf, type GridRow, fillDown } from "./gridEdits";
import { useIntakeEdits, cellKey } from "./useIntakeEdits";

/** How many empty rows stand below those that are filled. */
const SPARE = 12;

/** How long it shows that somebody else has just written in a cell, in milliseconds. */
const FRESH_FOR = 6000;

const BLANK: IntakeCells = { person: "", address: "", to: "", from: "", until: "" };

export function Intake({ page }: { page: Page }) {
  const me = useMe();
  const [told, setTold] = useState("");
  const [complaint, setComplaint] = useState("");
  const [changing, setChanging] = useState(false);
  const { pending, edit, undo, redo, canUndo, canRedo } = useIntakeEdits(page.id, setComplaint);
  const [approve, approving] = useApproveRowsMutation();
  const [remove] = useRemoveRowsMutation();
  const [setWatch] = useSetWatchMutation();
  const [spare, setSpare] = useState<string[]>(() =>
    Array.from({ length: SPARE }, () => crypto.randomUUID()),
  );
  const facts = useMemo(() => new Map(page.rows.map((row) => [row.id, row])), [page.rows]);
  const rows = useMemo(() => laidOut(page.rows, spare, pending), [page.rows, spare, pending]);
  const free = rows.filter(
    ({ id, cells }) => !facts.has(id) && Object.values(cells).every((cell) => cell === ""),
  ).length;
  if (free < SPARE)
    setSpare([...spare, ...Array.from({ length: SPARE - free }, () => crypto.randomUUID())]);
  const first = rows[0]?.id ?? "";
  const [selection, setSelection] = useState<{ anchor: Place; active: Place }>({
    anchor: { row: first, column: 0 },
    active: { row: first, column: 0 },
  });
  const isThere = (place: Place): boolean => rows.some(({ id }) => id === place.row);
  const active = isThere(selection.active) ? selection.active : { row: first, column: 0 };
  const anchor = isThere(selection.anchor) ? selection.anchor : active;
  const fresh = useFresh(page.rows, me.name, setTold);

  const span = spanOf(rows, anchor, active);
  const chosen = rows.slice(span.top, span.bottom + 1).flatMap(({ id }) => facts.get(id) ?? []);
  const toApprove = chosen.filter(
    ({ outcome, approvedBy, mayApprove }) => outcome === "" && approvedBy === "" && mayApprove,
  );
  const open = chosen.filter(({ outcome }) => outcome === "" || outcome === "refused");
  const decide = useCallback(
    async (ids: string[], yes: boolean): Promise<void> => {
      const wanted = toDecide(ids, yes, facts);
      if (wanted.length === 0) return;
      const { error, data } = await approve({ id: page.id, rows: wanted, approve: yes });
      const done = data?.done ?? 0;
      const complaintNow = sentenceOf(error) ?? refusedSentence(data?.refused ?? [], rows);
      setComplaint(complaintNow);
      if (complaintNow === "")
        setTold(
          yes ? t("intakes.rowsApproved", { done }) : t("intakes.rowsNoLongerApproved", { done }),
        );
    },
    [approve, facts, page.id, rows],
  );
  const takeOut = async (): Promise<void> => {
    const answer = await remove({ id: page.id, rows: open.map(({ id }) => id), back: false });
    setTold(
      sentenceOf(answer.error) ?? t("intakes.rowsRemoved", { changed: answer.data?.changed ?? 0 }),
    );
  };
  const need = (count: number): readonly GridRow[] => {
    if (rows.length >= count) return rows;
    const more = Array.from({ length: count - rows.length }, () => crypto.randomUUID());
    setSpare([...spare, ...more]);
    return [...rows, ...more.map((id) => ({ id, cells: BLANK, locked: false }))];
  };
  const undecided = page.rows.filter(
    ({ outcome, approvedBy, cells }) => outcome === "" && approvedBy === "" && cells.address !== "",
  ).length;
  const choices = useMemo(
    () => [
      ...new Set([
        ...page.targets.map(({ title }) => title),
        ...page.targets.flatMap(({ cohort }) => (cohort === "" ? [] : [cohort])),
      ]),
    ],
    [page.targets],
  );

  return (
    <div className="flex flex-col lg:min-h-0 lg:flex-1">
      <IntakeHead page={page} undecided={undecided} setWatch={setWatch} setChanging={setChanging} />
      <div className="mb-2 flex flex-wrap items-center gap-2">
        <Button onClick={undo} disabled={!canUndo}>
          {t("intakes.undo")} <kbd>{t("intakes.ctrlZ")}</kbd>
        </Button>
        <Button onClick={redo} disabled={!canRedo}>
          {t("intakes.redo")}
        </Button>
        <Button onClick={() => edit(fillDown(rows, span))}>
          {t("intakes.fillDown")} <kbd>{t("intakes.ctrlD")}</kbd>
        </Button>
        <Button onClick={() => void takeOut()} disabled={open.length === 0}>
          {t("intakes.removeRows", { open: open.length })}
        </Button>
        <p role="status" className="min-w-0 flex-1 truncate text-[13px] text-ink-2" title={told}>
          {told}
        </p>
        {page.may.approve && (
          <ApproveButton toApprove={toApprove} approving={approving} decide={decide} />
        )}
      </div>
      {complaint !== "" && (
        <p role="alert" className="mb-2 rounded-md border border-brick bg-brick-soft px-3 py-1.5">
          <b className="text-brick">! </b>
          {complaint}
        </p>
      )}
      <Panel className="flex flex-col overflow-hidden lg:min-h-0 lg:flex-1">
        <IntakeGrid
          rows={rows}
          facts={facts}
          fresh={fresh}
          choices={choices}
          anchor={anchor}
          active={active}
          onSelect={(from, to) => setSelection({ anchor: from, active: to })}
          onEdit={edit}
          onNeed={need}
          onUndo={undo}
          onRedo={redo}
          onApprove={page.may.approve ? (ids, yes) => void decide(ids, yes) : undefined}
        />
        <RowDetail
          row={facts.get(active.row)}
          number={rows.findIndex(({ id }) => id === active.row) + 1}
          column={INTAKE_COLUMNS[active.column] ?? "person"}
          onTake={(column, text) => {
            const row = rows.find(({ id }) => id === active.row);
            if (row !== undefined)
              edit([{ row: row.id, column, was: row.cells[column], is: text }]);
          }}
        />
      </Panel>
      {changing && <IntakeDialog page={page} onClose={() => setChanging(false)} />}
    </div>
  );
}

/** The rows of the server with what is on its way to it, then the empty ones. */
function laidOut(
  rows: readonly IntakeRow[],
  spare: readonly string[],
  pending: ReadonlyMap<string, string>,
): GridRow[] {
  const cells = (id: string, intakeCells: IntakeCells): IntakeCells =>
    Object.fromEntries(
      INTAKE_COLUMNS.map((column) => [
        column,
        pending.get(cellKey(id, column)) ?? intakeCells[column],
      ]),
    ) as IntakeCells;
  const there = new Set(rows.map(({ id }) => id));
  return [
    ...rows.map(({ id, cells: written, outcome }) => ({
      id,
      cells: cells(id, written),
      locked: outcome !== "" && outcome !== "refused",
    })),
    ...spare
      .filter((id) => !there.has(id))
      .map((id) => ({ id, cells: cells(id, BLANK), locked: false })),
  ];
}

/** The cells that others have written while one looks, each for a few seconds, with who it was. */
function useFresh(
  rows: readonly IntakeRow[],
  me: string,
  tell: (sentence: string) => void,
): ReadonlyMap<string, string> {
  const [fresh, setFresh] = useState<ReadonlyMap<string, string>>(new Map());
  const before = useRef<ReadonlyMap<string, IntakeRow>>(new Map(rows.map((row) => [row.id, row])));
  useEffect(() => {
    const old = before.current;
    before.current = new Map(rows.map((row) => [row.id, row]));
    const found = rows.flatMap((row, at) =>
      row.by === me
        ? []
        : INTAKE_COLUMNS.flatMap((column) =>
            row.cells[column] === (old.get(row.id)?.cells[column] ?? "")
              ? []
              : [
                  {
                    key: cellKey(row.id, column),
                    by: row.by,
                    where: t("intakes.row4", { row: at + 1, column: INTAKE_TITLES[column] }),
                  },
                ],
          ),
    );
    const [first] = found;
    if (first === undefined) return;
    tell(
      t("intakes.wroteIn", {
        by: first.by,
        cells: found.length,
        where: first.where,
      }),
    );
    setFresh((earlier) => new Map([...earlier, ...found.map(({ key, by }) => [key, by] as const)]));
    // It is not taken back when the next change comes: each shows for its own while.
    setTimeout(
      () =>
        setFresh(
          (earlier) =>
            new Map([...earlier].filter(([key]) => !found.some((one) => one.key === key))),
        ),
      FRESH_FOR,
    );
  }, [rows, me, tell]);
  return fresh;
}

function ApproveButton({
  toApprove,
  approving,
  decide,
}: {
  toApprove: IntakeRow[];
  approving: ReturnType<typeof useApproveRowsMutation>[1];
  decide: (ids: string[], yes: boolean) => Promise<void>;
}) {
  return (
    <Button
      look="go"
      disabled={toApprove.length === 0 || approving.isLoading}
      onClick={() =>
        void decide(
          toApprove.map(({ id }) => id),
          true,
        )
      }
    >
      {approving.isLoading
        ? t("intakes.approving")
        : t("intakes.approveRows", { toApprove: toApprove.length })}
    </Button>
  );
}

/** Returns which of some rows are still to be approved, or no longer, with the version that was seen of each. */
function toDecide(
  ids: readonly string[],
  yes: boolean,
  facts: ReadonlyMap<string, IntakeRow>,
): { id: string; version: number }[] {
  return ids.flatMap((id) => {
    const row = facts.get(id);
    return row === undefined || row.outcome !== "" || (row.approvedBy !== "") === yes
      ? []
      : [{ id, version: row.version }];
  });
}

/** Says why rows weren't approved; empty where all were. */
function refusedSentence(
  refused: readonly { row: string; sentence: string }[],
  rows: readonly GridRow[],
): string {
  const [first] = refused;
  return first === undefined
    ? ""
    : t("intakes.row3", {
        row: rows.findIndex(({ id }) => id === first.row) + 1,
        sentence: first.sentence,
        others: refused.length - 1,
      });
}
