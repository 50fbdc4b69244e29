import { alphabetical } from "../db/alphabetical";
import { and, eq, isNull, inArray, sql, or, type SQL, or as either } from "drizzle-orm";
import { accountInForce } from "../callers/inForce";
import type { Queries } from "../db/connect";
import { account } from "../db/schema/accounts";
import {
  membership,
  list,
  greeting,
  listRole,
  privateList,
  privateListPerson,
  cohort,
  listAddress,
} from "../db/schema/lists";
import { fact } from "../db/schema/people";
import { factColumns } from "../facts/queries";
import { roundList, round } from "../db/schema/rounds";
import { intakeRow } from "../db/schema/intakes";
import { site, season, house } from "../db/schema/house";
import type { Caller } from "../callers/caller";
import { receiving } from "../db/schema/members";

/** That whoever has an account and finds a list may see who is on it. */
export const seenByStaff = sql`(${list.rules}->>'findable' <> 'leads' and ${list.rules}->>'roster' <> 'leads')`;

/** Lists the addresses that are on a list now. */
export function listMemberAddresses(db: Queries, listId: string) {
  return db
    .select({ address: membership.address })
    .from(membership)
    .where(and(eq(membership.listId, listId), isNull(membership.validUntil)));
}

/** Returns the list with an id, or undefined. */
export async function findList(db: Queries, id: string) {
  const [found] = await db.select().from(list).where(eq(list.id, id));
  return found;
}

/** Lists which of some addresses are on a list now, and since when. */
export function findMembersAmong(db: Queries, listId: string, addresses: string[]) {
  return db
    .select({ address: membership.address, from: membership.validFrom })
    .from(membership)
    .where(
      and(
        eq(membership.listId, listId),
        isNull(membership.validUntil),
        inArray(membership.address, addresses),
      ),
    );
}

/** Lists the facts by which some addresses are always or never on a list. */
export function findKeptAmong(
  db: Queries,
  seasonId: number,
  key: string,
  addresses: readonly string[],
) {
  return db
    .select(factColumns)
    .from(fact)
    .where(
      and(
        eq(fact.seasonId, seasonId),
        eq(fact.subject, key),
        eq(fact.kind, "kept"),
        inArray(fact.ref, [...addresses]),
        isNull(fact.validUntil),
      ),
    );
}

/** Lists the questions to some addresses whether they want to be on a list, as far as unanswered. */
export function findAsksAmong(db: Queries, listId: string, addresses: string[]) {
  return db
    .select({ address: greeting.address, kind: greeting.kind, at: greeting.at })
    .from(greeting)
    .where(
      and(
        eq(greeting.listId, listId),
        inArray(greeting.kind, ["ask", "agree"]),
        isNull(greeting.answer),
        inArray(greeting.address, addresses),
      ),
    );
}

/** Lists the names and addresses of a list's leads who can sign in. */
export function listLeadsOf(db: Queries, listId: string) {
  return db
    .select({ name: account.name, email: account.email })
    .from(listRole)
    .innerJoin(account, eq(account.id, listRole.accountId))
    .where(and(eq(listRole.listId, listId), eq(listRole.role, "lead"), accountInForce));
}

/** Lists by how many addresses lists differ from the roster in the open round. */
export function listOpenDifferences(db: Queries) {
  return db
    .select({ list: roundList.list, joins: roundList.joins, leaves: roundList.leaves })
    .from(roundList)
    .innerJoin(round, eq(round.number, roundList.round))
    .where(eq(round.state, "open"));
}

/** Lists the lists of a season as they are now. */
export function listExisting(db: Queries, seasonId: number) {
  return db
    .select({
      key: list.key,
      id: list.id,
      name: list.name,
      title: list.title,
      closedAt: list.closedAt,
    })
    .from(list)
    .where(eq(list.seasonId, seasonId));
}

/** Lists the names of a list's leads who can sign in. */
export function listLeadNamesOf(db: Queries, listId: string) {
  return db
    .select({ name: account.name })
    .from(listRole)
    .innerJoin(account, eq(account.id, listRole.accountId))
    .where(and(eq(listRole.listId, listId), eq(listRole.role, "lead"), accountInForce))
    .orderBy(alphabetical(account.name));
}

/** Lists the rows of additions that are about a list. */
export function listRowsOf(db: Queries, listId: string) {
  return db
    .select({ address: intakeRow.address, cells: intakeRow.cells })
    .from(intakeRow)
    .where(eq(intakeRow.listId, listId));
}

/** Returns the name of a site. */
export function findSiteName(db: Queries, id: number) {
  return db.select({ name: site.name }).from(site).where(eq(site.id, id));
}

