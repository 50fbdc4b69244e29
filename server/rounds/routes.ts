import { and, desc, eq, inArray, isNull, lt, sql } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import type { Hono } from "hono";
import type { Fact } from "@amigo/core/facts/fact";
import { indexFacts, nameOf } from "@amigo/core/facts/indexFacts";
import {
  getCause,
  getOpenRound,
  getRound,
  getRounds,
  getTakeBack,
  postDecisions,
  postStep,
  postTakeBack,
  type RoundPage,
} from "@amigo/contract/rounds";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { notFound } from "../http/fault";
import { route } from "../http/route";
import { evidenceOf } from "./evidence";
import { dayIn } from "@amigo/core/schedule/dayIn";
import { addToIndex } from "@amigo/core/facts/indexFacts";
import { wantedLists } from "@amigo/core/lists/wantedLists";
import { houseIndex } from "../facts/standing";
import { existingLists } from "../membership/existingLists";
import { houseNaming, nameMissing } from "../membership/nameWanted";
import { classesJoined } from "./classesJoined";
import { planTakeBack } from "./takeBack";
import { t } from "../texts/t";
import { house } from "../db/schema/house";
import { account } from "../db/schema/accounts";
import { source, reading } from "../db/schema/sources";
import { fact } from "../db/schema/people";
import { round, cause } from "../db/schema/rounds";

export function roundRoutes(app: Hono, context: Context): void {
  const { db, desk } = context;

  route(app, context, getRounds, async ({ query }) => {
    const rows = await db
      .select({ ...roundColumns, closedBy: account.name })
      .from(round)
      .leftJoin(account, eq(account.id, round.closedBy))
      .where(
        query.before === undefined
          ? eq(round.state, "done")
          : and(eq(round.state, "done"), lt(round.number, query.before)),
      )
      .orderBy(desc(round.number))
      .limit(50);
    return rows.map((row) => ({
      number: row.number,
      state: row.state,
      openedAt: row.openedAt.toISOString(),
      closedAt: row.closedAt?.toISOString() ?? null,
      closedBy: row.closedBy ?? (row.closedByName || null),
      totals: row.totals,
      takesBack: row.takesBack,
      takenBackBy: row.takenBackBy,
    }));
  });

  route(app, context, getOpenRound, async () => {
    const [open] = await db
      .select({ number: round.number })
      .from(round)
      .where(eq(round.state, "open"));
    return open === undefined ? null : ((await loadRound(db, open.number)) ?? null);
  });

  route(app, context, getRound, async ({ params }) => {
    const found = await loadRound(db, params.number);
    if (found === undefined) throw notFound("round");
    return found;
  });

  route(app, context, getCause, async ({ params }) => {
    const [found] = await db
      .select()
      .from(cause)
      .where(and(eq(cause.round, params.number), eq(cause.position, params.position)));
    const [own] = await db
      .select({ seasonId: round.seasonId })
      .from(round)
      .where(eq(round.number, params.number));
    if (found === undefined || own === undefined) throw notFound("cause");
    const stand = await factsAbout(db, own.seasonId, found.subject);
    const lists = await existingLists(db, own.seasonId);
    const planned = await plannedNames(db, { seasonId: own.seasonId, round: params.number });
    const people = await namesOf(
      db,
      found.changes.map(({ person }) => person),
      [...found.adds, ...found.removes],
    );
    return {
      position: found.position,
      kind: found.kind,
      sentence: found.sentence,
      about: aboutSubject(found, stand),
      history: found.history,
      decision: found.decision,
      evidence: await evidenceOf(db, found, stand),
      changes: found.changes.map(({ list, kind, address, instead, person }) => ({
        list: lists.get(list)?.name ?? planned.get(list) ?? list,
        listId: lists.get(list)?.id ?? null,
        kind,
        address,
        instead: instead ?? null,
        person: people.get(person) ?? "",
      })),
    };
  });

  route(app, context, getTakeBack, async ({ params }) => planTakeBack(db, params.number));

  route(app, context, postDecisions, async ({ body }) => desk.run("decide", body));

  route(app, context, postStep, async ({ body, caller, long }) =>
    desk.run("bringInStep", { actor: { id: caller.id, name: caller.name }, wanted: body }, long),
  );

  route(app, context, postTakeBack, async ({ params, body, caller, long }) =>
    desk.run(
      "takeBack",
      {
        actor: { id: caller.id, name: caller.name },
        wanted: { round: params.number, passed: body.passed },
      },
      long,
    ),
  );
}

const taking = alias(round, "taking");

const roundColumns = {
  number: round.number,
  seasonId: round.seasonId,
  state: round.state,
  version: round.version,
  openedAt: round.openedAt,
  closedAt: round.closedAt,
  totals: round.totals,
  guards: round.guards,
  readings: round.readings,
  closedByName: round.closedByName,
  takesBack: round.takesBack,
  leftAlone: round.leftAlone,
  takenBackBy: sql<
    number | null
  >`(select ${taking.number} from ${round} taking where ${taking.takesBack} = ${round.number})`,
};

