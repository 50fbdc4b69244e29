import { and, eq, inArray, isNull, sql } from "drizzle-orm";
import type { CohortValue, Facts } from "@amigo/core/facts/fact";
import { indexFacts } from "@amigo/core/facts/indexFacts";
import { nameKey } from "@amigo/core/identity/sameName";
import { proposeSiteCode } from "@amigo/core/naming/shortForm";
import { splitName } from "@amigo/core/sheet/splitName";
import { KEPT, listsByCohort, membersOf } from "@amigo/core/step/listMembers";
import type { Queries } from "../db/connect";
import { copyInto, type CopyValue } from "../db/copyInto";
import { account, cohort, list, listRole, membership, season, site } from "../db/schema";
import { storeFacts } from "../facts/queries";
import { record, type JournalEntry } from "../journal/record";
import { existingLists, listsToFill, loadRecipes, type ParsedRecipe } from "../membership/recipeLists";
import { nameMissingLists } from "./nameLists";

/** From so many changed memberships on the table is measured anew for the planner. */
const MANY = 500;

/** Who does something: an account, or a source that keeps itself. */
export interface Actor {
  id: string | null;
  name: string;
}

/** What was done to the lists. */
export interface CarriedOut {
  lists: number;
  listsMade: number;
  joins: number;
  leaves: number;
}

/**
 * Takes the house from the facts as they stand to others: facts, classes, sites, lists, leads and memberships,
 * each list's change journalled. Call it in a transaction that holds the lock of rounds.
 *
 * @param words how the journal speaks of it: `Round 12`
 */
export async function carryOut(tx: Queries, actor: Actor, of: { round: number; seasonId: number; words: string }, stand: Facts, after: Facts): Promise<CarriedOut> {
  await storeFacts(tx, of.seasonId, of.round, stand, after);
  const index = indexFacts(after);
  const [own] = await tx.select().from(season).where(eq(season.id, of.seasonId));
  await storeCohorts(tx, of.seasonId, stand, index.cohorts);
  const recipes = await loadRecipes(tx);
  const listsMade = await makeLists(tx, { id: of.seasonId, label: own?.label ?? "" }, recipes, index.cohorts);
  await storeLeads(tx, of.seasonId, index.cohorts);
  const { joins, leaves, changed } = await storeMembers(tx, { number: of.round, seasonId: of.seasonId }, recipes, after);
  const entries = [...changed].map(([listId, { joined, left }]): JournalEntry => ({
    actorId: actor.id, actor: actor.name, action: "members", listId,
    sentence: `${of.words}: ${[joined.length > 0 ? `${joined.length} joined` : "", left.length > 0 ? `${left.length} left` : ""].filter((part) => part !== "").join(", ")}`, before: { left }, after: { joined },
  }));
  for (let at = 0; at < entries.length; at += 500) await record(tx, ...entries.slice(at, at + 500));
  return { lists: changed.size, listsMade, joins, leaves };
}

/** Writes down classes and teams as the facts now have them, with sites that are new. */
async function storeCohorts(tx: Queries, seasonId: number, before: Facts, cohorts: ReadonlyMap<string, CohortValue>): Promise<void> {
  const sites = new Map((await tx.select().from(site)).map((row) => [row.name, row]));
  for (const { site: name } of cohorts.values()) {
    if (name === "" || sites.has(name)) continue;
    const codes = new Set([...sites.values()].map(({ code }) => code));
    const base = proposeSiteCode(name) || "S";
    let code = base;
    for (let turn = 2; codes.has(code); turn++) code = `${base}${turn}`;
    const [made] = await tx.insert(site).values({ name, code }).returning();
    if (made !== undefined) sites.set(name, made);
  }
  const rows = [...cohorts].map(([key, value]) => ({ seasonId, key, kind: value.kind, name: value.name, siteId: sites.get(value.site)?.id ?? null, coach: value.coach, goneAt: null }));
  if (rows.length > 0) {
    await tx.insert(cohort).values(rows).onConflictDoUpdate({ target: [cohort.seasonId, cohort.key], set: { name: sql`excluded.name`, siteId: sql`excluded.site_id`, coach: sql`excluded.coach`, goneAt: sql`null` } });
  }
  const gone = [...before.values()].filter((fact) => fact.kind === "cohort" && !cohorts.has(fact.subject)).map((fact) => fact.subject);
  if (gone.length > 0) await tx.update(cohort).set({ goneAt: sql`now()` }).where(and(eq(cohort.seasonId, seasonId), inArray(cohort.key, gone)));
}

