import { eq, and, isNull, desc, sql, or, type SQL, lt, ilike, count, isNotNull } from "drizzle-orm";
import type { TokenScope } from "@amigo/core/access/tokenScopes";
import type { Limits } from "@amigo/core/step/guards/limits";
import type { Caller } from "../callers/caller";
import { accountInForce } from "../callers/inForce";
import { hashToken } from "../callers/tokens";
import type { Queries } from "../db/connect";
import { apiToken, account } from "../db/schema/accounts";
import { house, site, season, picture } from "../db/schema/house";
import { journal } from "../db/schema/journal";
import { list, cohort, listRole } from "../db/schema/lists";
import { fact } from "../db/schema/people";
import { source } from "../db/schema/sources";
import { entriesOf } from "../membership/scope";
import { listsOf, seenByStaff } from "../membership/queries";

/** Lists the API tokens that are in force. */
export function listApiTokens(db: Queries) {
  return db
    .select({
      id: apiToken.id,
      name: apiToken.name,
      by: account.name,
      createdAt: apiToken.createdAt,
      scopes: apiToken.scopes,
      lastDay: apiToken.lastDay,
      lastUsedAt: apiToken.lastUsedAt,
    })
    .from(apiToken)
    .innerJoin(account, eq(account.id, apiToken.accountId))
    .where(and(isNull(apiToken.revokedAt), eq(apiToken.forMailProgram, false)))
    .orderBy(desc(apiToken.createdAt));
}

/** Stores an API token by its hash, and returns its id. */
export async function storeApiToken(
  db: Queries,
  name: string,
  scopes: TokenScope[],
  lastDay: string,
  token: string,
  accountId: string,
) {
  const [found] = await db
    .insert(apiToken)
    .values({
      name,
      tokenHash: hashToken(token),
      accountId,
      scopes,
      lastDay,
    })
    .returning({ id: apiToken.id });
  return found;
}

/** Revokes an API token, and returns its name. */
export async function revokeApiToken(db: Queries, id: string) {
  const [found] = await db
    .update(apiToken)
    .set({ revokedAt: sql`now()` })
    .where(and(eq(apiToken.id, id), isNull(apiToken.revokedAt)))
    .returning({ name: apiToken.name });
  return found;
}

/** Returns the house's settings, locked until the transaction ends. */
export async function lockBasics(db: Queries) {
  const [found] = await db.select().from(house).for("update");
  return found;
}

/** Lists the sites in the order in which they were made. */
export function listSitesById(db: Queries) {
  return db.select().from(site).orderBy(site.id);
}

/** Gives a site a code that nobody uses, so that codes can be swapped. */
export async function parkSiteCode(db: Queries, id: number): Promise<void> {
  await db
    .update(site)
    .set({ code: `~${id}` })
    .where(eq(site.id, id));
}

/** Stores the code of a site. */
export async function storeSiteCode(db: Queries, code: string, id: number): Promise<void> {
  await db.update(site).set({ code }).where(eq(site.id, id));
}

/** Stores the house's name and settings. */
export async function storeBasics(
  db: Queries,
  name: string,
  wanted: Partial<typeof house.$inferInsert>,
): Promise<void> {
  await db.update(house).set({ name, ...wanted });
}

/** Makes everything that was planned from the facts of the seasons be planned anew. */
export async function renewSeasons(db: Queries): Promise<void> {
  await db.update(season).set({ version: sql`${season.version} + 1` });
}

/** Stores the house's picture in place of the one before. */
export async function storePicture(db: Queries, type: string, content: Buffer): Promise<void> {
  const values = { type, content, changedAt: sql`now()` };
  await db.insert(picture).values(values).onConflictDoUpdate({ target: picture.id, set: values });
}

/** Removes the house's picture. */
export async function removePictureRow(db: Queries): Promise<void> {
  await db.delete(picture);
}

