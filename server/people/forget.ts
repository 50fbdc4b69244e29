import { randomBytes } from "node:crypto";
import { and, eq, inArray, sql, type SQL } from "drizzle-orm";
import type { Database, Queries } from "../db/connect";
import { fact, memberSession, mailedLink, pause, receiving, season } from "../db/schema";
import { notify } from "../events/events";
import { raiseVersion } from "../facts/queries";
import { notFound, Refusal } from "../http/fault";
import { record } from "../journal/record";
import type { Actor } from "../rounds/carryOut";
import { lockRounds } from "../rounds/openRound";

/** What stands where a name was. */
const REMOVED = "somebody removed";

/**
 * Takes the personal data of somebody who left out of everything that is kept: facts of all seasons, the rows and files of
 * sheets they stood in, causes, memberships, deliveries and the journal. Rows and counts stay; what they wrote to lists
 * stays in the archive. It can not be taken back.
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
    const words: [string, string][] = [
      ...names.flatMap(({ given, family }): [string, string][] =>
        given === "" || family === ""
          ? []
          : [
              [`${given} ${family}`, REMOVED],
              [`${family}, ${given}`, REMOVED],
            ],
      ),
      ...names.flatMap(nameParts),
      ...stand,
      ...numbers.map((number): [string, string] => [number, "removed"]),
    ];
    await forgetRows(
      tx,
      facts.flatMap(({ origin }) =>
        origin.from === "row" ? [{ reading: origin.reading, row: origin.row }] : [],
      ),
      [...names.flatMap(({ given, family }) => [given, family]), ...addresses, ...numbers],
    );
    await tx.execute(
      sql`update fact set search = null, value = case kind when 'name' then '{"given": "somebody", "family": "removed"}'::jsonb when 'number' then '""'::jsonb when 'detail' then '""'::jsonb when 'level' then '""'::jsonb else value end where subject = ${person}`,
    );
    for (const [address, instead] of stand) await forgetAddress(tx, address, instead);
    for (const [table, columns] of TEXTS) await forgetWords(tx, table, columns, words);
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

/** A name as it stands taken apart within kept JSON, with and without spaces. */
function nameParts({ given, family }: { given: string; family: string }): [string, string][] {
  const [first, last] = [JSON.stringify(given), JSON.stringify(family)];
  return [
    [`"given":${first},"family":${last}`, '"given":"somebody","family":"removed"'],
    [`"family":${last},"given":${first}`, '"family":"removed","given":"somebody"'],
    [`"given": ${first}, "family": ${last}`, '"given": "somebody", "family": "removed"'],
  ];
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

/** Empties the cells that tell of somebody in the rows from which they were read, and the files that hold those rows. */
async function forgetRows(
  tx: Queries,
  rows: readonly { reading: string; row: number }[],
  words: readonly string[],
): Promise<void> {
  const told = words.filter((word) => word.length > 1).map((word) => word.toLowerCase());
  if (rows.length === 0 || told.length === 0) return;
  const places = JSON.stringify([
    ...new Map(rows.map((place) => [`${place.reading} ${place.row}`, place])).values(),
  ]);
  await tx.execute(sql`
    update reading_row set cells = array(select case when exists (select 1 from json_array_elements_text(${JSON.stringify(told)}::json) as told(word) where position(told.word in lower(cell.text)) > 0) then '' else cell.text end from unnest(reading_row.cells) with ordinality as cell(text, place) order by cell.place)
    from json_to_recordset(${places}::json) as gone(reading uuid, "row" int) where reading_row.reading_id = gone.reading and reading_row.row = gone.row`);
  await tx.execute(
    sql`update reading set file = ''::bytea where id in (select reading from json_to_recordset(${places}::json) as gone(reading uuid)) and exists (select 1 from reading as newer where newer.source_id = reading.source_id and newer.number > reading.number)`,
  );
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

/** Where names and addresses stand within texts. */
const TEXTS: readonly [string, readonly string[]][] = [
  ["journal", ["actor", "sentence"]],
  ["cause", ["key", "title", "detail", "sentence", "adds", "removes", "changes"]],
  ["reading_fault", ["written", "proposal", "sentence", "why"]],
  ["correction", ["written", "read", "who", "row"]],
  ["by_hand", ["sentence", "key"]],
  ["post", ["decided_by", "taken_out_by"]],
];

async function forgetWords(
  tx: Queries,
  table: string,
  columns: readonly string[],
  words: readonly [string, string][],
): Promise<void> {
  if (words.length === 0) return;
  const replaced = (column: string): SQL =>
    words.reduce<SQL>(
      (text, [word, instead]) => sql`replace(${text}, ${word}, ${instead})`,
      sql.raw(column),
    );
  const holds = sql.join(
    columns.flatMap((column) =>
      words.map(([word]) => sql`position(${word} in ${sql.raw(column)}) > 0`),
    ),
    sql` or `,
  );
  await tx.execute(
    sql`update ${sql.raw(table)} set ${sql.join(
      columns.map((column) => sql`${sql.raw(column)} = ${replaced(column)}`),
      sql`, `,
    )} where ${holds}`,
  );
  if (table !== "journal") return;
  for (const column of ["before", "after"])
    await tx.execute(
      sql`update journal set ${sql.raw(column)} = ${replaced(`${column}::text`)}::jsonb where ${sql.join(
        words.map(([word]) => sql`position(${word} in ${sql.raw(column)}::text) > 0`),
        sql` or `,
      )}`,
    );
}
