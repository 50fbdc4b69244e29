import { eq, and, isNull, or, type SQL, sql } from "drizzle-orm";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { season } from "../db/schema/house";
import { list } from "../db/schema/lists";
import { fact } from "../db/schema/people";
import { listsOf, seenByStaff } from "../membership/queries";

/** Lists the open lists that somebody may find. */
export function listFindableLists(db: Queries, caller: Caller) {
  return db
    .select({ id: list.id, name: list.name, title: list.title, short: list.short })
    .from(list)
    .innerJoin(season, eq(season.id, list.seasonId))
    .where(and(isNull(list.closedAt), eq(season.current, true), or(listsOf(caller), seenByStaff)));
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