/** Returns the house's limits for safety checks, locked until the transaction ends. */
export async function lockLimits(db: Queries) {
  const [found] = await db.select({ limits: house.limits }).from(house).for("update");
  return found;
}

/** Stores the house's limits for safety checks. */
export async function storeLimits(db: Queries, limits: Limits): Promise<void> {
  await db.update(house).set({ limits });
}

/** Asks the database for nothing, to see whether it answers. */
export function askDatabase(db: Queries) {
  return db.execute(sql`select 1`);
}

/** Returns whether the house is a demo, locked until the transaction ends. */
export async function lockDemo(db: Queries) {
  const [found] = await db.select({ demo: house.demo }).from(house).for("update");
  return found;
}

/** Lists the names of all tables, quoted. */
export function listTables(db: Queries) {
  return db.execute<{ name: string }>(
    sql`select format('%I', tablename) as name from pg_tables where schemaname = 'public'`,
  );
}

/** Empties tables and everything that refers to them. */
export async function emptyTables(db: Queries, tables: readonly { name: string }[]): Promise<void> {
  await db.execute(sql.raw(`truncate ${tables.map(({ name }) => name).join(", ")} cascade`));
}

/** Lists the open lists that somebody may find. */
export function listFindableLists(db: Queries, caller: Caller) {
  return db
    .select({ id: list.id, name: list.name, title: list.title, short: list.short })
    .from(list)
    .innerJoin(season, eq(season.id, list.seasonId))
    .where(and(isNull(list.closedAt), eq(season.current, true), or(listsOf(caller), seenByStaff)))
    .limit(5000);
}

/** Lists the names of all sources. */
export function listSources(db: Queries) {
  return db.select({ id: source.id, name: source.name }).from(source);
}

/** Lists the names of current people that hold some words, within those whom one may know. */
export function findNames(db: Queries, within: SQL<unknown> | undefined, words: readonly string[]) {
  return db
    .select({
      subject: fact.subject,
      given: sql<string>`${fact.value}->>'given'`,
      family: sql<string>`${fact.value}->>'family'`,
    })
    .from(fact)
    .where(
      and(
        eq(fact.kind, "name"),
        isNull(fact.validUntil),
        sql`${fact.seasonId} in (select id from season where current)`,
        // People on the staff have no page of their own, neither those with an account nor those of a sheet.
        sql`${fact.subject} not like 'account:%' and ${fact.subject} not like 't-%'`,
        within === undefined ? undefined : sql`${fact.subject} in ${within}`,
        ...words.map((word) => sql`${fact.search} like ${`%${word}%`}`),
      ),
    )
    .limit(200);
}

/** Returns children, classes and lists of some people, as far as one may know them. */
export function listDetails(
  db: Queries,
  subjects: readonly string[],
  known: SQL<unknown>,
  mine: SQL<unknown>,
) {
  return db.execute<{
    subject: string;
    children: string[];
    classes: string[];
    lists: string[];
  }>(sql`
    with now as (select id from season where current),
    own as (select unnest(${sql.param(subjects)}::text[]) as subject),
    student as (
      select subject, subject as id from own
      union
      select own.subject, tie.ref from own join fact tie on tie.subject = own.subject and tie.kind = 'tie'
        and tie.valid_until is null and tie.season_id in (select id from now)
    )
    select own.subject,
      array(select distinct name.value->>'given' from student
        join fact name on name.subject = student.id and name.kind = 'name' and name.valid_until is null
          and name.season_id in (select id from now)
        where student.subject = own.subject and student.id <> own.subject and ${known}
        order by 1) as children,
      array(select distinct class.value->>'name' from student
        join fact enrolment on enrolment.subject = student.id and enrolment.kind = 'enrolment'
          and enrolment.valid_until is null and enrolment.season_id in (select id from now)
        join fact class on class.subject = enrolment.ref and class.kind = 'cohort' and class.valid_until is null
          and class.season_id = enrolment.season_id
        where student.subject = own.subject and ${known}
        order by 1) as classes,
      array(select distinct list.name from fact address
        join membership on membership.address = address.ref and membership.valid_until is null
        join list on list.id = membership.list_id and list.season_id = address.season_id and list.closed_at is null
        where address.subject = own.subject and address.kind = 'address' and address.valid_until is null
          and address.season_id in (select id from now) and ${mine}
        order by 1) as lists
    from own`);
}

