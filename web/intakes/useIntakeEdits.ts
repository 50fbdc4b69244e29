import { useCallback, useRef, useState } from "react";
import type { CellChange, IntakePage } from "@amigo/contract/intakes";
import { sentenceOf } from "../data/api";
import { intakesApi, useWriteCellsMutation } from "../data/intakes";
import { useStore } from "../data/store";
import { inverse } from "./gridEdits";
import { t } from "../texts/intakes";

/** Cells that are on their way to the server, by row and column. */
export type Pending = ReadonlyMap<string, string>;

export const cellKey = (row: string, column: string): string => `${row} ${column}`;

/** Sends cells in the order in which they were written, and shows them meanwhile. What the server did not take is told and stays as somebody else has it. */
function useSending(id: string, complain: (sentence: string) => void) {
  const dispatch = useStore();
  const [send] = useWriteCellsMutation();
  const [pending, setPending] = useState<Pending>(new Map());
  const line = useRef<Promise<unknown>>(Promise.resolve());
  const put = useCallback(
    (changes: CellChange[]): void => {
      setPending(
        (before) =>
          new Map([
            ...before,
            ...changes.map(({ row, column, is }) => [cellKey(row, column), is] as const),
          ]),
      );
      line.current = line.current.then(async () => {
        const answer = await send({ id, changes });
        const refused = answer.data?.refused ?? [];
        const failed = sentenceOf(answer.error);
        if (failed !== undefined) complain(t("intakes.whatYouWroteIsNot", { failed }));
        else if (refused[0] !== undefined)
          complain(
            t("intakes.as", {
              sentence: refused[0].sentence,
              refused: refused.length,
            }),
          );
        if (answer.data !== undefined) {
          const kept = changes.filter(
            ({ row, column }) =>
              !refused.some((candidate) => candidate.row === row && candidate.column === column),
          );
          dispatch(
            intakesApi.util.updateQueryData("intake", id, (page: IntakePage) => {
              for (const { row, column, is } of kept) {
                const foundRow = page.rows.find((one) => one.id === row);
                if (foundRow !== undefined) foundRow.cells[column] = is;
              }
            }),
          );
        }
        // What was written meanwhile in the same cell is still on its way.
        setPending(
          (before) =>
            new Map(
              [...before].filter(
                ([key, is]) =>
                  !changes.some(
                    (change) => cellKey(change.row, change.column) === key && change.is === is,
                  ),
              ),
            ),
        );
      });
    },
    [dispatch, id, send, complain],
  );
  return { pending, put };
}

/** Writes cells of an intake: shown at once, sent in order, taken back and done again by their batches. */
export function useIntakeEdits(id: string, complain: (sentence: string) => void) {
  const { pending, put } = useSending(id, complain);
  const [past, setPast] = useState<CellChange[][]>([]);
  const [future, setFuture] = useState<CellChange[][]>([]);
  const edit = useCallback(
    (changes: CellChange[]): void => {
      if (changes.length === 0) return;
      complain("");
      setPast((before) => [...before.slice(-99), changes]);
      setFuture([]);
      put(changes);
    },
    [put, complain],
  );
  const last = past[past.length - 1];
  const next = future[future.length - 1];
  const undo = useCallback((): void => {
    if (last === undefined) return;
    setPast((before) => before.slice(0, -1));
    setFuture((before) => [...before, last]);
    put(inverse(last));
  }, [last, put]);
  const redo = useCallback((): void => {
    if (next === undefined) return;
    setFuture((before) => before.slice(0, -1));
    setPast((before) => [...before, next]);
    put(next);
  }, [next, put]);
  return { pending, edit, undo, redo, canUndo: last !== undefined, canRedo: next !== undefined };
}
