import type { BoardRow } from "@amigo/contract/board";
import { Warn } from "../ui/Signs";

/** How many students of a class have a guardian whose address works, in words. */
export function Reached({ row }: { row: BoardRow }) {
  const missing = row.students - row.reached;
  if (row.students === 0) return "no students yet";
  if (missing === 0) return `all ${row.students} reached`;
  return (
    <Warn>
      {missing} of {row.students} not reached
    </Warn>
  );
}
