import type { BoardRow } from "@amigo/contract/board";
import { Warn } from "../ui/Signs";
import { t } from "../texts/board";

/** How many students of a class have a guardian whose address works, in words. */
export function Reached({ row }: { row: BoardRow }) {
  const missing = row.students - row.reached;
  if (row.students === 0) return t("board.noStudentsYet");
  if (missing === 0) return t("board.allReached", { students: row.students });
  return <Warn>{t("board.ofNotReached", { missing, students: row.students })}</Warn>;
}
