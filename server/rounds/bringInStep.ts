import { and, eq, inArray, isNull, sql } from "drizzle-orm";
import type { CohortValue, Facts } from "@amigo/core/facts/fact";
import { indexFacts } from "@amigo/core/facts/indexFacts";
import { nameKey } from "@amigo/core/identity/sameName";
import { proposeSiteCode } from "@amigo/core/naming/shortForm";
import { splitName } from "@amigo/core/sheet/splitName";
import { applyCauses } from "@amigo/core/step/applyCauses";
import { listsByCohort, membersOf } from "@amigo/core/step/listMembers";
import { counted } from "@amigo/core/text/sentence";
import type { Caller } from "../callers/caller";
import type { Database, Queries } from "../db/connect";
import { account, cause, cohort, list, listRole, membership, round, season, site } from "../db/schema";
import { notify } from "../events/events";
import { loadFacts, storeFacts } from "../facts/queries";
import { Refusal } from "../http/fault";
import { record, type JournalEntry } from "../journal/record";
import { listsToFill, loadRecipes, existingLists, type ParsedRecipe } from "../membership/recipeLists";
import { nameMissingLists } from "./nameLists";
import { lockRounds, openRound } from "./openRound";

/** From so many changed memberships on the table is measured anew for the planner. */
const MANY = 500;

/** What was done by bringing lists in step. */
export interface StepOutcome {
  round: number;
  lists: number;
  joins: number;
  leaves: number;
  /** The round that now holds what was held, or null. */
  next: number | null;
}

/**
 * Carries out what is accepted of the open round, in one transaction: facts, classes, lists and
 * memberships, journalled. Pressed twice, or by two people at once, it happens once.
 *
 * @param wanted.passed the counts that were typed for the guards that stand, by the guard's id
 * @throws Refusal 409 when the round was carried out or has changed meanwhile, 422 when a guard stands
 */
export async function bringInStep(db: Database, caller: Caller, wanted: { round: number; version: number; passed: Record<string, number> }): Promise<StepOutcome> {
  return db.transaction(async (tx) => {
    await lockRounds(tx);
    const found = await checkRound(tx, wanted);
    const stand = await loadFacts(tx, found.seasonId);
    const accepted = await tx.select().from(cause).where(and(eq(cause.round, found.number), eq(cause.decision, "accepted"))).orderBy(cause.position);
    if (accepted.length === 0) throw new Refusal(422, "round/nothing-accepted", "Every cause of this round is held. Accept one first.");
    const after = applyCauses(stand, accepted);
    await storeFacts(tx, found.seasonId, found.number, stand, after);

    const index = indexFacts(after);
    const [current] = await tx.select().from(season).where(eq(season.id, found.seasonId));
    await storeCohorts(tx, found.seasonId, stand, index.cohorts);
    const recipes = await loadRecipes(tx);
    const made = await makeLists(tx, { id: found.seasonId, label: current?.label ?? "" }, recipes, index.cohorts);
    await storeLeads(tx, found.seasonId, index.cohorts);
    const outcome = await storeMembers(tx, found, recipes, after);

    const sentence = `${caller.name} brought ${counted(outcome.changed.size, "list")} in step in round ${found.number}: ${outcome.joins} joined, ${outcome.leaves} left`;
    const entries: JournalEntry[] = [{ actorId: caller.id, actor: caller.name, action: "bring in step", sentence, before: { causes: accepted.length }, after: { joins: outcome.joins, leaves: outcome.leaves, listsMade: made } }];
    for (const [listId, change] of outcome.changed) {
      entries.push({ actorId: caller.id, actor: caller.name, action: "members", listId, sentence: `Round ${found.number}: ${[change.joined.length > 0 ? `${change.joined.length} joined` : "", change.left.length > 0 ? `${change.left.length} left` : ""].filter((part) => part !== "").join(", ")}`, before: { left: change.left }, after: { joined: change.joined } });
    }
    for (let at = 0; at < entries.length; at += 500) await record(tx, ...entries.slice(at, at + 500));
    await tx.update(round).set({ state: "done", closedAt: sql`now()`, closedBy: caller.id }).where(eq(round.number, found.number));
    const next = await openRound(tx);
    await notify(tx, "rounds", "board");
    return { round: found.number, lists: outcome.changed.size, joins: outcome.joins, leaves: outcome.leaves, next: next.number };
  });
}

async function checkRound(tx: Queries, wanted: { round: number; version: number; passed: Record<string, number> }) {
  const [found] = await tx.select({ number: round.number, seasonId: round.seasonId, state: round.state, version: round.version, guards: round.guards, closedBy: account.name }).from(round).leftJoin(account, eq(account.id, round.closedBy)).where(eq(round.number, wanted.round));
  if (found === undefined) throw new Refusal(404, "not-found", `There is no round ${wanted.round}.`);
  if (found.state === "done") throw new Refusal(409, "round/done", `Round ${found.number} was already carried out${found.closedBy === null ? "" : ` by ${found.closedBy}`}. Nothing was done twice.`);
  if (found.state === "dropped") throw new Refusal(409, "round/dropped", `Round ${found.number} is no longer needed: the sheets agree with the lists.`);
  if (found.version !== wanted.version) throw new Refusal(409, "round/changed", "This round has changed since you looked at it. Look once more, then press again.");
  const standing = found.guards.find((guard) => wanted.passed[guard.id] !== guard.count);
  if (standing !== undefined) throw new Refusal(422, "round/guard", `A guard stands: ${standing.about} ${standing.sentence} Type ${standing.count} beside it to let it pass.`, standing.id);
  return found;
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
  const values = missing.map(({ name, title, cohort: key, recipe }) => ({ name, title, seasonId: of.id, cohortId: ids.get(key) ?? null, recipeId: recipe.id, preset: recipe.preset }));
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
  const missing = new Map([...existing].map(([key, { id }]) => [id, new Set(wanted.get(key)?.keys() ?? [])]));
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
  const begun: { l: string; a: string }[] = [];
  for (const [listId, addresses] of missing) {
    for (const address of addresses) {
      begun.push({ l: listId, a: address });
      note(listId).joined.push(address);
    }
  }
  if (ended.length > 0) await tx.execute(sql`update membership set valid_until = now(), until_round = ${found.number} from json_array_elements_text(${JSON.stringify(ended)}::json) as gone(id) where membership.id = gone.id::bigint`);
  if (begun.length > 0) {
    await tx.execute(sql`insert into membership (list_id, address, valid_from, from_round) select l, a, now(), ${found.number} from json_to_recordset(${JSON.stringify(begun)}::json) as new(l uuid, a text)`);
  }
  if (begun.length + ended.length > MANY) await tx.execute(sql`analyze membership`);
  return { joins: begun.length, leaves: ended.length, changed };
}
