import { and, eq, isNull, sql, type SQL } from "drizzle-orm";
import { formIsOpen, wordsIn, type FormContent } from "@amigo/core/forms/form";
import type { FormChoices } from "@amigo/core/forms/readAnswer";
import type { FormLine, FormPage } from "@amigo/contract/forms";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { changeableBy } from "../membership/scope";
import { house, season } from "../db/schema/house";
import { account } from "../db/schema/accounts";
import { source } from "../db/schema/sources";
import { cohort, list } from "../db/schema/lists";
import { form, formAnswer, type ConsentVersion } from "../db/schema/forms";
import { nextConsents } from "./nextConsents";
import { modeFor } from "./modeFor";

export type LoadedForm = Awaited<ReturnType<typeof loadForms>>[number];

/** Today in the house's time zone, as a calendar date. */
export const TODAY = sql<string>`to_char(now() at time zone ${house.timeZone}, 'YYYY-MM-DD')`;

const columns = {
  id: form.id,
  source: form.sourceId,
  slug: form.slug,
  version: form.version,
  content: form.content,
  consents: form.consents,
  by: account.name,
  mode: source.mode,
  seasonId: source.seasonId,
  current: season.current,
  house: house.name,
  listDomain: house.listDomain,
  timeZone: house.timeZone,
  today: TODAY,
};

/** The forms that somebody sees and looks after, as a condition on `form`: all for a coordinator, else those that they have made. */
export function formsOf(caller: Caller): SQL {
  return caller.role === "coordinator" ? sql`true` : eq(form.accountId, caller.id);
}

/** Forms with what belongs to them, by a condition. */
export async function loadForms(db: Queries, where: SQL | undefined) {
  return db
    .select(columns)
    .from(form)
    .innerJoin(source, eq(source.id, form.sourceId))
    .innerJoin(season, eq(season.id, source.seasonId))
    .innerJoin(account, eq(account.id, form.accountId))
    .innerJoin(house, sql`true`)
    .where(where)
    .orderBy(sql`${form.createdAt} desc`);
}

/** Whether a form can be filled in now: one of a season that is over can't. */
export function isOpen({
  content,
  today,
  current,
}: Pick<LoadedForm, "content" | "today" | "current">): FormLine["is"] {
  return current ? formIsOpen(content, today) : "over";
}

/** The version of the consent that families agree to now; 0 where a form asks for none. */
export function consentOf({ content, consents }: Pick<LoadedForm, "content" | "consents">): number {
  return content.parts.includes("consent") ? (consents.at(-1)?.version ?? 0) : 0;
}

/** A form in one line, with the counts of its answers. */
export async function formLines(
  db: Queries,
  forms: readonly LoadedForm[],
  url: string,
): Promise<FormLine[]> {
  const { rows } =
    forms.length === 0
      ? { rows: [] }
      : await db.execute<{ form_id: string; state: string; count: number }>(
          sql`select form_id, state, count(*)::int as count from ${formAnswer} where form_id in (select id::uuid from json_array_elements_text(${JSON.stringify(forms.map(({ id }) => id))}::json) as own(id)) group by form_id, state`,
        );
  return forms.map((form) => {
    const count = (...states: string[]): number =>
      rows
        .filter(({ form_id: id, state }) => id === form.id && states.includes(state))
        .reduce((sum, row) => sum + row.count, 0);
    return {
      id: form.id,
      source: form.source,
      title: wordsIn(form.content, "").title,
      url: `${url}/f/${form.slug}`,
      by: form.by,
      is: isOpen(form),
      opensOn: form.content.opensOn,
      closesOn: form.content.closesOn,
      counts: {
        unconfirmed: count("unconfirmed"),
        accepted: count("accepted"),
        waiting: count("asked", "held"),
        refused: count("refused"),
      },
    };
  });
}

