import { kindOf } from "@amigo/core/facts/kinds/allKinds";
import { and, asc, eq, gt, isNull, lte, or, sql, type SQL } from "drizzle-orm";
import { factKey, type Fact, type FactKind, type Facts } from "@amigo/core/facts/fact";
import { factDifference, type FactDifference } from "@amigo/core/facts/factDifference";
import type { Origin } from "@amigo/core/facts/origin";
import { packOrigin, unpackOrigin } from "@amigo/core/facts/packFacts";
import type { MeaningId } from "@amigo/core/sheet/meanings/meaning";
import type { PersonLink } from "@amigo/core/identity/personLink";
import type { SettledByHand } from "@amigo/core/identity/question";
import type { Queries } from "../db/connect";
import { copyInto, type CopyValue } from "../db/copyInto";
import { season } from "../db/schema/house";
import { byHand, fact } from "../db/schema/people";

export const factColumns = {
  subject: fact.subject,
  kind: fact.kind,
  ref: fact.ref,
  value: fact.value,
  origin: fact.origin,
};

/** Once this many rows have changed, PostgreSQL measures the table again for its planner. */
const MANY = 500;

/** Facts that held at an instant; at none, those that hold now. */
export function heldAt(instant: Date | undefined): SQL | undefined {
  return instant === undefined
    ? isNull(fact.validUntil)
    : and(lte(fact.validFrom, instant), or(isNull(fact.validUntil), gt(fact.validUntil, instant)));
}

/** A fact as it's fetched: `[subject, kind, ref, value, origin]`, the origin packed. */
type FactRow = [string, FactKind, string, Fact["value"], string | null];

/** Stands for an origin that wasn't fetched. */
const NOT_FETCHED: Origin = { from: "rule", rule: "convention" };

/**
 * Returns the function that makes facts of rows. Of hundreds of thousands most say the same words: each is kept once, and each place
 * in a sheet is, too.
 */
function factMaker(): (row: FactRow) => Fact {
  const words = new Map<string, string>();
  const once = (word: string): string => {
    const known = words.get(word);
    if (known !== undefined) return known;
    words.set(word, word);
    return word;
  };
  return ([subject, kind, ref, value, packed]) => {
    const origin = packed === null ? NOT_FETCHED : unpackOrigin(packed);
    if (origin.from === "row") {
      origin.source = once(origin.source);
      origin.reading = once(origin.reading);
      origin.sheet = once(origin.sheet);
      origin.meaning = once(origin.meaning) as MeaningId;
    }
    return {
      subject: once(subject),
      kind: once(kind),
      ref: ref === "" ? "" : once(ref),
      value,
      origin,
    } as Fact;
  };
}

async function loadRows(db: Queries, seasonId: number, origin: SQL): Promise<Map<string, Fact>> {
  const { rows } = await db.execute<{
    subject: string;
    kind: FactKind;
    ref: string;
    value: Fact["value"];
    origin: string | null;
  }>(
    sql`select subject, kind, ref, value, ${origin} as origin from fact where season_id = ${seasonId} and valid_until is null`,
  );
  const make = factMaker();
  return new Map(
    rows.map(({ subject, kind, ref, value, origin: packed }) => {
      const made = make([subject, kind, ref, value, packed]);
      return [factKey(made), made];
    }),
  );
}

/** The facts that hold now in a season. */
export function loadFacts(db: Queries, seasonId: number): Promise<Map<string, Fact>> {
  return loadRows(db, seasonId, sql`origin`);
}

/** The same without where they come from, for work that needs no origins: it takes half the memory. */
export async function loadFactsAlone(db: Queries, seasonId: number): Promise<Map<string, Fact>> {
  return loadRows(db, seasonId, sql.raw("null"));
}

/** What a round began, or ended. */
export async function factsOfRound(
  db: Queries,
  seasonId: number,
  round: number,
): Promise<{ began: Fact[]; ended: Fact[] }> {
  const of = async (column: typeof fact.fromRound | typeof fact.untilRound): Promise<Fact[]> =>
    (await db
      .select(factColumns)
      .from(fact)
      .where(and(eq(fact.seasonId, seasonId), eq(column, round)))) as Fact[];
  return { began: await of(fact.fromRound), ended: await of(fact.untilRound) };
}

/** What people have said of who is whom, and of what holds. */
export async function loadByHand(
  db: Queries,
  seasonId: number,
): Promise<{ links: PersonLink[]; settled: SettledByHand[] }> {
  const rows = await db
    .select()
    .from(byHand)
    .where(and(eq(byHand.seasonId, seasonId), isNull(byHand.endedAt)))
    .orderBy(asc(byHand.id));
  return {
    links: rows.flatMap(({ links }) => links),
    settled: rows.flatMap(({ settled, key, by, at }) =>
      settled === null ? [] : [{ ...settled, key, by, at: at.toISOString() }],
    ),
  };
}

