import { randomBytes } from "node:crypto";
import { and, eq, inArray, sql } from "drizzle-orm";
import type { Database, Queries } from "../db/connect";
import { fact, mailedLink, memberSession, pause, reading, receiving, season } from "../db/schema";
import { notify } from "../events/events";
import { raiseVersion } from "../facts/queries";
import { notFound, Refusal } from "../http/fault";
import { record } from "../journal/record";
import type { Actor } from "../rounds/carryOut";
import { lockRounds } from "../rounds/openRound";
import { openBook } from "../sandbox/openBook";
import { REMOVED, sweepTexts, type Traces } from "./sweepTexts";

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
      throw new Refusal(
        409,
        "people/still-here",
        "They still stand in the sheets. Take them out there and bring the lists in step; then their data can be removed.",
      );
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
    const stand = new Map(
      addresses.map((address) => [
        address,
        `removed-${randomBytes(6).toString("hex")}@removed.invalid`,
      ]),
    );
    const traces: Traces = {
      names,
      marks: new Map([...stand, ...numbers.map((number): [string, string] => [number, "removed"])]),
    };
    await forgetFiles(tx, traces);
    if (person.startsWith("s-"))
      await forgetRows(
        tx,
        person,
        facts.flatMap(({ origin }) =>
          origin.from === "row" ? [{ reading: origin.reading, row: origin.row }] : [],
        ),
        numbers,
      );
    await forgetMails(tx, person, addresses);
    await tx.execute(
      sql`update fact set search = null, value = case kind when 'name' then '{"given": "somebody", "family": "removed"}'::jsonb when 'number' then '""'::jsonb when 'detail' then '""'::jsonb when 'level' then '""'::jsonb else value end where subject = ${person}`,
    );
    for (const [address, instead] of stand) await forgetAddress(tx, address, instead);
    await sweepTexts(tx, traces);
    await forgetSearches(tx, traces);
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
      sentence: `${actor.name} removed the personal data of somebody who had left`,
    });
    for (const { id } of await tx.select({ id: season.id }).from(season))
      await raiseVersion(tx, id);
    await notify(tx, "people", "board", "rounds");
    return { done: true as const };
  });
}

/** Their addresses that are nobody else's. */
async function ownAddresses(
  tx: Queries,
  person: string,
  addresses: readonly string[],
): Promise<string[]> {
  if (addresses.length === 0) return [];
  const shared = await tx
    .selectDistinct({ ref: fact.ref })
    .from(fact)
    .where(
      and(
        eq(fact.kind, "address"),
        inArray(fact.ref, [...addresses]),
        sql`${fact.subject} <> ${person}`,
      ),
    );
  const others = new Set(shared.map(({ ref }) => ref));
  return addresses.filter((address) => !others.has(address));
}

/**
 * Takes away the kept files in which somebody stands, in any of their sheets. They can't be mended inside; the rows that were
 * read of them stay, without that person.
 */
async function forgetFiles(tx: Queries, { names, marks }: Traces): Promise<void> {
  const files = await tx
    .select({ id: reading.id, file: reading.file })
    .from(reading)
    .where(sql`length(${reading.file}) > 0`);
  const told = [...marks.keys()].map((mark) => mark.toLowerCase());
  const stands = (cells: readonly string[]): boolean => {
    const row = cells.join("\n").toLowerCase();
    return (
      told.some((mark) => row.includes(mark)) ||
      names.some(
        ({ given, family }) =>
          row.includes(given.toLowerCase()) && row.includes(family.toLowerCase()),
      )
    );
  };
  for (const { id, file } of files) {
    const book = await openBook(file).catch(() => undefined);
    // What can't be looked into any more can't be known to be without them.
    if (book === undefined || book.sheets.some(({ rows }) => rows.some(stands)))
      await tx
        .update(reading)
        .set({ file: Buffer.alloc(0) })
        .where(eq(reading.id, id));
  }
}

/** Empties a student's own rows, of every reading, unless they are a household's and tell of others too. */
async function forgetRows(
  tx: Queries,
  person: string,
  rows: readonly { reading: string; row: number }[],
  numbers: readonly string[],
): Promise<void> {
  const told = JSON.stringify(rows);
  const { rows: found } = await tx.execute<{ reading: string; row: number }>(sql`
    select reading_id as reading, row from reading_row
    where (reading_id, row) in (select gone.reading, gone."row" from json_to_recordset(${told}::json) as gone(reading uuid, "row" int))
      or cells && array(select json_array_elements_text(${JSON.stringify(numbers)}::json))`);
  const others = new Set(
    (
      await tx
        .select({ origin: fact.origin })
        .from(fact)
        .where(and(eq(fact.kind, "student"), sql`${fact.subject} <> ${person}`))
    ).flatMap(({ origin }) => (origin.from === "row" ? [`${origin.reading} ${origin.row}`] : [])),
  );
  const own = JSON.stringify(found.filter((place) => !others.has(`${place.reading} ${place.row}`)));
  await tx.execute(sql`
    update reading_row set cells = array_fill(''::text, array[cardinality(cells)])
    from json_to_recordset(${own}::json) as gone(reading uuid, "row" int)
    where reading_row.reading_id = gone.reading and reading_row.row = gone."row" and cardinality(cells) > 0`);
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
  await tx.execute(sql`update delivery set fields = null where address in (${family})`);
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
