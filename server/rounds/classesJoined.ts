import { sql } from "drizzle-orm";
import { listKeyParts } from "@amigo/core/lists/listKey";
import { fold } from "@amigo/core/text/fold";
import type { RoundPage } from "@amigo/contract/rounds";
import type { Queries } from "../db/connect";
import { cause } from "../db/schema/rounds";

/** More students than this make a round that is read by class, as a first import is. */
const MANY = 24;

/**
 * Returns what each class gets in a round in which many join: its students, their guardians who come onto a list, and
 * lists that are new. Empty for any other round.
 */
export async function classesJoined(
  db: Queries,
  round: number,
  newLists: readonly string[],
): Promise<RoundPage["classes"]> {
  const { rows } = await db.execute<{ name: string; students: number; guardians: number }>(sql`
    with many as (
      select 1 from ${cause} where ${cause.round} = ${round} and ${cause.kind} = 'joined'
      having count(*) > ${MANY}
    )
    select "group" as name,
      count(distinct subject)::int as students,
      count(distinct change->>'person') filter (
        where change->>'kind' = 'joins' and change->>'person' <> subject
      )::int as guardians
    from many, ${cause} left join lateral json_array_elements(changes::json) change on true
    where ${cause.round} = ${round} and ${cause.kind} = 'joined' and "group" <> ''
    group by "group" order by "group"`);
  const ofClass = (name: string): number =>
    newLists.filter((key) => listKeyParts(key)?.of.endsWith(`:${fold(name)}`) === true).length;
  return rows.map((row) => ({ ...row, newLists: ofClass(row.name) }));
}
