import { sql, type SQL } from "drizzle-orm";
import type { KeptKind } from "@amigo/core/retention/kept";

/** What of one kind is over its time, and how it is removed. */
interface OverTime {
  /** A query for the ids of what is over; it has one column, `id`. */
  find: (days: number) => SQL;
  /** Statements that remove what is in the temporary table `over_time (id)`, in their order. */
  remove: (days: number) => readonly SQL[];
}

const before = (days: number): SQL => sql`now() - make_interval(days => ${days})`;
const IDS = sql`(select id::uuid from over_time)`;
const NUMBERS = sql`(select id::bigint from over_time)`;
const PAST = sql`(select id from season where not current)`;
/** Seasons in the temporary table, with what belongs to them. */
const SEASONS = sql`(select id::int from over_time)`;
const THEIR_READINGS = sql`(select reading.id from reading join source on source.id = reading.source_id where source.season_id in ${SEASONS})`;

/** That a reading still has its file or rows. What was counted of it stays. */
const hasFile = sql`(length(reading.file) > 0 or exists (select 1 from reading_row where reading_row.reading_id = reading.id) or exists (select 1 from reading_shared where reading_shared.reading_id = reading.id))`;

/** An import's rows are shared by older ones only, which are emptied with it. */
const emptyReadings = (readings: SQL): SQL[] => [
  sql`delete from reading_shared where reading_id in ${readings}`,
  sql`delete from reading_row where reading_id in ${readings}`,
  sql`update reading_fault set written = '', proposal = null, sentence = '', why = '' where reading_id in ${readings}`,
  sql`update reading set file = ''::bytea where id in ${readings}`,
];

/** The kinds with a way of their own to be removed; posts have another, as their copies may still be on their way. */
export const OVER_TIME: Record<Exclude<KeptKind, "posts">, OverTime> = {
  deliveries: {
    find: (days) =>
      sql`select id from delivery where created_at < ${before(days)} and address not like 'removed-%' and state not in ('queued', 'sending', 'deferred')`,
    remove: (days) => [
      // Their lines stay, as they say whether a copy can be tried again.
      sql`update bounce set address = 'removed', words = '' where delivery_id in ${NUMBERS} or at < ${before(days)}`,
      sql`update digest_item set address = 'removed-' || gen_random_uuid() where sent_at < ${before(days)} and address not like 'removed-%'`,
      sql`update delivery set address = 'removed-' || id, token = gen_random_uuid()::text, reply = '', fields = null where id in ${NUMBERS}`,
    ],
  },
  imports: {
    find: (days) =>
      sql`select reading.id from reading where reading.read_at < ${before(days)} and ${hasFile} and reading.number < (select max(newer.number) from reading as newer where newer.source_id = reading.source_id)`,
    remove: () => emptyReadings(IDS),
  },
  answers: {
    find: (days) =>
      sql`select form_answer.id from form_answer join form on form.id = form_answer.form_id join source on source.id = form.source_id where form_answer.at < ${before(days)} and (form_answer.state in ('unconfirmed', 'refused', 'replaced') or source.season_id in ${PAST})`,
    remove: () => [sql`delete from form_answer where id in ${IDS}`],
  },
  additions: {
    find: (days) =>
      sql`select intake_row.id from intake_row join intake on intake.id = intake_row.intake_id where coalesce(intake_row.removed_at, intake_row.outcome_at, intake_row.at) < ${before(days)} and (intake_row.removed_at is not null or intake_row.outcome in ('refused', 'ended') or intake.season_id in ${PAST})`,
    remove: () => [sql`delete from intake_row where id in ${IDS}`],
  },
  dates: {
    find: (days) =>
      sql`select calendar_date.id from calendar_date where calendar_date.last_at < ${before(days)} and (exists (select 1 from calendar_guest where calendar_guest.date_id = calendar_date.id) or exists (select 1 from calendar_date_person where calendar_date_person.date_id = calendar_date.id))`,
    remove: () => [
      sql`delete from calendar_guest where date_id in ${IDS}`,
      sql`delete from calendar_date_person where date_id in ${IDS}`,
    ],
  },
  openings: {
    find: (days) =>
      sql`select distinct thing_id as id from shelf_opening where last_at < ${before(days)}`,
    remove: (days) => [
      sql`delete from shelf_opening where thing_id in ${IDS} and last_at < ${before(days)}`,
    ],
  },
  seasons: {
    find: (days) =>
      sql`select season.id from season where not season.current and season.over_on < (${before(days)})::date and exists (select 1 from fact where fact.season_id = season.id)`,
    remove: () => [
      sql`delete from cause where round in (select number from round where season_id in ${SEASONS})`,
      sql`update round set left_alone = '{}' where season_id in ${SEASONS}`,
      sql`delete from form_code where form_id in (select form.id from form join source on source.id = form.source_id where source.season_id in ${SEASONS})`,
      sql`delete from membership where list_id in (select id from list where season_id in ${SEASONS} and closed_at is not null)`,
      ...emptyReadings(THEIR_READINGS),
      sql`delete from posted_answer where source_id in (select id from source where season_id in ${SEASONS})`,
      sql`delete from correction where source_id in (select id from source where season_id in ${SEASONS})`,
      sql`delete from question where season_id in ${SEASONS}`,
      sql`delete from by_hand where season_id in ${SEASONS}`,
      sql`delete from fact where season_id in ${SEASONS}`,
      sql`delete from fact_change where season_id in ${SEASONS}`,
      sql`update season set version = version + 1 where id in ${SEASONS}`,
    ],
  },
  journal: {
    find: (days) => sql`select id from journal where at < ${before(days)}`,
    remove: () => [sql`delete from journal where id in ${NUMBERS}`],
  },
};