/** Makes the lists that the recipes want and that are not there yet; answers how many. */
async function makeLists(tx: Queries, of: { id: number; label: string }, recipes: readonly ParsedRecipe[], cohorts: ReadonlyMap<string, CohortValue>): Promise<number> {
  const ids = new Map((await tx.select({ id: cohort.id, key: cohort.key }).from(cohort).where(eq(cohort.seasonId, of.id))).map(({ id, key }) => [key, id]));
  const missing = await nameMissingLists(tx, of, recipes, cohorts);
  const values = missing.map(({ name, title, cohort: key, recipe }) => ({ name, title, seasonId: of.id, cohortId: ids.get(key) ?? null, recipeId: recipe.id, preset: recipe.preset, insideOnly: recipe.insideOnly }));
  for (let at = 0; at < values.length; at += 1000) await tx.insert(list).values(values.slice(at, at + 1000));
  return values.length;
}

/** The coach of a class leads its lists, where they have an account. */
async function storeLeads(tx: Queries, seasonId: number, cohorts: ReadonlyMap<string, CohortValue>): Promise<void> {
  const accounts = new Map((await tx.select({ id: account.id, name: account.name }).from(account).where(isNull(account.endedAt))).map(({ id, name }) => [nameKey(splitName(name)), id]));
  const lists = await tx.select({ id: list.id, key: cohort.key }).from(list).innerJoin(cohort, eq(cohort.id, list.cohortId)).where(and(eq(list.seasonId, seasonId), isNull(list.closedAt)));
  const leads = lists.flatMap(({ id, key }) => {
    const coach = cohorts.get(key)?.coach ?? "";
    const lead = coach === "" ? undefined : accounts.get(nameKey(splitName(coach)));
    return lead === undefined ? [] : [{ l: id, a: lead }];
  });
  const json = JSON.stringify(leads);
  await tx.execute(sql`
    delete from list_role using list where list.id = list_role.list_id and list.season_id = ${seasonId} and list.recipe_id is not null and list_role.role = 'lead'
      and not exists (select 1 from json_to_recordset(${json}::json) as new(l uuid, a uuid) where new.l = list_role.list_id and new.a = list_role.account_id)`);
  if (leads.length > 0) {
    await tx.insert(listRole).values(leads.map(({ l, a }) => ({ listId: l, accountId: a, role: "lead" as const }))).onConflictDoUpdate({ target: [listRole.listId, listRole.accountId], set: { role: "lead" } });
  }
}

/** Brings the memberships to what the facts now want, by their difference, in two statements. */
async function storeMembers(tx: Queries, found: { number: number; seasonId: number }, recipes: readonly ParsedRecipe[], facts: Facts) {
  const index = indexFacts(facts);
  const existing = await existingLists(tx, found.seasonId);
  const lists = await listsToFill(tx, recipes, index.cohorts, found.seasonId);
  const wanted = membersOf(index, listsByCohort(lists));
  const ids = [...existing.values()].map(({ id }) => id);
  const current = ids.length === 0 ? [] : await tx.select({ id: membership.id, listId: membership.listId, address: membership.address }).from(membership).where(and(isNull(membership.validUntil), inArray(membership.listId, ids)));
  const missing = new Map([...existing].map(([key, { id }]) => [id, new Map(wanted.get(key) ?? [])]));
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
  const begun: { l: string; a: string; o: string }[] = [];
  for (const [listId, addresses] of missing) {
    for (const [address, behind] of addresses) {
      begun.push({ l: listId, a: address, o: behind.size === 1 && behind.has(KEPT) ? "kept on" : "audience" });
      note(listId).joined.push(address);
    }
  }
  if (ended.length > 0) await tx.execute(sql`update membership set valid_until = now(), until_round = ${found.number} from json_array_elements_text(${JSON.stringify(ended)}::json) as gone(id) where membership.id = gone.id::bigint`);
  if (begun.length > 0) {
    const [{ now } = { now: "now" }] = (await tx.execute<{ now: string }>(sql`select now()::text as now`)).rows;
    await copyInto(tx, "membership (list_id, address, valid_from, from_round, origin)", begun.map(({ l, a, o }): CopyValue[] => [l, a, now, found.number, o]));
  }
  if (begun.length + ended.length > MANY) await tx.execute(sql`analyze membership`);
  return { joins: begun.length, leaves: ended.length, changed };
}