/** The classes and teams of the current season that somebody may offer on a form: all for a coordinator, else those of the lists that they lead. */
export async function cohortsFor(db: Queries, caller: Caller): Promise<FormPage["choices"]> {
  const led =
    caller.role === "coordinator"
      ? sql`true`
      : sql`${cohort.id} in (select ${list.cohortId} from ${list} where ${changeableBy(caller)})`;
  const rows = await db
    .select({
      key: cohort.key,
      name: cohort.name,
      site: sql<string>`coalesce((select site.name from site where site.id = ${cohort.siteId}), '')`,
      kind: cohort.kind,
    })
    .from(cohort)
    .innerJoin(season, and(eq(season.id, cohort.seasonId), eq(season.current, true)))
    .where(and(led, isNull(cohort.goneAt)))
    .orderBy(cohort.name);
  return rows.flatMap(({ kind, ...row }) =>
    kind === "class" || kind === "team" ? [{ ...row, kind }] : [],
  );
}

/** The names of classes and teams that a form offers now. */
export async function choicesOf(
  db: Queries,
  { seasonId, content }: Pick<LoadedForm, "seasonId" | "content">,
): Promise<FormChoices> {
  const rows = await db
    .select({ key: cohort.key, name: cohort.name, kind: cohort.kind })
    .from(cohort)
    .where(and(eq(cohort.seasonId, seasonId), isNull(cohort.goneAt)))
    .orderBy(cohort.name);
  const offered = offeredOf(content);
  const of = (kind: string): string[] =>
    rows
      .filter((row) => row.kind === kind && (offered === undefined || offered.has(row.key)))
      .map(({ name }) => name);
  return { classes: of("class"), teams: of("team") };
}

/** The keys that a form offers; undefined for all. */
export function offeredOf({
  cohorts,
}: Pick<FormContent, "cohorts">): ReadonlySet<string> | undefined {
  return cohorts.length === 0 ? undefined : new Set(cohorts);
}

/** Stores what a form is, and returns its new version; none where somebody changed it meanwhile. */
export function changeFormContent(
  db: Queries,
  slug: string,
  content: FormContent,
  version: number,
  consents: ConsentVersion[],
  id: string,
) {
  return db
    .update(form)
    .set({
      slug,
      content,
      consents: nextConsents(consents, content),
      version: version + 1,
    })
    .where(and(eq(form.id, id), eq(form.version, version)))
    .returning({ version: form.version });
}

/** Gives the source of a form its name and how it is read. */
export function renameSource(
  db: Queries,
  name: string,
  caller: Caller,
  wantedMode: "ask" | "itself",
  mode: "ask" | "itself",
  id: string,
) {
  return db
    .update(source)
    .set({ name, mode: modeFor(caller, wantedMode, mode) })
    .where(eq(source.id, id));
}

/** Makes the source of a form, and returns its id; undefined where one has its name. */
export async function storeFormSource(
  db: Queries,
  name: string,
  seasonId: number,
  caller: Caller,
  mode: "ask" | "itself",
) {
  const [found] = await db
    .insert(source)
    .values({
      name,
      kind: "form",
      whole: false,
      seasonId,
      mode: modeFor(caller, mode, "ask"),
    })
    .onConflictDoNothing()
    .returning({ id: source.id });
  return found;
}

/** Makes a form, and returns its id; undefined where its short address is taken. */
export async function storeForm(
  db: Queries,
  sourceId: string,
  slug: string,
  content: FormContent,
  accountId: string,
) {
  const [found] = await db
    .insert(form)
    .values({
      sourceId,
      slug,
      content,
      consents: nextConsents([], content),
      accountId,
    })
    .onConflictDoNothing()
    .returning({ id: form.id });
  return found;
}

/** Returns the form with an id, or undefined. */
export async function findForm(db: Queries, id: string): Promise<LoadedForm | undefined> {
  const [found] = await loadForms(db, eq(form.id, id));
  return found;
}

/** Returns the form with a short address, or undefined. */
export async function findFormBySlug(db: Queries, slug: string): Promise<LoadedForm | undefined> {
  const [found] = await loadForms(db, eq(form.slug, slug));
  return found;
}
