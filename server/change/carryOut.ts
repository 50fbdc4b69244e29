import { message } from "@amigo/language/message";
import { say } from "@amigo/language/say";
import type { CohortValue } from "@amigo/core/facts/cohort";
import { factKey, type Facts } from "@amigo/core/facts/fact";
import { changeable } from "@amigo/core/facts/layeredMap";
import type { FactDifference } from "@amigo/core/facts/factDifference";
import { indexFrom, shareIndexWith } from "@amigo/core/facts/indexFacts";
import type { FactIndex, Person } from "@amigo/core/facts/factIndex";
import { wantedLists } from "@amigo/core/lists/sharedWanted";
import { whoLeads } from "@amigo/core/lists/whoLeads";
import { proposeSiteCode } from "@amigo/core/naming/shortForm";
import { dayIn } from "@amigo/core/schedule/dayIn";
import { staffId } from "@amigo/core/facts/subjects";
import { isOfGone } from "@amigo/core/step/goneLists";
import { KEPT } from "@amigo/core/step/listMembers";
import { listsTouched } from "@amigo/core/step/listsTouched";
import { membersAsNeeded } from "@amigo/core/step/membersAsNeeded";
import type { Queries } from "../db/connect";
import { storeFacts } from "../facts/queries";
import { expectFacts } from "../facts/standing";
import { record, type JournalEntry } from "../events/record";
import { existingLists } from "../membership/existingLists";
import { askFirst, welcome } from "../membership/greet";
import { houseNaming, withNames } from "../membership/nameWanted";
import { storeLists, type WantedHouse } from "./storeLists";
import { loadHouse, listSites } from "../db/houseQueries";
import {
  storeSite,
  storeCohortRows,
  markCohortsGone,
  listOpenKeys,
  removeOtherRoles,
  storeRoles,
} from "./carryOutQueries";
import { listMembersOf, moveMemberships, type Beginning } from "./membershipQueries";
import { listNames } from "../accounts/queries";

/** Who does something: an account, or a source that keeps itself. */
export interface Actor {
  id: string | null;
  name: string;
}

/** What was done to the lists. */
export interface CarriedOut {
  lists: number;
  listsMade: number;
  listsClosed: number;
  joins: number;
  leaves: number;
}

/**
 * Takes the house from the facts as they stand to others: facts, classes, sites, lists, leads and memberships,
 * each list's change journalled. Call it in a transaction that holds the lock of rounds.
 *
 * @param words how the journal speaks of it: `Round 12`
 */
export async function carryOut(
  tx: Queries,
  actor: Actor,
  of: { round: number; seasonId: number; words: () => string },
  stand: Facts,
  after: Facts,
): Promise<CarriedOut> {
  const settings = await loadHouse(tx);
  const today = dayIn(settings?.timeZone ?? "UTC", new Date());
  const unnamed = indexFrom(stand, after);
  await storeSites(tx, unnamed.cohorts);
  const named = withNames(after, unnamed, await houseNaming(tx, of.seasonId, today));
  const index = indexFrom(after, named);
  const difference = await storeFacts(tx, of.seasonId, of.round, stand, named);
  const stored = asStored(stand, difference);
  shareIndexWith(stored, named);
  await expectFacts(tx, of.seasonId, stored);
  await storeCohorts(tx, of.seasonId, difference);
  const plan = { index, wanted: wantedLists(index), touched: listsTouched(stand, named) };
  const openBefore = await listOpenKeys(tx, of.seasonId);
  const { made: listsMade, closed: listsClosed } = await storeLists(tx, of.seasonId, plan, today);
  await storeLeads(tx, of.seasonId, plan);
  const { joins, leaves, changed } = await storeMembers(
    tx,
    actor,
    { number: of.round, seasonId: of.seasonId },
    plan,
    new Set(openBefore.map(({ key }) => key)),
  );
  const entries = [...changed].map(([listId, { joined, left }]): JournalEntry => ({
    actorId: actor.id,
    actor: actor.name,
    action: "members",
    listId,
    sentence: () =>
      `${of.words()}: ${say(message("mail.joinedLeft", { joined: joined.length, left: left.length }))}`,
    before: { left },
    after: { joined },
  }));
  for (let at = 0; at < entries.length; at += 500) await record(tx, ...entries.slice(at, at + 500));
  return { lists: changed.size, listsMade, listsClosed, joins, leaves };
}

/** The facts as they stand in the database after a change: what says the same as before keeps where it comes from. */
function asStored(stand: Facts, { added, removed }: FactDifference): Facts {
  const facts = changeable(stand, added.length + removed.length);
  for (const fact of removed) facts.delete(factKey(fact));
  for (const fact of added) facts.set(factKey(fact), fact);
  return facts;
}

/** Writes down the sites that classes name and that are new, each with a code of its own. */
async function storeSites(tx: Queries, cohorts: ReadonlyMap<string, CohortValue>): Promise<void> {
  const sites = new Map((await listSites(tx)).map((row) => [row.name, row]));
  for (const { site: name } of cohorts.values()) {
    if (name === "" || sites.has(name)) continue;
    const codes = new Set([...sites.values()].map(({ code }) => code));
    const base = proposeSiteCode(name) || "S";
    let code = base;
    for (let turn = 2; codes.has(code); turn++) code = `${base}${turn}`;
    const made = await storeSite(tx, name, code);
    if (made !== undefined) sites.set(name, made);
  }
}