/** Lists the keys of the open lists that somebody may see. */
export function listSeenKeys(db: Queries, seasonId: number | undefined, caller: Caller) {
  return db
    .select({ key: list.key })
    .from(list)
    .where(
      and(
        eq(list.seasonId, seasonId ?? 0),
        isNull(list.closedAt),
        or(listsOf(caller), seenByStaff),
      ),
    );
}

/** Lists the addresses on lists that somebody may see. */
export function listSeenAddresses(db: Queries, caller: Caller) {
  return db
    .selectDistinct({ address: membership.address })
    .from(membership)
    .innerJoin(list, eq(list.id, membership.listId))
    .where(and(isNull(membership.validUntil), or(listsOf(caller), seenByStaff)));
}

/** Lists the people on somebody's private lists. */
export function listPrivatePeople(db: Queries, accountId: string, ids: readonly string[]) {
  return db
    .select({
      id: privateList.id,
      person: privateListPerson.person,
      children: privateList.children,
    })
    .from(privateList)
    .leftJoin(privateListPerson, eq(privateListPerson.privateListId, privateList.id))
    .where(and(eq(privateList.accountId, accountId), inArray(privateList.id, [...ids])));
}

/** Returns a list with its season, site and class, if somebody may see it. */
export async function findScopedList(
  db: Queries,
  id: string,
  visibleBy: SQL | undefined,
  caller: Caller,
) {
  const [found] = await db
    .select({
      id: list.id,
      key: list.key,
      name: list.name,
      title: list.title,
      description: list.description,
      short: list.short,
      preset: list.preset,
      seasonId: list.seasonId,
      season: season.label,
      isCurrent: season.current,
      overOn: season.overOn,
      cohort: cohort.name,
      site: site.name,
      recipeId: list.recipeId,
      audience: list.audience,
      kind: list.kind,
      rules: list.rules,
      adding: list.adding,
      siteId: list.siteId,
      apart: list.apart,
      closedAt: list.closedAt,
      listDomain: house.listDomain,
      timeZone: house.timeZone,
    })
    .from(list)
    .innerJoin(season, eq(season.id, list.seasonId))
    .leftJoin(cohort, eq(cohort.id, list.cohortId))
    .innerJoin(house, sql`true`)
    .leftJoin(site, eq(site.id, list.siteId))
    .where(
      and(
        eq(list.id, id),
        visibleBy === undefined ? listsOf(caller) : either(listsOf(caller), visibleBy),
      ),
    );
  return found;
}

/** Lists the names that lists have or had and that are not free again. */
export function listTakenNames(db: Queries) {
  return db
    .select({
      name: listAddress.name,
      kind: listAddress.kind,
      until: listAddress.until,
      key: list.key,
      seasonId: list.seasonId,
      closedAt: list.closedAt,
    })
    .from(listAddress)
    .innerJoin(list, eq(list.id, listAddress.listId))
    .where(sql`not ${listAddress.released}`);
}

/** Lists which of some lists somebody may see. */
export function listSeen(db: Queries, ids: readonly string[], caller: Caller) {
  return db
    .select({ id: list.id })
    .from(list)
    .where(and(inArray(list.id, [...ids]), or(listsOf(caller), seenByStaff)));
}

/**
 * The lists that somebody may see and write to, as a condition on `list`:
 * every one for a coordinator, those of their site for a site coordinator, for staff those that they
 * lead or help with.
 */
export function listsOf(caller: Caller): SQL {
  if (caller.role === "coordinator") return sql`true`;
  const found = sql`exists (select 1 from ${listRole} where ${listRole.listId} = ${list.id} and ${listRole.accountId} = ${caller.id})`;
  if (caller.role === "site coordinator" && caller.siteId !== null)
    return sql`(${eq(list.siteId, caller.siteId)} or ${found})`;
  return found;
}

/** Stores how often an address wants the mail of a list. */
export async function storeHowOften(
  db: Queries,
  listId: string,
  address: string,
  howOften: string,
): Promise<void> {
  await db
    .insert(receiving)
    .values({ listId, address, howOften })
    .onConflictDoUpdate({ target: [receiving.listId, receiving.address], set: { howOften } });
}

/** Returns an address's membership of a list, if it is on it now. */
export async function findMembership(db: Queries, listId: string, address: string) {
  const [found] = await db
    .select({ id: membership.id, address: membership.address })
    .from(membership)
    .where(
      and(
        eq(membership.listId, listId),
        eq(membership.address, address),
        isNull(membership.validUntil),
      ),
    );
  return found;
}

/** Lists the ids of those whom a query of people finds. */
export async function listSeenIds(db: Queries, people: SQL): Promise<string[]> {
  const { rows } = await db.execute<{ id: string }>(
    sql`select own.subject as id from ${people} as own(subject)`,
  );
  return rows.map(({ id }) => id);
}
