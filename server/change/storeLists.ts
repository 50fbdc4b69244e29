import { sql } from "drizzle-orm";
import type { FactIndex } from "@amigo/core/facts/factIndex";
import { listKeyParts } from "@amigo/core/lists/listKey";
import type { WantedList } from "@amigo/core/lists/wantedLists";
import type { Queries } from "../db/connect";
import {
  listCohortIds,
  closeOtherLists,
  listListIds,
  listHeldNames,
  makeAliases,
  releaseTaken,
  storeNames,
} from "./listQueries";
import { listSites } from "../db/houseQueries";

/** Everybody and everything as it is to be, and the lists that follow from it, worked out once. */
export interface WantedHouse {
  index: FactIndex;
  wanted: ReadonlyMap<string, WantedList>;
  /** The keys of the lists that may have changed; undefined for any. */
  touched: ReadonlySet<string> | undefined;
}

/** How many lists a round made and closed. */
export interface StoredLists {
  made: number;
  closed: number;
}

/**
 * Writes the lists down as recipes and people want them by now: makes, changes, opens and closes them, and sees to it
 * that every name, old or new, leads to one list. Those that nothing wants any more are closed, never deleted.
 *
 * @param today a calendar date; names given up today lead nowhere from now on, yet to no other list
 */
export async function storeLists(
  tx: Queries,
  seasonId: number,
  { index, wanted: lists, touched }: WantedHouse,
  today: string,
): Promise<StoredLists> {
  const cohorts = new Map((await listCohortIds(tx, seasonId)).map(({ id, key }) => [key, id]));
  const sites = new Map((await listSites(tx)).map(({ id, name }) => [name, id]));
  const wanted = [...lists.values()].filter(({ name }) => name !== undefined);
  const changing = wanted.filter(({ key }) => touched?.has(key) ?? true);
  const rows = changing.map((list) => ({
    id: listKeyParts(list.key) === undefined ? list.key : null,
    name: list.name,
    title: list.title,
    key: list.key,
    cohort_id: list.cohort === undefined ? null : (cohorts.get(list.cohort) ?? null),
    recipe_id: list.recipe ?? null,
    site_id: sites.get(list.site) ?? null,
    description: list.description,
    short: list.short,
    audience: list.text,
    preset: list.preset,
    kind: list.kind,
    rules: list.rules,
    adding: list.adding,
    apart: list.apart.join(" "),
    closed: !list.open,
  }));
  const columns = [
    "name",
    "title",
    "cohort_id",
    "recipe_id",
    "site_id",
    "description",
    "short",
    "audience",
    "preset",
    "kind",
    "rules",
    "adding",
    "apart",
  ];
  const changed = await tx.execute<{ made: boolean }>(sql`
    insert into list (id, season_id, key, ${sql.raw(columns.join(", "))}, closed_at)
    select coalesce(id, gen_random_uuid()), ${seasonId}, key, name, title, cohort_id, recipe_id, site_id, description, short, audience, preset, kind, rules, adding,
      coalesce(string_to_array(nullif(apart, ''), ' '), '{}'), case when closed then now() end
    from json_to_recordset(${JSON.stringify(rows)}::json) as new(id uuid, key text, name text, title text, cohort_id int, recipe_id int, site_id int, description text, short text, audience text, preset text, kind text, rules jsonb, adding text, apart text, closed boolean)
    on conflict (season_id, key) do update set ${sql.raw(columns.map((column) => `${column} = excluded.${column}`).join(", "))}, closed_at = case when excluded.closed_at is null then null else coalesce(list.closed_at, excluded.closed_at) end
    where (${sql.raw(columns.map((column) => `list.${column}`).join(", "))}, list.closed_at is null) is distinct from (${sql.raw(columns.map((column) => `excluded.${column}`).join(", "))}, excluded.closed_at is null)
    returning (xmax = 0) as made`);
  const keys = JSON.stringify(wanted.map(({ key }) => key));
  const closed = await closeOtherLists(tx, seasonId, keys);
  await storeAddresses(
    tx,
    seasonId,
    index,
    new Map(wanted.map(({ key, name = "" }) => [key, name])),
    today,
  );
  return { made: changed.rows.filter(({ made }) => made).length, closed: closed.rowCount ?? 0 };
}

interface AddressRow {
  name: string;
  kind: "name" | "alias";
  until: string | null;
}

async function storeAddresses(
  tx: Queries,
  seasonId: number,
  index: FactIndex,
  names: ReadonlyMap<string, string>,
  today: string,
): Promise<void> {
  const lists = new Map((await listListIds(tx, seasonId)).map(({ id, key }) => [key, id]));
  const there = new Map((await listHeldNames(tx)).map((row) => [row.name, row]));
  const wanted = new Map<string, AddressRow & { listId: string }>();
  for (const [key, aliases] of index.aliases)
    for (const [name, until] of aliases) {
      const listId = lists.get(key);
      if (listId !== undefined) wanted.set(name, { name, kind: "alias", until, listId });
    }
  for (const [key, name] of names) {
    const listId = lists.get(key);
    if (listId !== undefined) wanted.set(name, { name, kind: "name", until: null, listId });
  }
  // A list that nothing wants any more keeps its name, by which it answers that it is closed.
  const listIds = new Set([...names.keys()].map((key) => lists.get(key)));
  const gone = [...there.values()]
    .filter(
      (row) =>
        listIds.has(row.listId) &&
        !wanted.has(row.name) &&
        (row.kind === "name" || (row.until ?? "") >= today),
    )
    .map(({ id }) => id);
  const fresh = [...wanted.values()].filter(({ name, kind, until, listId }) => {
    const row = there.get(name);
    return row === undefined || row.listId !== listId || row.kind !== kind || row.until !== until;
  });
  // What is no longer wanted leads nowhere from today on; the name is held all the same until seasons have gone by.
  if (gone.length > 0) await makeAliases(tx, today, gone);
  if (fresh.length === 0) return;
  const json = JSON.stringify(
    fresh.map(({ name, kind, until, listId }) => ({ name, kind, until, list_id: listId })),
  );
  await releaseTaken(tx, json);
  await storeNames(tx, json);
}