async function loadRound(db: Queries, number: number): Promise<RoundPage | undefined> {
  const [found] = await db
    .select({ ...roundColumns, closedBy: account.name })
    .from(round)
    .leftJoin(account, eq(account.id, round.closedBy))
    .where(eq(round.number, number));
  if (found === undefined) return undefined;
  const sources =
    found.readings.length === 0
      ? []
      : await db
          .select({ name: source.name, readAt: reading.readAt })
          .from(reading)
          .innerJoin(source, eq(source.id, reading.sourceId))
          .where(inArray(reading.id, found.readings));
  const causes = await db
    .select({
      position: cause.position,
      kind: cause.kind,
      title: cause.title,
      detail: cause.detail,
      group: cause.group,
      unreachable: cause.unreachable,
      decision: cause.decision,
      joins: cause.joins,
      leaves: cause.leaves,
      replaced: cause.replaced,
      listKeys: cause.lists,
      sources: cause.sources,
    })
    .from(cause)
    .where(eq(cause.round, number))
    .orderBy(cause.position);
  const named = new Map(
    (await db.select({ id: source.id, name: source.name }).from(source)).map(({ id, name }) => [
      id,
      name,
    ]),
  );
  const existing = await existingLists(db, found.seasonId);
  const planned = await plannedNames(db, { seasonId: found.seasonId, round: number });
  const keys = new Set(causes.flatMap(({ listKeys }) => listKeys));
  return {
    number: found.number,
    state: found.state,
    version: found.version,
    openedAt: found.openedAt.toISOString(),
    closedAt: found.closedAt?.toISOString() ?? null,
    closedBy: found.closedBy ?? (found.closedByName || null),
    sources: sources.map(({ name, readAt }) => ({ name, readAt: readAt.toISOString() })),
    totals: found.totals,
    guards: found.guards,
    causes: causes.map((own) => ({
      ...own,
      lists: own.listKeys.length,
      sources: own.sources.flatMap((id) => named.get(id) ?? []),
    })),
    classes: await classesJoined(
      db,
      number,
      [...keys].filter((key) => !existing.has(key)),
    ),
    lists: Object.fromEntries(
      [...keys].map((key) => [key, existing.get(key)?.title ?? planned.get(key) ?? key]),
    ),
    takesBack: found.takesBack,
    takenBackBy: found.takenBackBy,
    leftAlone: found.leftAlone,
  };
}

/** The facts that stand about one person, their ties included. */
async function factsAbout(db: Queries, seasonId: number, subject: string): Promise<Fact[]> {
  const rows = await db
    .select({
      subject: fact.subject,
      kind: fact.kind,
      ref: fact.ref,
      value: fact.value,
      origin: fact.origin,
    })
    .from(fact)
    .where(and(eq(fact.seasonId, seasonId), isNull(fact.validUntil), eq(fact.subject, subject)));
  return (rows as Fact[]).sort((a, b) => (a.kind === "name" ? -1 : b.kind === "name" ? 1 : 0));
}

/** One line about whom a cause is about: the number and level of a student, the students of a guardian. */
function aboutSubject(
  found: { subject: string; adds: readonly Fact[]; removes: readonly Fact[] },
  stand: readonly Fact[],
): string {
  const index = indexFacts(
    new Map(
      [...stand, ...found.removes, ...found.adds].map((own, position) => [String(position), own]),
    ),
  );
  const person = index.people.get(found.subject);
  if (person === undefined) return "";
  if (person.role !== "student") return [...person.addresses].join(", ");
  return [
    t("rounds.student", { number: person.number }).trim(),
    person.level === "" ? "" : t("shared.level", { level: person.level }),
  ]
    .filter((part) => part !== "")
    .join(", ");
}

async function namesOf(
  db: Queries,
  ids: readonly string[],
  own: readonly Fact[],
): Promise<Map<string, string>> {
  const names = new Map<string, string>();
  const learn = (rows: readonly Pick<Fact, "subject" | "kind" | "value">[]): void => {
    for (const { subject, kind, value } of rows)
      if (kind === "name" && typeof value === "object" && "given" in value)
        names.set(subject, nameOf(value));
  };
  const wanted = [...new Set(ids)];
  if (wanted.length > 0)
    learn(
      (await db
        .select({ subject: fact.subject, kind: fact.kind, value: fact.value })
        .from(fact)
        .where(
          and(eq(fact.kind, "name"), isNull(fact.validUntil), inArray(fact.subject, wanted)),
        )) as Fact[],
    );
  learn(own);
  return names;
}

/** What the lists that this round would make will be called. */
async function plannedNames(
  db: Queries,
  found: { seasonId: number; round: number },
): Promise<Map<string, string>> {
  const rows = await db
    .select({ adds: cause.adds })
    .from(cause)
    .where(and(eq(cause.round, found.round), eq(cause.kind, "cohort")));
  const cohorts = rows.flatMap(({ adds }) => adds.filter(({ kind }) => kind === "cohort"));
  if (cohorts.length === 0) return new Map();
  // The people of the round stand in no index yet, so the lists that it makes are told by its changes.
  const touched = await db.execute<{ key: string }>(
    sql`select distinct unnest(${cause.lists}) as key from ${cause} where ${cause.round} = ${found.round}`,
  );
  const keys = new Set(touched.rows.map(({ key }) => key));
  const index = await houseIndex(db, found.seasonId);
  for (const own of cohorts) addToIndex(index, own);
  const [settings] = await db.select({ timeZone: house.timeZone }).from(house);
  const missing = nameMissing(
    wantedLists(index),
    index,
    await houseNaming(db, found.seasonId, dayIn(settings?.timeZone ?? "UTC", new Date())),
    ({ key }) => keys.has(key),
  );
  return new Map([...missing].map(([key, name]) => [key, `${name} (new)`]));
}
