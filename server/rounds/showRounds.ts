import type { getCauses, getChoices, getOutline } from "@amigo/contract/causes";
import type { getOpenRound, getRound, getRounds, RoundPage } from "@amigo/contract/rounds";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { existingLists } from "../membership/existingLists";
import { classesJoined } from "./classesJoined";
import { outlineOf } from "./outline";
import { plannedNames } from "./plannedNames";
import { listDone, findShownRound, listSourcesOf, listSourceNames } from "./queries";
import { findOpenRound } from "../change/roundQueries";
import {
  countAllCauses,
  countCauses,
  isReadByClass,
  listCauseTraits,
  listShownCauses,
  listTouchedKeys,
} from "./causeQueries";

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

/** Returns what the causes of a round can be chosen by. */
export async function showChoices(
  { db }: Context,
  { params: { number } }: Request<typeof getChoices>,
): Promise<Answer<typeof getChoices>> {
  const found = await findShownRound(db, number);
  if (found === undefined) throw notFound("round");
  const { kinds, groups, sources } = await listCauseTraits(db, number);
  const existing = await existingLists(db, found.seasonId);
  const planned = await plannedNames(db, { seasonId: found.seasonId, round: number });
  const named = new Map((await listSourceNames(db)).map(({ id, name }) => [id, name]));
  const { rows } = await listTouchedKeys(db, number);
  return {
    lists: Object.fromEntries(
      rows.map(({ key }) => [key, existing.get(key)?.title ?? planned.get(key) ?? key]),
    ),
    groups,
    kinds,
    sources: sources.flatMap((id) => named.get(id) ?? []),
  };
}

/** Returns the causes of a round by section and class, counted. */
export async function showOutline(
  { db }: Context,
  { params: { number }, query }: Request<typeof getOutline>,
): Promise<Answer<typeof getOutline>> {
  const found = await findShownRound(db, number);
  if (found === undefined) throw notFound("round");
  const isByClass = await isReadByClass(db, number);
  const isWhole = Object.values(query).every((value) => value === undefined);
  return outlineOf(
    await countCauses(db, { ...query, number }),
    isByClass,
    isByClass && isWhole ? await classesJoined(db, found.seasonId, number) : new Map(),
  );
}

/** Returns a page of the causes of a round. */
export async function listCausesOf(
  { db }: Context,
  { params: { number }, query: { after, limit, ...choice } }: Request<typeof getCauses>,
): Promise<Answer<typeof getCauses>> {
  if ((await findShownRound(db, number)) === undefined) throw notFound("round");
  const rows = await listShownCauses(db, { ...choice, number }, after, limit + 1);
  const causes = rows.slice(0, limit);
  return { causes, next: rows.length > limit ? (causes.at(-1)?.position ?? null) : null };
}

async function loadRound(db: Queries, number: number): Promise<RoundPage | undefined> {
  const found = await findShownRound(db, number);
  if (found === undefined) return undefined;
  const sources = found.readings.length === 0 ? [] : await listSourcesOf(db, found.readings);
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
    causes: await countAllCauses(db, number),
    takesBack: found.takesBack,
    takenBackBy: found.takenBackBy,
    leftAlone: found.leftAlone,
  };
}
