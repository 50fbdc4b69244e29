import { and, eq, isNull, or, sql, type SQL } from "drizzle-orm";
import type { z } from "zod";
import { each } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import { fold } from "@amigo/core/text/fold";
import type { Found } from "@amigo/contract/house";
import { callerMay, type Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { listsOf, peopleOf, seenByStaff } from "../membership/scope";
import { t } from "../texts/t";
import { season } from "../db/schema/house";
import { source } from "../db/schema/sources";
import { fact } from "../db/schema/people";
import { list } from "../db/schema/lists";

type Hit = z.output<typeof Found>;

const MOST_LISTS = 8;
const MOST_PEOPLE = 6;

/** Returns the lists, people and sources that somebody may know and whose names have words that start as the text's do. */
export async function find(db: Queries, caller: Caller, text: string): Promise<Hit[]> {
  const words = fold(text)
    .split(" ")
    .filter((word) => word !== "");
  if (words.length === 0) return [];
  const matches = (name: string): boolean => {
    const pieces = fold(name).split(" ");
    return words.every((word) => pieces.some((piece) => piece.startsWith(word)));
  };
  const lists = await findLists(db, caller, matches);
  if (!callerMay(caller, "see people")) return lists;
  const [people, sources] = await Promise.all([
    findPeople(db, caller, words, matches),
    callerMay(caller, "see sources") ? findSources(db, matches) : [],
  ]);
  return [...lists, ...people, ...sources];
}

async function findLists(
  db: Queries,
  caller: Caller,
  matches: (name: string) => boolean,
): Promise<Hit[]> {
  const lists = await db
    .select({ id: list.id, name: list.name, title: list.title, short: list.short })
    .from(list)
    .innerJoin(season, eq(season.id, list.seasonId))
    .where(and(isNull(list.closedAt), eq(season.current, true), or(listsOf(caller), seenByStaff)))
    .limit(5000);
  return lists
    .filter(({ name, title, short }) => matches(`${title} ${name} ${short}`))
    .slice(0, MOST_LISTS)
    .map(({ id, name, title }) => ({ kind: "list", id, title, detail: name, to: `/lists/${id}` }));
}

async function findSources(db: Queries, matches: (name: string) => boolean): Promise<Hit[]> {
  const sources = await db.select({ id: source.id, name: source.name }).from(source);
  return sources
    .filter(({ name }) => matches(name))
    .map(({ id, name }) => ({
      kind: "source",
      id,
      title: name,
      detail: "source",
      to: `/sources/${id}`,
    }));
}

async function findPeople(
  db: Queries,
  caller: Caller,
  words: readonly string[],
  matches: (name: string) => boolean,
): Promise<Hit[]> {
  const within = peopleOf(caller, sql`(select id from season where current)`);
  const named = await db
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
  const found = named.filter((row) => matches(`${row.given} ${row.family}`)).slice(0, MOST_PEOPLE);
  const details = await detailsOf(
    db,
    found.map(({ subject }) => subject),
    caller,
    within,
  );
  return found.map(({ subject, given, family }) => ({
    kind: "person",
    id: subject,
    title: `${given} ${family}`.trim(),
    detail: details.get(subject) ?? (isStudent(subject) ? "student" : "guardian"),
    to: `/people/${subject}`,
  }));
}

const isStudent = (subject: string): boolean => subject.startsWith("s-");

/** What tells people of one name apart: their class, or the children whose guardian they are, and the lists that they are on. */
async function detailsOf(
  db: Queries,
  subjects: readonly string[],
  caller: Caller,
  within: SQL | undefined,
): Promise<Map<string, string>> {
  if (subjects.length === 0) return new Map();
  const known = within === undefined ? sql`true` : sql`student.id in ${within}`;
  const mine = listsOf(caller);
  const { rows } = await db.execute<{
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
  return new Map(
    rows.map(({ subject, children, classes, lists }) => [
      subject,
      [
        isStudent(subject)
          ? "student"
          : children.length === 0
            ? "guardian"
            : t("house.guardianOf", { children: each(children) }),
        say(each(classes)),
        lists.length > 1
          ? t("house.andMore", { first: lists[0], more: lists.length - 1 })
          : (lists[0] ?? ""),
      ]
        .filter((part) => part !== "")
        .join(" · "),
    ]),
  );
}
