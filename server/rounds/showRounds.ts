import type { getRounds, getOpenRound, getRound, RoundPage } from "@amigo/contract/rounds";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { existingLists } from "../membership/existingLists";
import { classesJoined } from "./classesJoined";
import { plannedNames } from "./plannedNames";
import { listDone, findShownRound, listSourcesOf, listSourceNames } from "./queries";
import { findOpenRound } from "../change/roundQueries";
import { listShownCauses } from "./causeQueries";

/** Returns rounds, newest first. */
export async function listRounds(
  { db }: Context,
  { query }: Request<typeof getRounds>,
): Promise<Answer<typeof getRounds>> {
  const rows = await listDone(db, query.before);
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

/** Returns the open round, or null. */
export async function showOpenRound({ db }: Context): Promise<Answer<typeof getOpenRound>> {
  const open = await findOpenRound(db);
  return open === undefined ? null : ((await loadRound(db, open.number)) ?? null);
}

/** Returns one round by its number. */
export async function showRound(
  { db }: Context,
  { params }: Request<typeof getRound>,
): Promise<Answer<typeof getRound>> {
  const found = await loadRound(db, params.number);
  if (found === undefined) throw notFound("round");
  return found;
}

async function loadRound(db: Queries, number: number): Promise<RoundPage | undefined> {
  const found = await findShownRound(db, number);
  if (found === undefined) return undefined;
  const sources = found.readings.length === 0 ? [] : await listSourcesOf(db, found.readings);
  const causes = await listShownCauses(db, number);
  const named = new Map((await listSourceNames(db)).map(({ id, name }) => [id, name]));
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
    causes: causes.map((cause) => ({
      ...cause,
      lists: cause.listKeys.length,
      sources: cause.sources.flatMap((id) => named.get(id) ?? []),
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