/** Of how many subjects a version says that their facts changed; where there were more, all facts are fetched again. */
const MOST_SUBJECTS = 5000;
/** For how many versions it is kept whose facts changed. */
const VERSIONS_KEPT = 100;

/**
 * Says that something other than a reading has changed what will be derived.
 *
 * @param subjects whose facts changed with it; "all" where that isn't known
 */
export async function raiseVersion(
  db: Queries,
  seasonId: number,
  subjects: ReadonlySet<string> | "all",
): Promise<void> {
  const [raised] = await db
    .update(season)
    .set({ version: sql`${season.version} + 1` })
    .where(eq(season.id, seasonId))
    .returning({ version: season.version });
  if (raised === undefined || subjects === "all" || subjects.size > MOST_SUBJECTS) return;
  const { version } = raised;
  const told = JSON.stringify(subjects.size === 0 ? [""] : [...subjects]);
  await db.execute(
    sql`insert into fact_change (season_id, version, subject) select ${seasonId}, ${version}, value from json_array_elements_text(${told}::json)`,
  );
  await db.execute(
    sql`delete from fact_change where season_id = ${seasonId} and version <= ${version - VERSIONS_KEPT}`,
  );
}

/** Whose facts have changed, and all of theirs that hold now. */
export interface FactChanges {
  subjects: string[];
  facts: Fact[];
}

/** Finds whose facts have changed in a season since a version of it, as of one instant; undefined where that isn't known. */
export async function findChanges(
  db: Queries,
  seasonId: number,
  since: number,
): Promise<FactChanges | undefined> {
  const { rows } = await db.execute<{ isKnown: boolean; subjects: string[]; facts: FactRow[] }>(sql`
    with change as (select version, subject from fact_change where season_id = ${seasonId} and version > ${since})
    select (select count(distinct version) from change) = season.version - ${since} as "isKnown",
      (select coalesce(json_agg(distinct subject), '[]') from change where subject <> '') as subjects,
      (select coalesce(json_agg(json_build_array(fact.subject, kind, ref, value, origin)), '[]') from fact
        where fact.season_id = ${seasonId} and valid_until is null and fact.subject in (select subject from change)) as facts
    from season where id = ${seasonId}`);
  const [found] = rows;
  return found?.isKnown === true
    ? { subjects: found.subjects, facts: found.facts.map(factMaker()) }
    : undefined;
}

/**
 * Ends the facts that no longer hold and adds those that hold from now on, each in one statement. Without a round, they change by hand.
 *
 * @returns what was changed
 */
export async function storeFacts(
  db: Queries,
  seasonId: number,
  round: number | null,
  before: Facts,
  after: Facts,
): Promise<FactDifference> {
  const difference = factDifference(before, after);
  const { added: begun, removed } = difference;
  const ended = removed.map(({ subject, kind, ref }) => ({ s: subject, k: kind, r: ref }));
  if (ended.length > 0) {
    // Each is looked up among the few facts of its subject. The empty texts keep the database from looking among all of its kind instead.
    await db.execute(sql`
      update fact set valid_until = now(), until_round = ${round}
      from json_to_recordset(${JSON.stringify(ended)}::json) as gone(s text, k text, r text),
        lateral (
          select id from fact as held
          where held.season_id = ${seasonId} and held.valid_until is null and held.subject = gone.s and held.kind || '' = gone.k and held.ref || '' = gone.r
          offset 0
        ) as found
      where fact.id = found.id`);
  }
  if (begun.length > 0) {
    const [{ now } = { now: "now" }] = (
      await db.execute<{ now: string }>(sql`select now()::text as now`)
    ).rows;
    function* values(): Generator<CopyValue[]> {
      for (const item of begun)
        yield [
          seasonId,
          item.subject,
          item.kind,
          item.ref,
          JSON.stringify(item.value),
          packOrigin(item.origin),
          kindOf(item).search?.(item) ?? null,
          now,
          round,
        ];
    }
    await copyInto(
      db,
      "fact (season_id, subject, kind, ref, value, origin, search, valid_from, from_round)",
      values(),
    );
  }
  await raiseVersion(db, seasonId, new Set([...begun, ...removed].map(({ subject }) => subject)));
  // After a change of this size the planner would otherwise work with figures of an empty table.
  const changed = begun.length + ended.length;
  if (changed > MANY && changed > before.size / 10) await db.execute(sql`analyze fact`);
  return difference;
}
