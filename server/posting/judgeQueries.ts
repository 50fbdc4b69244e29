import { and, eq, isNull, sql } from "drizzle-orm";
import { accountInForce } from "../callers/inForce";
import type { Queries } from "../db/connect";
import { account } from "../db/schema/accounts";
import { nameOf } from "@amigo/core/facts/factIndex";
import { season, house } from "../db/schema/house";
import { listRole, membership, list } from "../db/schema/lists";
import { fact } from "../db/schema/people";

/** Returns the account with an address while it can sign in. */
export async function findSender(db: Queries, address: string) {
  const [found] = await db
    .select({ id: account.id, name: account.name, role: account.role, siteId: account.siteId })
    .from(account)
    .where(and(eq(account.email, address), accountInForce));
  return found;
}

/** Lists the roles of an account on lists. */
export function listRolesOf(db: Queries, accountId: string) {
  return db
    .select({ listId: listRole.listId, role: listRole.role })
    .from(listRole)
    .where(eq(listRole.accountId, accountId));
}

/** Lists the lists that an address is on now. */
export function listMemberships(db: Queries, address: string) {
  return db
    .select({ listId: membership.listId })
    .from(membership)
    .where(and(eq(membership.address, address), isNull(membership.validUntil)));
}

/** Counts the posts of today to some lists. */
export function countPostsToday(db: Queries, listIds: readonly string[]) {
  return db.execute<{ list_id: string; count: number }>(sql`
    select post_list.list_id, count(*)::int as count from post join post_list on post_list.post_id = post.id, house
    where post_list.list_id in (select id::uuid from json_array_elements_text(${JSON.stringify(listIds)}::json) as wanted(id)) and post.outcome = 'goes out' and post.reaches = 'members' and post.at >= date_trunc('day', now() at time zone house.time_zone) at time zone house.time_zone
    group by post_list.list_id`);
}

/** Returns the season of a closed list, and the list that follows it. */
export async function findClosedList(db: Queries, listId: string) {
  const [found] = await db
    .select({
      label: season.label,
      current: season.current,
      successorKey: list.successorKey,
      listDomain: house.listDomain,
    })
    .from(list)
    .innerJoin(season, eq(season.id, list.seasonId))
    .innerJoin(house, sql`true`)
    .where(eq(list.id, listId));
  return found;
}

/** Returns the open list with a key in the current season. */
export async function findOpenList(db: Queries, key: string) {
  const [found] = await db
    .select({ id: list.id, title: list.title, name: list.name })
    .from(list)
    .innerJoin(season, eq(season.id, list.seasonId))
    .where(and(eq(list.key, key), eq(season.current, true), isNull(list.closedAt)));
  return found;
}

/** Lists the names of the people with an address, each once, the first in the alphabet first. */
export async function listNamesBehind(db: Queries, address: string): Promise<string[]> {
  const subjects = db
    .select({ subject: fact.subject })
    .from(fact)
    .where(and(eq(fact.kind, "address"), eq(fact.ref, address), isNull(fact.validUntil)));
  const rows = await db
    .select({ value: fact.value })
    .from(fact)
    .where(
      and(eq(fact.kind, "name"), isNull(fact.validUntil), sql`${fact.subject} in ${subjects}`),
    );
  const names = rows.flatMap(({ value }) =>
    typeof value === "object" && "given" in value ? [nameOf(value)] : [],
  );
  return [...new Set(names)].sort();
}

/** Lists the names of everybody who runs lists and can sign in, coordinators first. */
export async function listWhoRunsLists(db: Queries) {
  const { rows } = await db.execute<{ name: string; is: "coordinator" | "lead" }>(sql`
    select account.name, case when account.role in ('coordinator', 'site coordinator') then 'coordinator' else 'lead' end as is
    from account where ${accountInForce} and (account.role in ('coordinator', 'site coordinator')
      or exists (select 1 from list_role where list_role.account_id = account.id))
    order by 2, 1`);
  return rows;
}