/** Lists entries of the journal that somebody may read, newest first. */
export function listJournal(
  db: Queries,
  caller: Caller,
  before: number | undefined,
  actor: string,
  action: string,
  q: string,
  from: string | undefined,
  day: SQL<unknown>,
  to: string | undefined,
  most: number,
) {
  return db
    .select({
      id: journal.id,
      at: journal.at,
      actor: journal.actor,
      action: journal.action,
      sentence: journal.sentence,
    })
    .from(journal)
    .where(
      and(
        sql`${journal.action} <> 'members'`,
        entriesOf(caller),
        before === undefined ? undefined : lt(journal.id, before),
        actor === "" ? undefined : ilike(journal.actor, `%${escaped(actor)}%`),
        action === "" ? undefined : eq(journal.action, action),
        q === "" ? undefined : ilike(journal.sentence, `%${escaped(q)}%`),
        from === undefined ? undefined : sql`${day} >= ${from}::date`,
        to === undefined ? undefined : sql`${day} <= ${to}::date`,
      ),
    )
    .orderBy(desc(journal.id))
    .limit(most);
}

/** A text in which nothing stands for anything else in a pattern of LIKE. */
function escaped(text: string): string {
  return text.replace(/[\\%_]/g, "\\$&");
}

/** Lists the current season and those that are over, with the number of their lists. */
export function listSeasons(db: Queries) {
  return db
    .select({ label: season.label, current: season.current, lists: count(list.id) })
    .from(season)
    .leftJoin(list, eq(list.seasonId, season.id))
    .where(or(eq(season.current, true), isNotNull(season.overOn)))
    .groupBy(season.id)
    .orderBy(desc(season.label));
}

/** Lists the sites with the number of their classes in a season. */
export function listSitesWithClasses(db: Queries, seasonId: number | undefined) {
  return db
    .select({ code: site.code, name: site.name, classes: count(cohort.id) })
    .from(site)
    .leftJoin(
      cohort,
      and(eq(cohort.siteId, site.id), isNull(cohort.goneAt), eq(cohort.seasonId, seasonId ?? 0)),
    )
    .groupBy(site.id)
    .orderBy(site.name);
}

/** Counts the open lists of a season by recipe, and those that were set otherwise by hand. */
export function countListsByRecipe(db: Queries, seasonId: number | undefined) {
  return db
    .select({
      recipeId: list.recipeId,
      count: count(),
      apart: sql<number>`count(*) filter (where cardinality(${list.apart}) > 0)`.mapWith(Number),
    })
    .from(list)
    .where(and(eq(list.seasonId, seasonId ?? 0), isNull(list.closedAt)))
    .groupBy(list.recipeId);
}

/** Lists the accounts that can sign in, with how many lists each leads. */
export function listAccountsWithLists(db: Queries) {
  return db
    .select({
      id: account.id,
      name: account.name,
      email: account.email,
      role: account.role,
      site: site.name,
      leads: count(list.id),
    })
    .from(account)
    .leftJoin(listRole, eq(listRole.accountId, account.id))
    .leftJoin(list, and(eq(list.id, listRole.listId), isNull(list.closedAt)))
    .leftJoin(site, eq(site.id, account.siteId))
    .where(accountInForce)
    .groupBy(account.id, site.name)
    .orderBy(account.createdAt);
}

/** Lists the kinds of entries that somebody may read. */
export function listJournalActions(db: Queries, caller: Caller) {
  return db
    .selectDistinct({ action: journal.action })
    .from(journal)
    .where(and(sql`${journal.action} <> 'members'`, entriesOf(caller)))
    .orderBy(journal.action);
}
