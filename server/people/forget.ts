import { randomBytes } from "node:crypto";
import { and, eq, sql, type SQL } from "drizzle-orm";
import type { Workbook } from "@amigo/core/sheet/sheet";
import type { Database, Queries } from "../db/connect";
import { notify } from "../events/events";
import { raiseVersion } from "../facts/queries";
import { notFound, Refusal } from "../http/fault";
import { record } from "../journal/record";
import type { Actor } from "../rounds/carryOut";
import { openBook } from "../sandbox/openBook";
import { REMOVED, sweepTexts, takerOf, type Traces } from "./sweepTexts";
import { t } from "../texts/t";
import { season } from "../db/schema/house";
import { reading } from "../db/schema/sources";
import { fact } from "../db/schema/people";
import { mailedLink, memberSession, receiving, pause } from "../db/schema/members";
import { lockRounds } from "../rounds/queries";

/**
 * Takes the personal data of somebody who left out of everything that is kept: facts of all seasons, rows and files of every
 * import, what they wrote and what was written to them, memberships, deliveries, the journal and every other text. Counts
 * stay, and so does what others have written to lists. It can not be undone.
 *
 * @throws Refusal 409 while they still stand in the sheets
 */
export async function forgetPerson(
  db: Database,
  { actor, person }: { actor: Actor; person: string },
): Promise<{ done: true }> {
  return db.transaction(async (tx) => {
    await lockRounds(tx);
    const facts = await tx
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
    if (facts.length === 0 || !(person.startsWith("s-") || person.startsWith("g-")))
      throw notFound("person");
    if (facts.some(({ until, current }) => until === null && current))
      throw new Refusal(409, "people/still-here", t("people.theyStillStandInThe"));
    await tx.execute(sql`set local amigo.forgetting = 'on'`);
    const names = facts.flatMap(({ kind, value }) =>
      kind === "name" && typeof value === "object" && "given" in value ? [value] : [],
    );
    const addresses = await ownAddresses(tx, person, [
      ...new Set(facts.flatMap(({ kind, ref }) => (kind === "address" ? [ref] : []))),
    ]);
    const numbers = facts.flatMap(({ kind, value }) =>
      kind === "number" && typeof value === "string" && value !== "" ? [value] : [],
    );
    const removed = (): string => `removed-${randomBytes(6).toString("hex")}`;
    const stand = new Map(addresses.map((address) => [address, `${removed()}@removed.invalid`]));
    const marks = new Map([
      ...stand,
      ...(await ownNumbers(tx, person, numbers)).map((number): [string, string] => [
        number,
        removed(),
      ]),
    ]);
    const whole: Traces = { names, marks, key: removed() };
    // What somebody else is called as well may tell of them: it is taken out only beside an address or number of this one.
    const alone: Traces = { ...whole, names: await ownNames(tx, person, names) };
    await forgetFiles(tx, alone);
    if (person.startsWith("s-"))
      await forgetOwnRows(
        tx,
        person,
        facts.flatMap(({ origin }) =>
          origin.from === "row" ? [{ reading: origin.reading, row: origin.row }] : [],
        ),
      );
    await forgetRows(tx, whole);
    await forgetMails(tx, person, addresses);
    await tx.execute(
      sql`update fact set search = null, value = case kind when 'name' then '{"given": "somebody", "family": "removed"}'::jsonb when 'number' then '""'::jsonb when 'detail' then '""'::jsonb when 'level' then '""'::jsonb else value end where subject = ${person}`,
    );
    for (const [address, instead] of stand) await forgetAddress(tx, address, instead);
    await sweepTexts(tx, alone);
    await forgetSearches(tx, alone);
    await tx.execute(
      sql`update private_list_person set name = ${REMOVED} where person = ${person}`,
    );
    await tx.execute(
      sql`delete from by_hand where ended_at is not null and (sentence like ${`%${REMOVED}%`} or links::text like ${`%"${person}"%`})`,
    );
    await record(tx, {
      actorId: actor.id,
      actor: actor.name,
      action: "forget",
      sentence: t("people.removedThePersonalDataOf", { name: actor.name }),
    });
    for (const { id } of await tx.select({ id: season.id }).from(season))
      await raiseVersion(tx, id);
    await notify(tx, "people", "board", "rounds");
    return { done: true as const };
  });
}

