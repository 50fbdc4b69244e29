import type {
  DateCounts,
  DateLine,
  DateTime,
  DateWhen,
  getDate,
  getDates,
  getDateTimes,
} from "@amigo/contract/dates";
import { byFamily, familyAnswer, type FamilyAnswer } from "@amigo/core/calendar/familyAnswer";
import { occurrences, type Occurrence } from "@amigo/core/calendar/repeat";
import { addDays, instantOf, type When } from "@amigo/core/calendar/when";
import { nameOf } from "@amigo/core/facts/factIndex";
import { knownPeople } from "../membership/knownPeople";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { notFound } from "../http/fault";
import type { Answer, Request } from "../http/handler";
import { listOthers, type DateRow } from "../calendar/dateQueries";
import {
  findDate,
  listDateRowsBetween,
  listDateRows,
  listGuests,
  listListsOfDates,
} from "./dateQueries";
import { listDateFiles } from "./fileQueries";
import { guestsSeen, silentGuests } from "./guestsSeen";
import { mayChange } from "./mayChange";
import { listTermsBetween } from "./termQueries";

/** The most days that a calendar shows at once. */
const MOST_DAYS = 370;
/** How many of the coming times of a date its page names. */
const NAMED = 12;

/** Returns the dates that somebody sees: those to come, or the past ones. */
export async function listDates(
  { db }: Context,
  { query, caller }: Request<typeof getDates>,
): Promise<Answer<typeof getDates>> {
  const now = new Date();
  const rows = await listDateRows(db, caller, query.which, now);
  const lines = await linesOf(db, caller, rows, now);
  return query.which === "past"
    ? lines
    : lines.sort((a, b) => (a.when.from < b.when.from ? -1 : a.when.from > b.when.from ? 1 : 0));
}

/** Returns all times between two days of dates that somebody sees, with the terms and holidays there. */
export async function listTimes(
  { db }: Context,
  { query, caller }: Request<typeof getDateTimes>,
): Promise<Answer<typeof getDateTimes>> {
  const { from } = query;
  // A calendar shows a few weeks; whoever asks for more gets a year of them.
  const until = query.until < addDays(from, MOST_DAYS) ? query.until : addDays(from, MOST_DAYS);
  const rows = await listDateRowsBetween(db, caller, from, until);
  const lines = await linesOf(db, caller, rows, new Date());
  const byId = new Map(lines.map((line) => [line.id, line]));
  const times = rows.flatMap((row): DateTime[] => {
    const line = byId.get(row.id);
    if (line === undefined) return [];
    const { id, title, place, lists, isCancelled, counts, repeat } = line;
    return occurrences(row)
      .filter(({ when }) => when.until.slice(0, 10) >= from && when.from.slice(0, 10) <= until)
      .map(({ when }) => ({
        ...{ id, title, place, lists, isCancelled, counts },
        when: shown(when),
        isRepeated: repeat !== null,
      }));
  });
  return {
    times: times.sort((a, b) =>
      a.when.from < b.when.from ? -1 : a.when.from > b.when.from ? 1 : 0,
    ),
    terms: await listTermsBetween(db, from, until),
  };
}

/** Returns one date with its answers. */
export async function showDate(
  { db }: Context,
  { params, caller }: Request<typeof getDate>,
): Promise<Answer<typeof getDate>> {
  const now = new Date();
  const row = await findDate(db, params.id, caller);
  if (row === undefined) throw notFound("date");
  // Whoever may change it writes all its lists down again, so they see them all: each is one that they may write to.
  const mayBeChanged = (await mayChange(db, caller, row)) === undefined;
  const [line] = await linesOf(db, caller, [row], now, mayBeChanged);
  if (line === undefined) throw notFound("date");
  const guests = await guestsSeen(db, caller, row.id);
  const asked = guests.flatMap(({ chasedAt }) => (chasedAt === null ? [] : [chasedAt]));
  return {
    ...line,
    when: shown(row.when),
    text: row.text,
    link: row.link,
    answerUntil: row.answerUntil,
    reminders: row.reminders,
    files: await listDateFiles(db, row.id),
    ...(await othersOf(db, caller, row)),
    madeBy: row.madeBy,
    reason: row.reason,
    sequence: row.sequence,
    mayChange: row.cancelledAt === null && mayBeChanged,
    mayRestore: row.cancelledAt !== null && row.lastAt > now && mayBeChanged,
    next: coming(row, now)
      .slice(0, NAMED)
      .map(({ day, when }) => ({ day, when: shown(when) })),
    dropped: row.changes.filter(({ when }) => when === null).map(({ day }) => day),
    guests: guests.map(({ chasedAt: _, answeredAt, proposes, ...guest }) => ({
      ...guest,
      proposes: proposes === null ? null : shown(proposes),
      answeredAt: answeredAt?.toISOString() ?? null,
    })),
    toAsk: silentGuests(guests).length,
    askedAt: asked.sort((a, b) => b.getTime() - a.getTime())[0]?.toISOString() ?? null,
  };
}

