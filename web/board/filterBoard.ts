import { fold } from "@amigo/core/text/fold";
import type { Board, BoardCell, BoardList, BoardRow } from "@amigo/contract/board";

/** What of the board somebody wants to see, as it stands in the address of the page. */
export interface BoardFilters {
  q: string;
  site: string;
  lead: string;
  only: "" | "step" | "mine" | "missing" | "unreached";
  byTrouble: boolean;
}

const ONLY = ["step", "mine", "missing", "unreached"] as const;

export function readFilters(search: URLSearchParams): BoardFilters {
  return {
    q: search.get("q") ?? "",
    site: search.get("site") ?? "",
    lead: search.get("lead") ?? "",
    only: ONLY.find((candidate) => candidate === search.get("only")) ?? "",
    byTrouble: search.get("order") === "trouble",
  };
}

/** The rows and lists that fit; a row is shown where one of its cells fits, and the others of it are dimmed. */
export function filterBoard(
  board: Board,
  filters: BoardFilters,
): {
  sites: Board["sites"];
  others: BoardList[];
  rows: number;
  narrowed: boolean;
  isDim: (cell: BoardCell) => boolean;
} {
  const words = fold(filters.q)
    .split(" ")
    .filter((word) => word !== "");
  const says = (text: string): boolean => {
    const pieces = fold(text).split(" ");
    return words.every((word) => pieces.some((piece) => piece.startsWith(word)));
  };
  const asks = filters.lead !== "" || filters.only !== "";
  const fits = (
    cell: Pick<BoardCell, "joins" | "leaves" | "mine" | "leads"> & {
      list: string | null;
      unreachable?: number;
    },
  ): boolean => {
    if (filters.lead !== "" && !cell.leads.includes(filters.lead)) return false;
    switch (filters.only) {
      case "":
        return true;
      case "step":
        return cell.joins + cell.leaves > 0;
      case "mine":
        return cell.mine;
      case "missing":
        return cell.list === null;
      case "unreached":
        return (cell.unreachable ?? 0) > 0;
    }
  };
  const sites = board.sites
    .filter(({ name }) => filters.site === "" || name === filters.site)
    .map((site) => {
      const rows = site.rows.filter(
        (row) =>
          (!asks || row.cells.some(fits)) &&
          (words.length === 0 ||
            says(
              `${row.name} ${row.coach} ${row.cells.map(({ name }) => name.replace(/[.-]/g, " ")).join(" ")}`,
            )),
      );
      return {
        ...site,
        rows: filters.byTrouble ? [...rows].sort((a, b) => trouble(b) - trouble(a)) : rows,
      };
    })
    .filter(({ rows }) => rows.length > 0);
  const others =
    filters.site !== ""
      ? []
      : board.others.filter(
          (list) =>
            (!asks || fits(list)) &&
            (words.length === 0 || says(`${list.title} ${list.name.replace(/[.-]/g, " ")}`)),
        );
  return {
    sites,
    others,
    rows: sites.reduce((sum, { rows }) => sum + rows.length, 0),
    narrowed: asks || words.length > 0 || filters.site !== "",
    isDim: (cell) => asks && !fits(cell),
  };
}

/** How much somebody has to look at a row: differences first, then families that nobody reaches. */
export function trouble(row: BoardRow): number {
  return (
    row.cells.reduce((sum, { joins, leaves }) => sum + joins + leaves, 0) * 10 +
    (row.students - row.reached)
  );
}