/** Their addresses that are nobody else's, no account's either. */
async function ownAddresses(
  tx: Queries,
  person: string,
  addresses: readonly string[],
): Promise<string[]> {
  const others = await heldByOthers(
    tx,
    addresses,
    sql`select ref as held from fact where kind = 'address' and subject <> ${person} union all select email from account`,
  );
  return addresses.filter((address) => !others.has(address.toLowerCase()));
}

/** How long a number must be to be nothing but somebody's number wherever it stands. Shorter ones are also counts, classes and days. */
const DISTINCT = { digits: 6, withLetters: 4 };

/** Their numbers that nobody else has and that can't be anything else in a text. */
async function ownNumbers(
  tx: Queries,
  person: string,
  numbers: readonly string[],
): Promise<string[]> {
  const others = await heldByOthers(
    tx,
    numbers,
    sql`select value #>> '{}' as held from fact where kind = 'number' and subject <> ${person}`,
  );
  return [...new Set(numbers)].filter(
    (number) =>
      !others.has(number.toLowerCase()) &&
      /\d/.test(number) &&
      number.length >= (/\p{L}/u.test(number) ? DISTINCT.withLetters : DISTINCT.digits),
  );
}

/** Their names that nobody else has, in any season or as an account. */
async function ownNames(
  tx: Queries,
  person: string,
  names: Traces["names"],
): Promise<Traces["names"]> {
  const whole = ({ given, family }: Traces["names"][number]): string => `${given} ${family}`;
  const others = await heldByOthers(
    tx,
    names.map(whole),
    sql`select concat(value->>'given', ' ', value->>'family') as held from fact where kind = 'name' and subject <> ${person} union all select name from account`,
  );
  return names.filter((name) => !others.has(whole(name).toLowerCase()));
}

/** Which of some texts others have too, in small letters. `held` is a query of what they have. */
async function heldByOthers(
  tx: Queries,
  texts: readonly string[],
  held: SQL,
): Promise<ReadonlySet<string>> {
  if (texts.length === 0) return new Set();
  const { rows } = await tx.execute<{ held: string }>(sql`
    select distinct lower(others.held) as held from (${held}) as others
    where lower(others.held) in (select lower(text) from json_array_elements_text(${JSON.stringify(texts)}::json) as wanted(text))`);
  return new Set(rows.map((row) => row.held));
}

/**
 * Takes away the kept files in which somebody stands, in any of their sheets. They can't be mended inside; the rows that were
 * read of them stay, without that person.
 */
async function forgetFiles(tx: Queries, traces: Traces): Promise<void> {
  const { stands } = takerOf(traces);
  const kept = await tx
    .select({ id: reading.id })
    .from(reading)
    .where(sql`length(${reading.file}) > 0`);
  // One at a time, for they can be large.
  for (const { id } of kept) {
    const [one] = await tx.select({ file: reading.file }).from(reading).where(eq(reading.id, id));
    const book = one === undefined ? undefined : await openedBefore(one.file);
    // What can't be looked into any more can't be known to be without them.
    if (book === undefined || book.sheets.some(({ rows }) => rows.some(stands)))
      await tx
        .update(reading)
        .set({ file: Buffer.alloc(0) })
        .where(eq(reading.id, id));
  }
}

/** The sheets of a file that was imported once; undefined where it can't be opened any more. */
async function openedBefore(file: Uint8Array): Promise<Workbook | undefined> {
  try {
    return await openBook(file);
  } catch (failure) {
    if (failure instanceof Refusal) return undefined;
    throw failure;
  }
}

