import { alphabetical } from "../db/alphabetical";
import { type Refused, noSuch } from "../refused";
import { whenInWords } from "./whenInWords";
import { and, asc, eq, inArray, isNull, or, sql, type SQL } from "drizzle-orm";
import { said } from "@amigo/language/say";
import { findTarget, type Target } from "@amigo/core/intake/findTarget";
import type { IntakeContent } from "@amigo/core/intake/intake";
import { readIntakeRow, type IntakeReads } from "@amigo/core/intake/readIntakeRow";
import { isInside } from "@amigo/core/address/isInside";
import { readAddress } from "@amigo/core/address/readAddress";
import { dayIn } from "@amigo/core/schedule/dayIn";
import type { IntakeLine, IntakePage, IntakeRow } from "@amigo/contract/intakes";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { changeableBy } from "../membership/scope";
import { dayWriter } from "./dayWriter";
import { t } from "../texts/t";
import { house, season } from "../db/schema/house";
import { account } from "../db/schema/accounts";
import { cohort, list, greeting } from "../db/schema/lists";
import { intake, intakePerson, intakeRow } from "../db/schema/intakes";
import { watch } from "../db/schema/notes";
import { knownDomains } from "../membership/addressQueries";
import { insideDomains } from "../db/insideDomains";

export type LoadedIntake = Exclude<Awaited<ReturnType<typeof loadIntake>>, Refused>;

/** The intakes that somebody sees, as a condition on `intake`: all for a coordinator, else those that they have made, fill or approve. */
export function intakesOf(caller: Caller): SQL {
  if (caller.role === "coordinator") return sql`true`;
  return sql`(${eq(intake.accountId, caller.id)} or exists (select 1 from ${intakePerson} where ${intakePerson.intakeId} = ${intake.id} and ${intakePerson.accountId} = ${caller.id}))`;
}

/** An intake as somebody sees it, with what they may do there; else a refusal that does not tell whether it exists. */
export async function loadIntake(db: Queries, id: string, caller: Caller) {
  const [found] = await db
    .select({
      id: intake.id,
      seasonId: intake.seasonId,
      name: intake.name,
      content: intake.content,
      version: intake.version,
      accountId: intake.accountId,
      by: account.name,
      role: intakePerson.role,
    })
    .from(intake)
    .innerJoin(account, eq(account.id, intake.accountId))
    .innerJoin(season, and(eq(season.id, intake.seasonId), eq(season.current, true)))
    .leftJoin(
      intakePerson,
      and(eq(intakePerson.intakeId, intake.id), eq(intakePerson.accountId, caller.id)),
    )
    .where(and(eq(intake.id, id), intakesOf(caller)));
  if (found === undefined) return noSuch("intake");
  const leads =
    caller.role === "coordinator" || found.accountId === caller.id || found.role === "lead";
  return { ...found, may: { change: leads && caller.role !== "helper", approve: leads } };
}

/** The open lists of the season, or those of them that are named. */
export async function targetsOf(
  db: Queries,
  seasonId: number,
  lists: readonly string[],
  where?: SQL,
): Promise<Target[]> {
  const rows = await db
    .select({
      id: list.id,
      title: list.title,
      name: list.name,
      domain: house.listDomain,
      short: list.short,
      cohort: cohort.name,
      kind: list.kind,
    })
    .from(list)
    .innerJoin(house, sql`true`)
    .leftJoin(cohort, eq(cohort.id, list.cohortId))
    .where(
      and(
        eq(list.seasonId, seasonId),
        isNull(list.closedAt),
        lists.length === 0 ? undefined : inArray(list.id, [...lists]),
        where,
      ),
    )
    .orderBy(alphabetical(list.title));
  return rows.map(({ domain, cohort: eachCohort, ...row }) => ({
    ...row,
    address: `${row.name}@${domain}`,
    cohort: eachCohort ?? "",
  }));
}

/** By what the rows of an intake are read. */
export async function readsOf(
  db: Queries,
  { seasonId, content }: { seasonId: number; content: IntakeContent },
  now = new Date(),
): Promise<IntakeReads> {
  const [found] = await db.select({ timeZone: house.timeZone }).from(house);
  return {
    targets: await targetsOf(db, seasonId, content.lists),
    insideDomains: await insideDomains(db),
    known: await knownDomains(db, seasonId),
    today: dayIn(found?.timeZone ?? "UTC", now),
  };
}

/** The lists onto which somebody may put people who stand in an intake. */
export async function approvableBy(
  db: Queries,
  caller: Caller,
  seasonId: number,
): Promise<ReadonlySet<string>> {
  const byRoster = caller.role === "staff" ? sql`${list.rules}->>'joining' <> 'roster'` : undefined;
  return new Set(
    (
      await db
        .select({ id: list.id })
        .from(list)
        .where(
          and(eq(list.seasonId, seasonId), isNull(list.closedAt), changeableBy(caller), byRoster),
        )
    ).map(({ id }) => id),
  );
}

