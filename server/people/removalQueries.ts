import type { RowPlace } from "@amigo/core/sheet/sharedRows";
import { eq, sql, type SQL, and } from "drizzle-orm";
import { ALL_KINDS } from "@amigo/core/facts/kinds/allKinds";
import type { Queries } from "../db/connect";
import { season } from "../db/schema/house";
import { fact } from "../db/schema/people";
import { reading } from "../db/schema/sources";
import { addressLanguage, receiving, pause, memberSession, mailedLink } from "../db/schema/members";

/** What tells of somebody: wherever one of these stands, it is taken out. */
export interface Traces {
  /** Given and family names that belong together. */
  names: readonly { given: string; family: string }[];
  /** Addresses and numbers with what stands in their place. */
  marks: ReadonlyMap<string, string>;
  /** What stands for the names in keys, where two who are removed must not become one. */
  key: string;
}

export interface Column {
  table: string;
  column: string;
  kind: "text" | "list" | "json";
}

/** What stands where a name was. */
export const REMOVED = "somebody removed";

/** Tables of the program itself and of its queue, in which nobody is named. */
export const NOT_OURS = ["drizzle", "pgboss", "information_schema", "pg_catalog"];

/** Facts and rows have their own way of being emptied, as they hold names in pieces. */
export const BY_THEMSELVES = new Set(["fact.ref", "fact.search"]);

/** Lists all facts about a person in every season, also those that ended. */
export function listAllFactsOf(db: Queries, person: string) {
  return db
    .select({
      kind: fact.kind,
      ref: fact.ref,
      value: fact.value,
      origin: fact.origin,
      until: fact.validUntil,
      current: season.current,
    })
    .from(fact)
    .innerJoin(season, eq(season.id, fact.seasonId))
    .where(eq(fact.subject, person));
}

/** Takes what is personal out of the facts about a person, as their kinds say. */
export async function blankFacts(db: Queries, person: string): Promise<void> {
  const blanks = Object.values(ALL_KINDS).flatMap((kind) =>
    "blank" in kind ? [sql`when ${kind.kind} then ${JSON.stringify(kind.blank)}::jsonb`] : [],
  );
  await db.execute(
    sql`update fact set search = null, value = case kind ${sql.join(blanks, sql` `)} else value end where subject = ${person}`,
  );
}

/** Removes a person's name from private lists. */
export async function blankPrivateName(db: Queries, person: string): Promise<void> {
  await db.execute(sql`delete from calendar_date_person where person = ${person}`);
  await db.execute(sql`delete from calendar_feed where person = ${person}`);
  await db.execute(sql`update private_list_person set name = ${REMOVED} where person = ${person}`);
}

/** Removes what was settled by hand about a person and is over. */
export async function removeEndedManual(db: Queries, person: string): Promise<void> {
  await db.execute(
    sql`delete from by_hand where ended_at is not null and (sentence like ${`%${REMOVED}%`} or links::text like ${`%"${person}"%`})`,
  );
}

/** Lists which of some texts are others', too. */
export function listHeldByOthers(db: Queries, held: SQL, texts: readonly string[]) {
  return db.execute<{ held: string }>(sql`
    select distinct lower(others.held) as held from (${held}) as others
    where lower(others.held) in (select lower(text) from json_array_elements_text(${JSON.stringify(texts)}::json) as wanted(text))`);
}

/** Lists the imports whose files are kept. */
export function listKeptFiles(db: Queries) {
  return db
    .select({ id: reading.id })
    .from(reading)
    .where(sql`length(${reading.file}) > 0`);
}

/** Returns the kept file of an import. */
export async function findKeptFile(db: Queries, id: string) {
  const [found] = await db.select({ file: reading.file }).from(reading).where(eq(reading.id, id));
  return found;
}

/** Removes the kept file of an import. */
export async function removeKeptFile(db: Queries, id: string): Promise<void> {
  await db
    .update(reading)
    .set({ file: Buffer.alloc(0) })
    .where(eq(reading.id, id));
}

/** Lists from which rows the facts about other students come. */
export function listOtherOrigins(db: Queries, person: string) {
  return db
    .select({ origin: fact.origin })
    .from(fact)
    .where(and(eq(fact.kind, "student"), sql`${fact.subject} <> ${person}`));
}

/** Lists the sheets of all imports, in the order in which their rows count them. */
export async function listSheets(db: Queries): Promise<ReadonlyMap<string, readonly string[]>> {
  const found = await db.select({ id: reading.id, plan: reading.plan }).from(reading);
  return new Map(found.map(({ id, plan }) => [id, [plan.sheet, ...(plan.others ?? [])]]));
}

