import {
  type getBoard,
  type BoardRow,
  type BoardCell,
  type BoardList,
} from "@amigo/contract/board";
import type { FactIndex } from "@amigo/core/facts/indexFacts";
import { listKey } from "@amigo/core/lists/listKey";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { houseIndex } from "../facts/standing";
import type { Request, Answer } from "../http/handler";
import { openDifferences } from "../membership/counts";
import { t } from "../texts/t";
import { loadCurrentSeason } from "../db/houseQueries";
import {
  listCohorts,
  listBoardLists,
  findOpenRound,
  findLastImport,
  listLeads,
  countReachByCohort,
} from "./queries";

export async function showBoard(
  { db }: Context,
  { caller }: Request<typeof getBoard>,
): Promise<Answer<typeof getBoard>> {
  const current = await loadCurrentSeason(db);
  const seasonId = current?.id ?? 0;
  const columns = columnsOf(await houseIndex(db, seasonId));
  const cohorts = await listCohorts(db, seasonId);
  const all = await listBoardLists(db, seasonId, caller);
  const lists = all.filter(({ closedAt }) => closedAt === null);
  const byKey = new Map(all.map((row) => [row.key, row]));
  const open = await findOpenRound(db);
  const differences = await openDifferences(db);
  const reach = new Map((await reachByCohort(db, seasonId)).map((row) => [row.key, row]));
  const leads = await leadsByList(db, seasonId);
  const differenceOf = (key: string): { joins: number; leaves: number } =>
    differences.get(key) ?? { joins: 0, leaves: 0 };
  const leadsOf = (id: string): { leads: string[]; mine: boolean } => {
    const own = leads.get(id) ?? [];
    return {
      leads: own.map(({ name }) => name),
      mine: own.some(({ account: lead }) => lead === caller.id),
    };
  };
  const rows = cohorts.flatMap((own): (BoardRow & { site: string; code: string })[] => {
    const reached = reach.get(own.key);
    const cells = columns.map(({ recipes }): BoardCell => {
      const keys = [...recipes]
        .sort((a, b) => Number(b.each === own.kind) - Number(a.each === own.kind))
        .map(({ id }) => listKey(id, own.key));
      const key =
        keys.find((candidate) => byKey.get(candidate)?.closedAt === null) ?? keys[0] ?? "";
      const found = byKey.get(key);
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
      return {
        key,
        list: found.id,
        name: found.name,
        count: found.count,
        ...differenceOf(key),
        unreachable: found.audience.startsWith("guardians")
          ? (reached?.students ?? 0) - (reached?.reached ?? 0)
          : 0,
        ...leadsOf(found.id),
        closed: false,
      };
    });
    if (caller.role !== "coordinator" && cells.every((cell) => cell.list === null)) return [];
    return [
      {
        cohort: own.id,
        name: own.name,
        kind: own.kind,
        coach: own.coach,
        levels: levels(reached),
        students: reached?.students ?? 0,
        reached: reached?.reached ?? 0,
        cells,
        site: own.site ?? t("board.noSite"),
        code: own.code ?? "",
      },
    ];
  });
  const sites = [...new Map(rows.map(({ site: name, code }) => [name, code]))].map(
    ([name, code]) => ({
      name,
      code,
      rows: rows.filter((row) => row.site === name).map(({ site: _, code: __, ...row }) => row),
    }),
  );
  const shown = new Set(rows.flatMap(({ cells }) => cells.flatMap((cell) => cell.list ?? [])));
  const others = lists
    .filter(({ id }) => !shown.has(id))
    .map(({ id, key, title, name, count }): BoardList => ({
      list: id,
      key,
      title,
      name,
      count,
      ...differenceOf(key),
      ...leadsOf(id),
    }));
  const last = await findLastImport(db, seasonId);
  return {
    columns: columns.map(({ label }) => ({ label })),
    sites,
    others,
    lists: lists.length,
    outOfStep: lists.filter(({ key }) => {
      const { joins, leaves } = differenceOf(key);
      return joins + leaves > 0;
    }).length,
    openCauses: open === undefined ? 0 : open.totals.accepted + open.totals.held,
    lastReading: last === undefined ? null : { source: last.source, at: last.at.toISOString() },
    hasRound: open !== undefined,
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

interface Reach {
  key: string;
  students: number;
  reached: number;
  lowest: string | null;
  highest: string | null;
}

/** Students of each cohort, and how many of them a guardian's address reaches. */
async function reachByCohort(db: Queries, seasonId: number): Promise<Reach[]> {
  const answer = await countReachByCohort(db, seasonId);
  return answer.rows.map((row) => ({
    ...row,
    students: Number(row.students),
    reached: Number(row.reached),
  }));
}

function levels(reach: Reach | undefined): string {
  if (reach?.lowest == null || reach.highest === null) return "";
  return reach.lowest === reach.highest
    ? t("board.level", { lowest: reach.lowest })
    : t("board.levels", { lowest: reach.lowest, highest: reach.highest });
}