/** Empties the rows from which a student was read, unless they are a household's and tell of others too. */
async function forgetOwnRows(
  tx: Queries,
  person: string,
  rows: readonly { reading: string; row: number }[],
): Promise<void> {
  const others = new Set(
    (
      await tx
        .select({ origin: fact.origin })
        .from(fact)
        .where(and(eq(fact.kind, "student"), sql`${fact.subject} <> ${person}`))
    ).flatMap(({ origin }) => (origin.from === "row" ? [`${origin.reading} ${origin.row}`] : [])),
  );
  const own = JSON.stringify([
    ...new Map(
      rows
        .map((place) => [`${place.reading} ${place.row}`, place] as const)
        .filter(([place]) => !others.has(place)),
    ).values(),
  ]);
  await tx.execute(sql`
    update reading_row set cells = array_fill(''::text, array[cardinality(cells)])
    from json_to_recordset(${own}::json) as gone(reading uuid, "row" int)
    where reading_row.reading_id = gone.reading and reading_row.row = gone."row" and cardinality(cells) > 0`);
}

/** Takes somebody out of all rows in which an address or number of theirs stands, whoever else has their name. */
async function forgetRows(tx: Queries, traces: Traces): Promise<void> {
  if (traces.marks.size === 0) return;
  const { ofValue } = takerOf(traces);
  const marks = JSON.stringify([...traces.marks.keys()].map((mark) => mark.toLowerCase()));
  const { rows } = await tx.execute<{ place: string; cells: string[] }>(sql`
    select ctid::text as place, cells from reading_row
    where exists (select 1 from json_array_elements_text(${marks}::json) as wanted(mark) where position(wanted.mark in lower(cells::text)) > 0)`);
  for (const { place, cells } of rows)
    await tx.execute(
      sql`update reading_row set cells = array(select json_array_elements_text(${JSON.stringify(ofValue(cells))}::json)) where ctid = ${place}::tid`,
    );
}

/** Takes away what they have written, the notes to them, and what was filled in for their family. */
async function forgetMails(
  tx: Queries,
  person: string,
  addresses: readonly string[],
): Promise<void> {
  const own = JSON.stringify(addresses);
  const isOwn = sql`in (select json_array_elements_text(${own}::json))`;
  await tx.execute(sql`
    update message set raw = ''::bytea, merge = null, erased_at = now() where id in (
      select message_id from post where from_address ${isOwn}
      union select message_id from delivery where post_id is null and address ${isOwn})`);
  await tx.execute(sql`
    update post set subject = ${REMOVED}, beginning = '' where from_address ${isOwn}`);
  // Children are named in what was filled in for their guardians, and in notes to them.
  const family = sql`select address.ref from fact tie join fact address on address.subject = tie.subject and address.kind = 'address' where tie.kind = 'tie' and tie.ref = ${person}`;
  // Copies that are still to leave keep theirs, or they would go out with their blanks unfilled.
  await tx.execute(sql`
    update delivery set fields = null where address in (${family}) and state not in ('queued', 'sending', 'deferred')`);
  await tx.execute(sql`
    update message set raw = ''::bytea, erased_at = now() where id in (
      select message_id from delivery where post_id is null and address in (${family}) and state not in ('queued', 'sending', 'deferred'))`);
}

/** Makes the words by which posts are found anew where they name somebody. */
async function forgetSearches(tx: Queries, { names, marks }: Traces): Promise<void> {
  for (const words of [...names.map(({ given, family }) => `${given} ${family}`), ...marks.keys()])
    await tx.execute(sql`
      update post set words = to_tsvector('simple', left(subject || ' ' || from_name || ' ' || coalesce(beginning, ''), 2000))
      where words @@ plainto_tsquery('simple', ${words})`);
}

async function forgetAddress(tx: Queries, address: string, instead: string): Promise<void> {
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
    sql`update post set words = to_tsvector('simple', left(subject, 500)) where from_address = ${instead}`,
  );
  await tx.execute(sql`update delivery set fields = null where address = ${instead}`);
  await tx.execute(
    sql`update bounce set address = ${instead}, words = '' where address = ${address}`,
  );
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
  await tx.delete(memberSession).where(eq(memberSession.address, address));
  await tx.delete(mailedLink).where(eq(mailedLink.address, address));
}
