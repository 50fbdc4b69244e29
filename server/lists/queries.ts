import { alphabetical } from "../db/alphabetical";
import { and, eq, isNull, or, isNotNull, desc, sql, asc } from "drizzle-orm";
import type { Caller } from "../callers/caller";
import { accountInForce } from "../callers/inForce";
import type { Queries } from "../db/connect";
import { account } from "../db/schema/accounts";
import { season, site } from "../db/schema/house";
import { journal } from "../db/schema/journal";
import { list, ownShortName, listRole, listAddress, greeting } from "../db/schema/lists";
import { watch } from "../db/schema/notes";
import { request } from "../db/schema/requests";
import { memberCount } from "../membership/counts";
import { changeableBy } from "../membership/scope";
import { listsOf } from "../membership/queries";

/** Returns a list if somebody may change it. */
export async function findChangeable(db: Queries, id: string, caller: Caller) {
  const [found] = await db
    .select({ id: list.id })
    .from(list)
    .where(and(eq(list.id, id), changeableBy(caller)));
  return found;
}

/** Lists the current season and those that are over. */
export function listSeasons(db: Queries) {
  return db
    .select({ id: season.id, label: season.label, current: season.current })
    .from(season)
    .where(or(eq(season.current, true), isNotNull(season.overOn)))
    .orderBy(desc(season.label));
}

/** Lists the lists of a season that somebody may see. */
export function listAllOf(db: Queries, seasonId: number | undefined, caller: Caller) {
  return db
    .select({
      id: list.id,
      key: list.key,
      title: list.title,
      name: list.name,
      site: site.name,
      recipeId: list.recipeId,
      closedAt: list.closedAt,
      apart: list.apart,
      members: memberCount(),
    })
    .from(list)
    .leftJoin(site, eq(site.id, list.siteId))
    .where(and(eq(list.seasonId, seasonId ?? 0), listsOf(caller)))
    .orderBy(alphabetical(list.title));
}

/** Lists who leads which list. */
export function listAllLeads(db: Queries) {
  return db
    .select({ listId: listRole.listId, name: account.name })
    .from(listRole)
    .innerJoin(account, eq(account.id, listRole.accountId))
    .where(eq(listRole.role, "lead"))
    .orderBy(alphabetical(account.name));
}

/** Removes somebody's own short name of a list, and where they gave it to another list. */
export async function removeShortName(
  db: Queries,
  accountId: string,
  listId: string,
  short: string,
): Promise<void> {
  await db
    .delete(ownShortName)
    .where(
      and(
        eq(ownShortName.accountId, accountId),
        or(eq(ownShortName.listId, listId), eq(ownShortName.short, short)),
      ),
    );
}

/** Stores somebody's own short name of a list. */
export async function storeShortName(
  db: Queries,
  accountId: string,
  listId: string,
  short: string,
): Promise<void> {
  await db.insert(ownShortName).values({ accountId, listId, short });
}

/** Returns one list that somebody sees. */
export function findAnyList(db: Queries, caller: Caller) {
  return db
    .select({ id: list.id })
    .from(list)
    .innerJoin(season, eq(season.id, list.seasonId))
    .where(and(eq(season.current, true), isNull(list.closedAt), listsOf(caller)))
    .orderBy(alphabetical(list.title))
    .limit(1);
}

/** Lists the latest entries of the journal about a list. */
export function listListJournal(db: Queries, listId: string) {
  return db
    .select({ id: journal.id, at: journal.at, actor: journal.actor, sentence: journal.sentence })
    .from(journal)
    .where(eq(journal.listId, listId))
    .orderBy(desc(journal.id))
    .limit(100);
}

/** Lists who leads and helps a list. */
export function listRolesByName(db: Queries, listId: string) {
  return db
    .select({ id: account.id, name: account.name, role: listRole.role })
    .from(listRole)
    .innerJoin(account, eq(account.id, listRole.accountId))
    .where(and(eq(listRole.listId, listId), accountInForce))
    .orderBy(alphabetical(account.name));
}

/** Lists the old names at which a list still takes mail. */
export function listAliases(db: Queries, listId: string) {
  return db
    .select({ name: listAddress.name, until: listAddress.until })
    .from(listAddress)
    .where(
      and(
        eq(listAddress.listId, listId),
        eq(listAddress.kind, "alias"),
        sql`not ${listAddress.released}`,
        sql`${listAddress.until} >= current_date`,
      ),
    )
    .orderBy(asc(listAddress.until));
}

/** Returns a list if somebody sees who is on it. */
export async function findVisible(db: Queries, id: string, caller: Caller) {
  const [found] = await db
    .select({ id: list.id })
    .from(list)
    .where(and(eq(list.id, id), listsOf(caller)));
  return found;
}

/** Returns that somebody is told of what happens to a list. */
export async function findWatch(db: Queries, accountId: string, listId: string) {
  const [found] = await db
    .select({ about: watch.about })
    .from(watch)
    .where(and(eq(watch.accountId, accountId), eq(watch.what, "list"), eq(watch.about, listId)));
  return found;
}

/** Returns somebody's own short name of a list. */
export async function findShortName(db: Queries, listId: string, accountId: string) {
  const [found] = await db
    .select({ short: ownShortName.short })
    .from(ownShortName)
    .where(and(eq(ownShortName.listId, listId), eq(ownShortName.accountId, accountId)));
  return found;
}

/** Counts the questions to join a list that are not answered. */
export async function countAsked(db: Queries, listId: string) {
  const [found] = await db
    .select({ count: sql<number>`count(*)`.mapWith(Number) })
    .from(greeting)
    .where(and(eq(greeting.listId, listId), eq(greeting.kind, "ask"), isNull(greeting.answer)));
  return found;
}

/** Returns the key of the list that follows a list in the next season. */
export function findSuccessor(db: Queries, id: string) {
  return db.select({ key: list.successorKey }).from(list).where(eq(list.id, id));
}

/** Lists the addresses that wait until a lead confirms them. */
export function listWaiting(db: Queries, listId: string) {
  return db
    .select({
      id: greeting.id,
      address: greeting.address,
      by: greeting.by,
      reason: greeting.reason,
      at: greeting.at,
    })
    .from(greeting)
    .where(and(eq(greeting.listId, listId), eq(greeting.kind, "agree"), isNull(greeting.answer)))
    .orderBy(asc(greeting.at));
}

/** Lists the open requests about a list. */
export function listOpenRequests(db: Queries, list: string) {
  return db
    .select({ id: request.id, sentence: request.sentence, by: account.name, at: request.at })
    .from(request)
    .innerJoin(account, eq(account.id, request.accountId))
    .where(and(eq(request.list, list), eq(request.state, "open")));
}

/** Lists the open lists with what their rules say, as far as somebody may see them. */
export function listTried(db: Queries, caller: Caller) {
  return db
    .select({
      id: list.id,
      title: list.title,
      name: list.name,
      rules: list.rules,
      closedAt: list.closedAt,
      siteId: list.siteId,
    })
    .from(list)
    .innerJoin(season, eq(season.id, list.seasonId))
    .where(and(eq(season.current, true), isNull(list.closedAt), listsOf(caller)))
    .orderBy(alphabetical(list.title));
}
