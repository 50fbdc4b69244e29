import { alphabetical } from "../db/alphabetical";
import { and, eq, inArray, isNull, sql, type SQL } from "drizzle-orm";
import { factKey, type Fact } from "@amigo/core/facts/fact";
import { indexFacts } from "@amigo/core/facts/indexFacts";
import type { FactIndex } from "@amigo/core/facts/factIndex";
import { fold } from "@amigo/core/text/fold";
import type { Queries } from "../db/connect";
import { factColumns } from "../facts/queries";
import { fact } from "../db/schema/people";
import { list, membership } from "../db/schema/lists";
import type { Caller } from "../callers/caller";
import { listsOf } from "../membership/queries";

export const MOST = 200;

/** Lists of whom name, number or address hold all words of one of some terms. */
export async function listFoundBy(
  db: Queries,
  seasonId: number,
  terms: readonly (readonly string[])[],
): Promise<ReadonlySet<string>> {
  const holds = (word: string): SQL =>
    sql`select said.subject from ${fact} said where said.season_id = ${seasonId} and said.valid_until is null and said.search like ${`%${word.replace(/[%_\\]/g, "\\$&")}%`}`;
  const { rows } = await db.execute<{ subject: string }>(
    sql.join(
      terms.map((words) => sql`(${sql.join(words.map(holds), sql` intersect `)})`),
      sql` union `,
    ),
  );
  return new Set(rows.map(({ subject }) => subject));
}

/** The facts about some people and everybody in their families, gathered; `within` narrows whom one sees. */
export async function indexAround(
  db: Queries,
  seasonId: number,
  people: readonly string[],
  within?: SQL,
): Promise<FactIndex> {
  let around = [...new Set(people)];
  // Family ties lead at most from a student over guardians and their other students to those students' guardians.
  for (let turn = 0; turn < 3 && around.length > 0; turn++) {
    const ties = await db
      .select({ subject: fact.subject, ref: fact.ref })
      .from(fact)
      .where(
        and(
          eq(fact.seasonId, seasonId),
          eq(fact.kind, "tie"),
          isNull(fact.validUntil),
          sql`(${inArray(fact.subject, around)} or ${inArray(fact.ref, around)})`,
        ),
      );
    const next = [...new Set([...around, ...ties.flatMap(({ subject, ref }) => [subject, ref])])];
    if (next.length === around.length) break;
    around = next;
  }
  if (within !== undefined && around.length > 0) {
    const { rows } = await db.execute<{ id: string }>(
      sql`select id from json_array_elements_text(${JSON.stringify(around)}::json) as near(id) where id in ${within}`,
    );
    around = rows.map(({ id }) => id);
  }
  const facts =
    around.length === 0
      ? []
      : ((await db
          .select(factColumns)
          .from(fact)
          .where(
            and(
              eq(fact.seasonId, seasonId),
              isNull(fact.validUntil),
              inArray(fact.subject, around),
            ),
          )) as Fact[]);
  const known = new Set(around);
  // A tie to somebody who is out of sight is not told.
  const told =
    within === undefined
      ? facts
      : facts.filter((candidate) => candidate.kind !== "tie" || known.has(candidate.ref));
  const cohorts = [
    ...new Set(told.flatMap((eachFact) => (eachFact.kind === "enrolment" ? [eachFact.ref] : []))),
  ];
  const named =
    cohorts.length === 0
      ? []
      : ((await db
          .select(factColumns)
          .from(fact)
          .where(
            and(
              eq(fact.seasonId, seasonId),
              isNull(fact.validUntil),
              eq(fact.kind, "cohort"),
              inArray(fact.subject, cohorts),
            ),
          )) as Fact[]);
  return indexFacts(new Map([...told, ...named].map((eachFact) => [factKey(eachFact), eachFact])));
}

/** On how many lists each address is now. */
export async function listCounts(
  db: Queries,
  addresses: readonly string[],
): Promise<Map<string, number>> {
  if (addresses.length === 0) return new Map();
  const rows = await db
    .select({ address: membership.address, count: sql<number>`count(*)`.mapWith(Number) })
    .from(membership)
    .innerJoin(list, eq(list.id, membership.listId))
    .where(
      and(
        isNull(membership.validUntil),
        isNull(list.closedAt),
        inArray(membership.address, [...new Set(addresses)]),
      ),
    )
    .groupBy(membership.address);
  return new Map(rows.map(({ address, count }) => [address, count]));
}

/** People of a season who were in the sheets and are no longer, those who left last first. */
export async function leftPeople(
  db: Queries,
  seasonId: number,
  q: string,
  id?: string,
): Promise<{ id: string; name: string; role: string; left: string }[]> {
  const words = fold(q)
    .split(" ")
    .filter((word) => word !== "");
  const { rows } = await db.execute<{
    id: string;
    given: string;
    family: string;
    role: string;
    left: Date;
  }>(sql`
    select distinct on (role.subject) role.subject as id, name.value->>'given' as given, name.value->>'family' as family, role.kind as role, role.valid_until as left
    from fact role join fact name on name.season_id = role.season_id and name.subject = role.subject and name.kind = 'name'
    where role.season_id = ${seasonId} and role.kind in ('student', 'guardian') and role.valid_until is not null ${id === undefined ? sql`` : sql`and role.subject = ${id}`}
      and not exists (select 1 from fact now where now.season_id = role.season_id and now.subject = role.subject and now.kind = role.kind and now.valid_until is null)
    order by role.subject, role.valid_until desc, name.id desc`);
  return rows
    .map((row) => ({
      id: row.id,
      role: row.role,
      name: `${row.given} ${row.family}`.trim(),
      left: new Date(row.left).toISOString(),
    }))
    .filter(
      ({ name }) =>
        name !== "somebody removed" &&
        words.every((word) =>
          fold(name)
            .split(" ")
            .some((piece) => piece.startsWith(word)),
        ),
    )
    .sort((a, b) => (a.left < b.left ? 1 : -1))
    .slice(0, 200);
}

/** Lists the open lists that some addresses are on, as far as somebody may see them. */
export function listListsOf(db: Queries, addresses: string[], caller: Caller) {
  return db
    .select({
      id: list.id,
      title: list.title,
      address: membership.address,
      since: membership.validFrom,
      key: list.key,
    })
    .from(membership)
    .innerJoin(list, eq(list.id, membership.listId))
    .where(
      and(
        isNull(membership.validUntil),
        isNull(list.closedAt),
        inArray(membership.address, addresses),
        listsOf(caller),
      ),
    )
    .orderBy(alphabetical(list.title));
}

/** Lists the facts about a person. */
export function listFactsOf(db: Queries, seasonId: number, subject: string) {
  return db
    .select(factColumns)
    .from(fact)
    .where(and(eq(fact.seasonId, seasonId), isNull(fact.validUntil), eq(fact.subject, subject)));
}

/** Lists the lists on which some addresses are always or never. */
export function listKeptOf(db: Queries, addresses: string[]) {
  return db
    .select({ list: fact.subject, address: fact.ref, value: fact.value })
    .from(fact)
    .where(and(isNull(fact.validUntil), eq(fact.kind, "kept"), inArray(fact.ref, addresses)));
}