/** Writes down the classes and teams that change, as the facts now have them. */
async function storeCohorts(
  tx: Queries,
  seasonId: number,
  { added, removed }: FactDifference,
): Promise<void> {
  const sites = new Map((await listSites(tx)).map((row) => [row.name, row]));
  const rows = added.flatMap((fact) => {
    if (fact.kind !== "cohort") return [];
    const { kind, name, site, coach } = fact.value;
    const siteId = sites.get(site)?.id ?? null;
    return [{ seasonId, key: fact.subject, kind, name, siteId, coach, goneAt: null }];
  });
  if (rows.length > 0) await storeCohortRows(tx, rows);
  const there = new Set(rows.map(({ key }) => key));
  const gone = removed.flatMap(({ kind, subject }) =>
    kind === "cohort" && !there.has(subject) ? [subject] : [],
  );
  if (gone.length > 0) await markCohortsGone(tx, seasonId, gone);
}

/** Stores who leads and helps the lists, of those whose account is in force. */
async function storeLeads(
  tx: Queries,
  seasonId: number,
  { index, wanted }: WantedHouse,
): Promise<void> {
  const accounts = new Map((await listNames(tx)).map(({ id }) => [staffId(id), id]));
  const whoRuns = whoLeads(index);
  const lists = await listOpenKeys(tx, seasonId);
  const leads = lists.flatMap(({ id, key }) => {
    const found = wanted.get(key);
    if (found === undefined) return [];
    const running = whoRuns(found);
    const rows = (people: readonly Person[], r: "lead" | "helper") =>
      people.flatMap((person) => {
        const a = accounts.get(person.id);
        return a === undefined ? [] : [{ l: id, a, r }];
      });
    return [...rows(running.leads, "lead"), ...rows(running.helpers, "helper")];
  });
  const json = JSON.stringify(leads);
  await removeOtherRoles(tx, seasonId, json);
  if (leads.length > 0) {
    await storeRoles(tx, leads);
  }
}

/** The addresses that are always on a list, as its only members. */
function keptOnly(key: string, index: FactIndex): Map<string, Set<string>> {
  return new Map(
    [...(index.kept.get(key) ?? [])].flatMap(([address, { side }]) =>
      side === "on" ? [[address, new Set([KEPT])] as const] : [],
    ),
  );
}

/** Brings the memberships of the open lists that are touched to what the facts now want, by their difference, in two statements. */
async function storeMembers(
  tx: Queries,
  actor: Actor,
  found: { number: number; seasonId: number },
  { index, wanted: lists, touched }: WantedHouse,
  openBefore: ReadonlySet<string>,
) {
  const isTouched = (key: string): boolean => touched?.has(key) ?? true;
  const open = new Map([...lists].filter(([key, list]) => list.open && isTouched(key)));
  const all = await existingLists(tx, found.seasonId);
  const existing = new Map(
    [...all].filter(([key, existingList]) => existingList.open && open.has(key)),
  );
  const wanted = membersAsNeeded(open, index);
  // A class that is gone takes off its lists whoever isn't always on them; a list that somebody has closed keeps whom it had.
  for (const [key, value] of all) {
    if (!openBefore.has(key) || !isTouched(key) || !isOfGone(key, index)) continue;
    existing.set(key, value);
    wanted.set(key, keptOnly(key, index));
  }
  const ids = [...existing.values()].map(({ id }) => id);
  const current = ids.length === 0 ? [] : await listMembersOf(tx, ids);
  const missing = new Map(
    [...existing].map(([key, { id }]) => [id, new Map(wanted.get(key) ?? [])]),
  );
  const changed = new Map<string, { joined: string[]; left: string[] }>();
  const note = (listId: string): { joined: string[]; left: string[] } => {
    const entry = changed.get(listId) ?? { joined: [], left: [] };
    changed.set(listId, entry);
    return entry;
  };
  const ended: number[] = [];
  for (const { id, listId, address } of current) {
    if (missing.get(listId)?.delete(address) === true) continue;
    ended.push(id);
    note(listId).left.push(address);
  }
  await askFirst(
    tx,
    actor,
    new Map(
      [...existing].flatMap(([key, { id }]) =>
        open.get(key)?.adding === "ask"
          ? [[id, missing.get(id) ?? new Map<string, Set<string>>()] as const]
          : [],
      ),
    ),
  );
  const begun: Beginning[] = [];
  for (const [listId, addresses] of missing) {
    for (const [address, behind] of addresses) {
      begun.push({
        listId,
        address,
        origin: behind.size === 1 && behind.has(KEPT) ? "kept on" : "audience",
      });
      note(listId).joined.push(address);
    }
  }
  await moveMemberships(tx, found.number, { begun, ended });
  const welcoming = new Map(
    [...existing].flatMap(([key, { id }]) =>
      open.get(key)?.adding === "welcome" ? [[id, changed.get(id)?.joined ?? []] as const] : [],
    ),
  );
  for (const [listId, joined] of welcoming) await welcome(tx, listId, joined);
  return { joins: begun.length, leaves: ended.length, changed };
}