/** Empties rows of imports where they are stored. */
export async function blankRows(db: Queries, rows: readonly RowPlace[]): Promise<void> {
  await db.execute(sql`
    update reading_row set cells = array_fill(''::text, array[cardinality(cells)])
    from json_to_recordset(${JSON.stringify(rows)}::json) as gone(reading uuid, sheet int, "row" int)
    where reading_row.reading_id = gone.reading and reading_row.sheet = gone.sheet and reading_row.row = gone."row" and cardinality(cells) > 0`);
}

/** Lists the rows of imports that hold some texts. */
export function listRowsWith(db: Queries, marks: string) {
  return db.execute<{ place: string; cells: string[] }>(sql`
    select ctid::text as place, cells from reading_row
    where exists (select 1 from json_array_elements_text(${marks}::json) as wanted(mark) where position(wanted.mark in lower(cells::text)) > 0)`);
}

/** Takes away what they have written, the notes to them, and what was filled in for their family. */
export async function forgetMails(
  tx: Queries,
  person: string,
  addresses: readonly string[],
): Promise<void> {
  const found = JSON.stringify(addresses);
  const isOwn = sql`in (select json_array_elements_text(${found}::json))`;
  await tx.execute(sql`
    update message set raw = ''::bytea, merge = null, erased_at = now() where id in (
      select message_id from post where from_address ${isOwn}
      union select message_id from delivery where post_id is null and address ${isOwn}) and mold is null`);
  // A mail to many is kept as nobody's: without their secret, theirs isn't written any more.
  await tx.execute(sql`
    update delivery set fields = null where post_id is null and address ${isOwn}`);
  await tx.execute(sql`
    update post set subject = ${REMOVED}, beginning = '' where from_address ${isOwn}`);
  // Children are named in what was filled in for their guardians, and in notes to them.
  const family = sql`select address.ref from fact tie join fact address on address.subject = tie.subject and address.kind = 'address' where tie.kind = 'tie' and tie.ref = ${person}`;
  // Copies that are still to leave keep theirs, or they would go out with their blanks unfilled.
  await tx.execute(sql`
    update delivery set fields = null where address in (${family}) and state not in ('queued', 'sending', 'deferred')`);
  await tx.execute(sql`
    update message set raw = ''::bytea, erased_at = now() where id in (
      select message_id from delivery where post_id is null and address in (${family}) and state not in ('queued', 'sending', 'deferred')) and mold is null`);
}

/** Works out the search words of posts once more where they name somebody. */
export async function forgetSearches(tx: Queries, { names, marks }: Traces): Promise<void> {
  for (const words of [...names.map(({ given, family }) => `${given} ${family}`), ...marks.keys()])
    await tx.execute(sql`
      update post set words = search_words(left(subject || ' ' || from_name || ' ' || coalesce(beginning, ''), 2000))
      where words @@ plainto_tsquery('simple', ${words})`);
}

/** Takes away what is left of sent mails of Amigo's own, their subjects, where they name somebody. */
export async function forgetSubjects(tx: Queries, { names, marks }: Traces): Promise<void> {
  for (const words of [
    ...names.flatMap(({ given, family }) => [`${given} ${family}`, `${family}, ${given}`]),
    ...marks.keys(),
  ])
    await tx.execute(sql`
      update message set raw = ''::bytea
      where erased_at is not null and length(raw) between 1 and 4000
        and position(lower(${words}) in lower(convert_from(raw, 'LATIN1'))) > 0`);
}

