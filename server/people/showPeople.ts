import type { getPeople, getLeft, getPerson, PersonPage } from "@amigo/contract/people";
import { becauseOf } from "@amigo/core/audience/becauseOf";
import { belongs } from "@amigo/core/audience/belongs";
import { type Fact, factKey } from "@amigo/core/facts/fact";
import { nameOf } from "@amigo/core/facts/factIndex";
import { wholeReach } from "@amigo/core/reach/reach";
import { wantedLists } from "@amigo/core/lists/sharedWanted";
import { say } from "@amigo/language/say";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { standingIndex } from "../facts/standing";
import { loadStopped } from "../membership/addressQueries";
import { notFound } from "../http/fault";
import type { Request, Answer } from "../http/handler";
import { peopleOf } from "../membership/scope";
import { evidenceOf } from "../membership/whoBelongs";
import { describeFacts } from "../facts/describeOrigins";
import { t } from "../texts/t";
import {
  leftPeople,
  indexAround,
  listCounts,
  listListsOf,
  listFactsOf,
  listKeptOf,
} from "./queries";
import { addressesAround, familyOf } from "./familyOf";
import { findFamilies } from "./findFamilies";
import { timelineOf } from "./timeline";
import { manualChangesOf } from "./manualChangesOf";
import { needCurrentSeason } from "../facts/needCurrentSeason";
import { insideDomains } from "../db/insideDomains";

/** Returns families, by any part of a name, number or address. */
export async function showPeople(
  { db }: Context,
  { query, caller }: Request<typeof getPeople>,
): Promise<Answer<typeof getPeople>> {
  const seasonId = (await needCurrentSeason(db)).id;
  const only = query.only === "unreachable" ? await unreachedIn(db, seasonId) : undefined;
  return findFamilies(db, seasonId, { ...query, only }, caller);
}

/** Returns the ids of the students of a season who can't be reached. */
async function unreachedIn(db: Queries, seasonId: number): Promise<ReadonlySet<string>> {
  const index = await standingIndex(db, seasonId);
  return new Set(wholeReach(index, await loadStopped(db)).unreached.keys());
}

/** Returns people who were in the sheets and are no longer. */
export async function showFormerMembers(
  { db }: Context,
  { query }: Request<typeof getLeft>,
): Promise<Answer<typeof getLeft>> {
  return leftPeople(db, (await needCurrentSeason(db)).id, query.q);
}

/** Returns one person: family, lists and why, timeline. */
export async function showPerson(
  { db }: Context,
  { params, caller }: Request<typeof getPerson>,
): Promise<Answer<typeof getPerson>> {
  const page = await loadPerson(db, caller, (await needCurrentSeason(db)).id, params.id);
  if (page === undefined) throw notFound("person");
  return page;
}

async function loadPerson(
  db: Queries,
  caller: Caller,
  seasonId: number,
  id: string,
): Promise<PersonPage | undefined> {
  const within = peopleOf(caller, seasonId);
  // Who is out of sight isn't in what a site coordinator is shown from.
  const index =
    within === undefined
      ? await standingIndex(db, seasonId)
      : await indexAround(db, seasonId, [id], within);
  const foundPerson = index.people.get(id);
  if (foundPerson === undefined) return undefined;
  const family = familyOf(foundPerson, {
    index,
    lists: await listCounts(db, addressesAround(index, [id])),
    insideDomains: await insideDomains(db),
    stopped: await loadStopped(db),
  });
  const person = family.people.find((one) => one.id === id);
  if (person === undefined) return undefined;
  const said = await manualChangesOf(db, caller);
  return {
    family,
    person,
    ties: [...foundPerson.ties]
      .filter(([other]) => index.people.has(other))
      .map(([other, relationship]) => ({
        id: other,
        name: nameOf(index.people.get(other)),
        relationship,
      })),
    lists: await listsOfPerson(db, caller, seasonId, id),
    byHand: said
      .filter(({ key, settled }) => settled?.subject === id || key.includes(id))
      .map(({ id: number, sentence, by, at }) => ({
        id: number,
        sentence,
        by,
        at: at.toISOString(),
      })),
    timeline: await timelineOf(db, caller, seasonId, id),
  };
}

/** The lists, of those that the asker sees, on which somebody's addresses are, and why. */
async function listsOfPerson(
  db: Queries,
  caller: Caller,
  seasonId: number,
  id: string,
): Promise<PersonPage["lists"]> {
  const index = await standingIndex(db, seasonId);
  const person = index.people.get(id);
  const addresses = [...(person?.addresses ?? [])];
  if (person === undefined || addresses.length === 0) return [];
  const lists = wantedLists(index);
  const rows = await listListsOf(db, addresses, caller);
  const evidence = (await listFactsOf(db, seasonId, id)) as Fact[];
  const kept = await listKeptOf(db, addresses);
  const where = await describeFacts(db, evidence);
  return rows.map(({ key: listKey, since, ...row }) => {
    const audience = lists.get(listKey)?.audience;
    const reason = audience === undefined ? undefined : belongs(audience, person, index);
    const by = kept.find((entry) => entry.list === listKey && entry.address === row.address)?.value;
    const because =
      reason === undefined
        ? typeof by === "object" && "side" in by
          ? t("people.keptOnBy", { by: by.by, reason: by.reason })
          : t("people.somebodyElseAtThisAddress")
        : say(becauseOf(reason, index));
    const [at] = reason === undefined ? [] : evidenceOf(id, reason);
    return {
      ...row,
      because,
      where: at === undefined ? "" : (where.get(factKey(at)) ?? ""),
      since: since.toISOString(),
    };
  });
}