async function linesOf(
  db: Queries,
  caller: Caller,
  rows: readonly DateRow[],
  now: Date,
  withAllLists = false,
): Promise<DateLine[]> {
  if (rows.length === 0) return [];
  const ids = rows.map(({ id }) => id);
  const lists = await listListsOfDates(db, ids, caller);
  const guests = byDate(await listGuests(db, ids, caller));
  return rows.map((row) => ({
    id: row.id,
    title: row.title,
    place: row.place,
    when: shown(coming(row, now)[0]?.when ?? row.when),
    repeat: row.repeat as DateLine["repeat"],
    lists: lists.flatMap(({ date, id, title, isSeen }) =>
      date === row.id && (isSeen || withAllLists || row.accountId === caller.id)
        ? [{ id, title }]
        : [],
    ),
    isCancelled: row.cancelledAt !== null,
    places: row.places,
    counts: count(guests.get(row.id) ?? []),
  }));
}

function byDate<Of extends { date: string }>(all: readonly Of[]): Map<string, Of[]> {
  const found = new Map<string, Of[]>();
  for (const one of all) {
    const ofDate = found.get(one.date);
    if (ofDate === undefined) found.set(one.date, [one]);
    else ofDate.push(one);
  }
  return found;
}

/** Whom a date is for beside its lists, for whoever made it and chose them. */
async function othersOf(
  db: Queries,
  caller: Caller,
  { id, accountId }: DateRow,
): Promise<Pick<Answer<typeof getDate>, "people" | "privateLists">> {
  if (accountId !== caller.id) return { people: [], privateLists: [] };
  const { people, onLists } = await listOthers(db, id);
  if (people.length === 0 && onLists.length === 0) return { people: [], privateLists: [] };
  const known = await knownPeople(db, caller);
  return {
    people: people.flatMap((id) => {
      const person = known.people.get(id);
      return person === undefined ? [] : [{ id, name: nameOf(person) }];
    }),
    privateLists: [...new Map(onLists.map((list) => [list.id, list.name]))].map(([list, name]) => ({
      id: list,
      name,
    })),
  };
}

/** The times of a date that aren't over. */
export function coming({ when: first, repeat, changes }: DateRow, now: Date): Occurrence[] {
  return occurrences({ when: first, repeat, changes }).filter(({ when }) =>
    when.allDay
      ? when.until >= now.toISOString().slice(0, 10)
      : instantOf(when.until, when.zone) >= now,
  );
}

/** Returns when something is as the contract has it. */
export function shown(when: When): DateWhen {
  const { from, until } = when;
  return when.allDay ? { allDay: true, from, until } : { allDay: false, from, until };
}

function count(
  guests: readonly (Parameters<typeof familyAnswer>[0][number] & {
    address: string;
    family: string;
    people: number;
  })[],
): DateCounts {
  const answers = [...byFamily(guests).values()].map(familyAnswer);
  const of = (wanted: FamilyAnswer | null): number =>
    answers.filter((answer) => answer === wanted).length;
  const seated = guests.filter(({ answer, isWaiting }) => answer === "yes" && !isWaiting);
  return {
    yes: of("yes"),
    maybe: of("maybe"),
    no: of("no"),
    silent: of(null),
    waiting: of("waiting"),
    people: seated.reduce((sum, { people }) => sum + people, 0),
    addresses: guests.length,
  };
}