export async function forgetAddress(tx: Queries, address: string, instead: string): Promise<void> {
  await tx.execute(
    sql`update fact set ref = ${instead}, search = null where kind in ('address', 'kept') and ref = ${address}`,
  );
  await tx.execute(sql`update membership set address = ${instead} where address = ${address}`);
  await tx.execute(
    sql`update delivery set address = ${instead}, reply = '' where address = ${address}`,
  );
  await tx.execute(
    sql`update greeting set address = ${instead}, reason = '' where address = ${address}`,
  );
  await tx.execute(
    sql`update post set from_address = ${instead}, from_name = ${REMOVED} where from_address = ${address}`,
  );
  await tx.execute(
    sql`update post set words = search_words(left(subject, 500)) where from_address = ${instead}`,
  );
  await tx.execute(
    sql`update mail_in set from_address = ${instead}, return_path = ${instead}, from_name = '', subject = '', helo = '', network = '' where from_address = ${address} or return_path = ${address}`,
  );
  await tx.execute(sql`update delivery set fields = null where address = ${instead}`);
  await tx.execute(
    sql`update bounce set address = ${instead}, words = '' where address = ${address}`,
  );
  await tx.execute(sql`delete from calendar_guest where address = ${address}`);
  await tx.execute(sql`delete from calendar_feed where address = ${address}`);
  await tx.execute(sql`delete from shelf_opening where address = ${address}`);
  await removeFromShelves(tx, address);
  await tx.execute(sql`delete from address_trouble where address = ${address}`);
  await tx.execute(sql`update digest_item set address = ${instead} where address = ${address}`);
  // What somebody is still writing names its recipients by their addresses.
  await tx.execute(
    sql`update draft set content = replace(content::text, ${JSON.stringify(address)}, ${JSON.stringify(instead)})::jsonb where position(${JSON.stringify(address)} in content::text) > 0`,
  );
  await tx.execute(
    sql`update form_answer set address = ${instead}, child = '', answer = ${JSON.stringify({ given: "somebody", family: "removed", class: "", team: "", name: REMOVED, address: instead, relationship: "", secondName: "", secondAddress: "", secondRelationship: "", howOften: "every message", questions: [], consent: 0 })}::jsonb where address = ${address}`,
  );
  await tx.execute(
    sql`update form_answer set answer = answer || '{"secondName": "", "secondAddress": "", "secondRelationship": ""}'::jsonb where answer->>'secondAddress' = ${address}`,
  );
  await tx.execute(
    sql`delete from posted_answer where exists (select 1 from jsonb_array_elements(fields) as field where lower(field->>1) = ${address})`,
  );
  await tx.execute(
    sql`update intake_change set before = '', after = '' where row_id in (select id from intake_row where address = ${address} or lower(cells->>'address') = ${address})`,
  );
  await tx.execute(
    sql`update intake_row set address = ${instead}, cells = ${JSON.stringify({ person: REMOVED, address: "", to: "", from: "", until: "" })}::jsonb where address = ${address} or lower(cells->>'address') = ${address}`,
  );
  await tx.delete(receiving).where(eq(receiving.address, address));
  await tx.delete(pause).where(eq(pause.address, address));
  await tx.delete(addressLanguage).where(eq(addressLanguage.address, address));
  await tx.delete(memberSession).where(eq(memberSession.address, address));
  await tx.delete(mailedLink).where(eq(mailedLink.address, address));
}

/** Every column that can hold words, in the program's own tables. */
export async function textColumns(tx: Queries): Promise<Column[]> {
  const { rows } = await tx.execute<{ table: string; column: string; type: string }>(sql`
    select columns.table_name as table, column_name as column, udt_name as type
    from information_schema.columns join information_schema.tables using (table_schema, table_name)
    where table_type = 'BASE TABLE' and table_schema not in (select json_array_elements_text(${JSON.stringify(NOT_OURS)}::json))
      and udt_name in ('text', 'varchar', 'citext', '_text', 'json', 'jsonb') and is_generated = 'NEVER'`);
  return rows
    .filter(({ table, column }) => !BY_THEMSELVES.has(`${table}.${column}`))
    .map(({ table, column, type }) => ({
      table,
      column,
      kind: type === "_text" ? "list" : type.startsWith("json") ? "json" : "text",
    }));
}

/** Removes what a member has put on shelves themselves, and said about things there. What others have made of it stays. */
async function removeFromShelves(tx: Queries, address: string): Promise<void> {
  await tx.execute(sql`delete from upload where address = ${address}`);
  await tx.execute(sql`delete from shelf_follower where address = ${address}`);
  await tx.execute(
    sql`update shelf_comment set address = null, name = ${REMOVED}, content = '', taken_out_by = case when taken_out_by is distinct from name then coalesce(taken_out_by, ${REMOVED}) else ${REMOVED} end where address = ${address}`,
  );
  await tx.execute(
    sql`delete from shelf_thing where address = ${address} and not exists (select 1 from shelf_version where thing_id = shelf_thing.id and address is distinct from ${address})`,
  );
  await tx.execute(
    sql`update shelf_thing set address = null, made_by = ${REMOVED} where address = ${address}`,
  );
  await tx.execute(
    sql`delete from shelf_version where address = ${address} and number <> (select version from shelf_thing where id = thing_id)`,
  );
  await tx.execute(
    sql`update shelf_version set address = null, by = ${REMOVED} where address = ${address}`,
  );
}
