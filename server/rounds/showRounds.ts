import { eq, and, lt, desc, sql, inArray } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import {
  type getRounds,
  type getOpenRound,
  type getRound,
  type RoundPage,
} from "@amigo/contract/rounds";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { account } from "../db/schema/accounts";
import { round, cause } from "../db/schema/rounds";
import { source, reading } from "../db/schema/sources";
import { notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { existingLists } from "../membership/existingLists";
import { classesJoined } from "./classesJoined";
import { plannedNames } from "./plannedNames";

export async function listRounds(
  { db }: Context,
  { query }: Request<typeof getRounds>,
): Promise<Answer<typeof getRounds>> {
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
}

export async function showOpenRound({ db }: Context): Promise<Answer<typeof getOpenRound>> {
  const [open] = await db
    .select({ number: round.number })
    .from(round)
    .where(eq(round.state, "open"));
  return open === undefined ? null : ((await loadRound(db, open.number)) ?? null);
}

export async function showRound(
  { db }: Context,
  { params }: Request<typeof getRound>,
): Promise<Answer<typeof getRound>> {
  const found = await loadRound(db, params.number);
  if (found === undefined) throw notFound("round");
  return found;
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