/** The intakes that somebody sees, with their counts. */
export async function intakeLines(db: Queries, caller: Caller): Promise<IntakeLine[]> {
  const count = (condition: SQL): SQL<number> =>
    sql<number>`count(*) filter (where ${intakeRow.removedAt} is null and ${condition})`.mapWith(
      Number,
    );
  const rows = await db
    .select({
      id: intake.id,
      name: intake.name,
      content: intake.content,
      by: account.name,
      rows: count(sql`${intakeRow.id} is not null`),
      toApprove: count(sql`${intakeRow.approvedAt} is null and ${intakeRow.outcome} = ''`),
      added: count(
        sql`(${intakeRow.outcome} = 'added' or (${intakeRow.outcome} in ('asked', 'waiting') and exists (select 1 from membership where membership.list_id = ${intakeRow.listId} and membership.address = ${intakeRow.address} and membership.valid_until is null)))`,
      ),
    })
    .from(intake)
    .innerJoin(season, and(eq(season.id, intake.seasonId), eq(season.current, true)))
    .innerJoin(account, eq(account.id, intake.accountId))
    .leftJoin(intakeRow, eq(intakeRow.intakeId, intake.id))
    .where(intakesOf(caller))
    .groupBy(intake.id, account.name)
    .orderBy(alphabetical(intake.name));
  return rows.map(({ content, ...row }) => ({ ...row, when: whenInWords(content) }));
}

/** A whole intake as somebody sees it. */
export async function intakePage(
  db: Queries,
  found: LoadedIntake,
  caller: Caller,
): Promise<IntakePage> {
  const reads = await readsOf(db, found);
  const mine = found.may.approve
    ? await approvableBy(db, caller, found.seasonId)
    : new Set<string>();
  const people = await db
    .select({ account: account.id, name: account.name, role: intakePerson.role })
    .from(intakePerson)
    .innerJoin(account, eq(account.id, intakePerson.accountId))
    .where(eq(intakePerson.intakeId, found.id))
    .orderBy(alphabetical(account.name));
  const rows = await db
    .select()
    .from(intakeRow)
    .where(and(eq(intakeRow.intakeId, found.id), isNull(intakeRow.removedAt)))
    .orderBy(asc(intakeRow.number));
  const answered = await answersOf(db, rows);
  const [watched] = await db
    .select({ about: watch.about })
    .from(watch)
    .where(
      and(eq(watch.accountId, caller.id), eq(watch.what, "intake"), eq(watch.about, found.id)),
    );
  return {
    id: found.id,
    name: found.name,
    by: found.by,
    version: found.version,
    content: found.content,
    people,
    targets: [...reads.targets],
    when: whenInWords(found.content),
    insideDomains: reads.insideDomains,
    watching: watched !== undefined,
    may: found.may,
    rows: rows.map((row): IntakeRow => {
      const read =
        row.outcome === "" || row.outcome === "refused"
          ? readIntakeRow(row.cells, reads)
          : undefined;
      const target = targetOf(row, reads);
      return {
        id: row.id,
        number: row.number,
        version: row.version,
        cells: row.cells,
        by: row.by,
        at: row.at.toISOString(),
        faults: read?.ok === false ? said(read.faults) : [],
        approvedBy: row.approvedBy,
        outcomeAt: row.outcomeAt?.toISOString() ?? null,
        mayApprove: found.may.approve && (target === undefined || mine.has(target)),
        outcome: row.outcome,
        sentence: row.sentence,
        ...answered.get(row.id),
      };
    }),
  };
}

/** The list that a row names, as far as that can be told. */
export function targetOf(
  { cells }: Pick<typeof intakeRow.$inferSelect, "cells">,
  { targets, insideDomains, known }: IntakeReads,
): string | undefined {
  const read = readAddress(cells.address, known);
  const found = findTarget(
    cells.to,
    targets,
    read.answer !== "unusable" && isInside(read.address, insideDomains),
  );
  return found.ok ? found.target.id : undefined;
}

/** What became since of rows that waited for somebody's yes: the person's own, or a lead's. */
async function answersOf(
  db: Queries,
  rows: readonly (typeof intakeRow.$inferSelect)[],
): Promise<Map<string, Pick<IntakeRow, "outcome" | "sentence">>> {
  const waiting = rows.filter(({ outcome }) => outcome === "asked" || outcome === "waiting");
  if (waiting.length === 0) return new Map();
  const answers = await db
    .select({
      listId: greeting.listId,
      address: greeting.address,
      kind: greeting.kind,
      answer: greeting.answer,
      at: greeting.answeredAt,
    })
    .from(greeting)
    .where(
      and(
        or(eq(greeting.kind, "ask"), eq(greeting.kind, "agree")),
        inArray(
          greeting.address,
          waiting.map(({ address }) => address),
        ),
        sql`${greeting.answer} is not null`,
      ),
    )
    .orderBy(asc(greeting.at));
  const dayOf = await dayWriter(db);
  return new Map(
    waiting.flatMap(({ id, listId, address, outcome }) => {
      const said = answers.findLast(
        (answer) =>
          answer.listId === listId &&
          answer.address === address &&
          answer.kind === (outcome === "asked" ? "ask" : "agree"),
      );
      if (said === undefined) return [];
      const at = said.at === null ? null : dayOf(said.at);
      return [
        [
          id,
          said.answer === "yes"
            ? {
                outcome: "added" as const,
                sentence:
                  outcome === "asked"
                    ? t("intakes.saidYesAndIsOn", { at })
                    : t("intakes.aLeadAgreedOnThe", { at }),
              }
            : {
                outcome: "refused" as const,
                sentence:
                  outcome === "asked"
                    ? t("intakes.theQuestionWasWithdrawn", { at })
                    : t("intakes.aLeadDidNotAgree", { at }),
              },
        ] as const,
      ];
    }),
  );
}
