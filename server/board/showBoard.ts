import type { getBoard, BoardRow, BoardCell, BoardList } from "@amigo/contract/board";
import type { FactIndex } from "@amigo/core/facts/factIndex";
import { listKey } from "@amigo/core/lists/listKey";
import { reachByCohort, type CohortReach } from "@amigo/core/reach/reachByCohort";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { standingIndex } from "../facts/standing";
import type { Request, Answer } from "../http/handler";
import { openDifferences } from "../membership/counts";
import { loadStopped } from "../membership/addressQueries";
import { t } from "../texts/t";
import { loadCurrentSeason } from "../db/houseQueries";
import { listCohorts, listBoardLists, findLastImport, listLeads } from "./queries";
import { findOpenRound } from "../change/roundQueries";

/** Returns classes by site, lists by recipe, each with its count and its difference. */
export async function showBoard(
  { db }: Context,
  { caller }: Request<typeof getBoard>,
): Promise<Answer<typeof getBoard>> {
  const current = await loadCurrentSeason(db);
  const seasonId = current?.id ?? 0;
  const [index, all, differences, stopped, leads, cohorts, open, last] = await Promise.all([
    standingIndex(db, seasonId),
    listBoardLists(db, seasonId, caller),
    openDifferences(db),
    loadStopped(db),
    leadsByList(db, seasonId),
    listCohorts(db, seasonId),
    findOpenRound(db),
    findLastImport(db, seasonId),
  ]);
  const columns = columnsOf(index);
  const known: BoardKnown = {
    byKey: new Map(all.map((row) => [row.key, row])),
    differences,
    reach: reachByCohort(index, stopped),
    leads,
    caller,
  };
  const rows = cohorts.map((cohort) => ({
    site: cohort.site ?? t("board.noSite"),
    code: cohort.code ?? "",
    row: rowOf(cohort, columns, known),
  }));
  const shownRows = rows.filter(
    ({ row }) => caller.role === "coordinator" || row.cells.some(({ list }) => list !== null),
  );
  const lists = all.filter(({ closedAt }) => closedAt === null);
  const shown = new Set(
    shownRows.flatMap(({ row }) => row.cells.flatMap(({ list }) => list ?? [])),
  );
  return {
    columns: columns.map(({ label }) => ({ label })),
    sites: bySite(shownRows),
    others: lists.filter(({ id }) => !shown.has(id)).map((list) => otherList(list, known)),
    lists: lists.length,
    outOfStep: lists.filter(({ key }) => {
      const { joins, leaves } = differenceOf(known, key);
      return joins + leaves > 0;
    }).length,
    openCauses: open === undefined ? 0 : open.totals.accepted + open.totals.held,
    lastReading: last === undefined ? null : { source: last.source, at: last.at.toISOString() },
    hasRound: open !== undefined,
  };
}

type BoardCohort = Awaited<ReturnType<typeof listCohorts>>[number];
type ListRow = Awaited<ReturnType<typeof listBoardLists>>[number];
type Columns = ReturnType<typeof columnsOf>;

/** What the board's cells are made of. */
interface BoardKnown {
  byKey: ReadonlyMap<string, ListRow>;
  differences: Awaited<ReturnType<typeof openDifferences>>;
  reach: ReadonlyMap<string, CohortReach>;
  leads: Awaited<ReturnType<typeof leadsByList>>;
  caller: Caller;
}

/** Returns by how many addresses a list differs from the roster. */
function differenceOf({ differences }: BoardKnown, key: string): { joins: number; leaves: number } {
  return differences.get(key) ?? { joins: 0, leaves: 0 };
}

function leadsOf({ leads, caller }: BoardKnown, id: string): { leads: string[]; mine: boolean } {
  const found = leads.get(id) ?? [];
  return {
    leads: found.map(({ name }) => name),
    mine: found.some(({ account: lead }) => lead === caller.id),
  };
}

/** Returns the board's row of a class, team or committee. */
function rowOf(cohort: BoardCohort, columns: Columns, known: BoardKnown): BoardRow {
  const reached = known.reach.get(cohort.key);
  return {
    cohort: cohort.id,
    name: cohort.name,
    kind: cohort.kind,
    coach: cohort.coach,
    levels: reached === undefined ? "" : levelsInWords(reached),
    students: reached?.students ?? 0,
    reached: reached?.reached ?? 0,
    cells: columns.map((column) => cellOf(cohort, column, known)),
  };
}

/** Returns a cell: the list that a column's recipes make for a class, or the key of the one that is missing. */
function cellOf(cohort: BoardCohort, { recipes }: Columns[number], known: BoardKnown): BoardCell {
  const keys = [...recipes]
    .sort((a, b) => Number(b.each === cohort.kind) - Number(a.each === cohort.kind))
    .map(({ id }) => listKey(id, cohort.key));
  const key = keys.find((one) => known.byKey.get(one)?.closedAt === null) ?? keys[0] ?? "";
  const found = known.byKey.get(key);
  if (found?.closedAt !== null || found === undefined)
    return {
      key,
      list: null,
      name: "",
      count: 0,
      joins: 0,
      leaves: 0,
      unreachable: 0,
      leads: [],
      mine: false,
      closed: found !== undefined,
    };
  const reached = known.reach.get(cohort.key);
  return {
    key,
    list: found.id,
    name: found.name,
    count: found.count,
    ...differenceOf(known, key),
    unreachable: found.audience.startsWith("guardians")
      ? (reached?.students ?? 0) - (reached?.reached ?? 0)
      : 0,
    ...leadsOf(known, found.id),
    closed: false,
  };
}

/** Groups rows by site, in their order. */
function bySite(rows: readonly { site: string; code: string; row: BoardRow }[]) {
  return [...new Map(rows.map(({ site, code }) => [site, code]))].map(([name, code]) => ({
    name,
    code,
    rows: rows.filter(({ site }) => site === name).map(({ row }) => row),
  }));
}

function otherList({ id, key, title, name, count }: ListRow, known: BoardKnown): BoardList {
  return {
    list: id,
    key,
    title,
    name,
    count,
    ...differenceOf(known, key),
    ...leadsOf(known, id),
  };
}

/** The columns of the grid: recipes for classes, teams and committees, those of one label together. */
function columnsOf(index: FactIndex): { label: string; recipes: { id: number; each: string }[] }[] {
  const columns = new Map<string, { id: number; each: string }[]>();
  for (const [id, { label, each }] of [...index.recipes].sort(
    (a, b) => a[1].position - b[1].position || a[0] - b[0],
  )) {
    if (each === "class" || each === "team" || each === "committee")
      columns.set(label, [...(columns.get(label) ?? []), { id, each }]);
  }
  return [...columns].map(([label, recipes]) => ({ label, recipes }));
}

/** Who leads each list of a season. */
async function leadsByList(
  db: Queries,
  seasonId: number,
): Promise<Map<string, { account: string; name: string }[]>> {
  const rows = await listLeads(db, seasonId);
  const leads = new Map<string, { account: string; name: string }[]>();
  for (const { listId, ...row } of rows) leads.set(listId, [...(leads.get(listId) ?? []), row]);
  return leads;
}

function levelsInWords({ levels }: CohortReach): string {
  const [lowest = "", highest = lowest] = [levels[0], levels.at(-1)];
  if (lowest === "") return "";
  return lowest === highest ? t("board.level", { lowest }) : t("board.levels", { lowest, highest });
}
