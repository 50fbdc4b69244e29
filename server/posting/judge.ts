import { and, eq, isNull, sql } from "drizzle-orm";
import { isInside } from "@amigo/core/address/isInside";
import { nameOf } from "@amigo/core/facts/indexFacts";
import { PLAIN_MESSAGE, type MessageToJudge, type Proof, type Sender } from "@amigo/core/posting/mailToJudge";
import type { Rules } from "@amigo/core/posting/rules/rule";
import { sightOf, verdict, type Closed, type Sight, type Verdict } from "@amigo/core/posting/verdict";
import { accountInForce } from "../callers/caller";
import type { Queries } from "../db/connect";
import { account, fact, house, list, listRole, membership, season } from "../db/schema";

/** What is needed of a list to judge mail to it. */
export interface JudgedList {
  id: string;
  rules: Rules;
  closedAt: Date | null;
  siteId: number | null;
}

/** What the rules of a list make of mail of one address, what its owner could see of it, and by what name they go. */
export interface Judged {
  verdict: Verdict;
  sight: Sight;
  name: string;
}

/** Says what the rules of a list make of a message of one address; without a message, of a plain one. */
export async function judge(db: Queries, to: JudgedList, address: string, proof: Proof, message?: Omit<MessageToJudge, "postsToday">): Promise<Judged> {
  const { sender, isStaff } = await senderTo(db, to, address);
  const mail = { sender, proof, message: { ...PLAIN_MESSAGE, ...message, postsToday: await postsToday(db, to.id) } };
  const closed = to.closedAt === null ? {} : { closed: await closedWords(db, to.id) };
  return { name: sender.name, verdict: verdict(mail, { rules: to.rules, ...closed }), sight: sightOf(sender, isStaff, to.rules) };
}

/** The same for many lists at once, of a plain message: what is asked of the database does not grow with them. */
export async function judgeMany(db: Queries, lists: readonly JudgedList[], address: string, proof: Proof): Promise<{ name: string; of(id: string): Omit<Judged, "name"> }> {
  const [own] = await db.select({ id: account.id, name: account.name, role: account.role, siteId: account.siteId }).from(account).where(and(eq(account.email, address), accountInForce));
  const roles = new Map(own === undefined ? [] : (await db.select({ listId: listRole.listId, role: listRole.role }).from(listRole).where(eq(listRole.accountId, own.id))).map(({ listId, role }) => [listId, role]));
  const on = new Set((await db.select({ listId: membership.listId }).from(membership).where(and(eq(membership.address, address), isNull(membership.validUntil)))).map(({ listId }) => listId));
  const [settings] = await db.select({ insideDomain: house.insideDomain }).from(house);
  const known = own?.name ?? (await nameBehind(db, address));
  const byId = new Map(lists.map((row) => [row.id, row]));
  return {
    name: known ?? address,
    of: (id) => {
      const to = byId.get(id);
      if (to === undefined) throw new Error("this list was not asked about");
      const isCoordinator = own?.role === "coordinator" || (own?.role === "site coordinator" && own.siteId !== null && own.siteId === to.siteId);
      const sender: Sender = { name: known ?? address, address, isCoordinator, listRole: roles.get(id) ?? "none", isMember: on.has(id), isInside: isInside(address, settings?.insideDomain ?? ""), isKnown: known !== undefined || on.has(id) };
      return { verdict: verdict({ sender, proof, message: PLAIN_MESSAGE }, { rules: to.rules }), sight: sightOf(sender, own !== undefined, to.rules) };
    },
  };
}

/** What the owner of an address is to a list. */
async function senderTo(db: Queries, to: JudgedList, address: string): Promise<{ sender: Sender; isStaff: boolean }> {
  const [own] = await db.select({ name: account.name, role: account.role, siteId: account.siteId, listRole: listRole.role }).from(account)
    .leftJoin(listRole, and(eq(listRole.accountId, account.id), eq(listRole.listId, to.id))).where(and(eq(account.email, address), accountInForce));
  const [member] = await db.select({ id: membership.id }).from(membership).where(and(eq(membership.listId, to.id), eq(membership.address, address), isNull(membership.validUntil)));
  const [settings] = await db.select({ insideDomain: house.insideDomain }).from(house);
  const known = own?.name ?? (await nameBehind(db, address));
  const isCoordinator = own?.role === "coordinator" || (own?.role === "site coordinator" && own.siteId !== null && own.siteId === to.siteId);
  return { isStaff: own !== undefined, sender: { name: known ?? address, address, isCoordinator, listRole: own?.listRole ?? "none", isMember: member !== undefined, isInside: isInside(address, settings?.insideDomain ?? ""), isKnown: known !== undefined || member !== undefined } };
}

/** How many posts went out to a list since midnight in the house's time zone. */
async function postsToday(db: Queries, listId: string): Promise<number> {
  const { rows } = await db.execute<{ count: number }>(sql`
    select count(*)::int as count from post join post_list on post_list.post_id = post.id, house
    where post_list.list_id = ${listId} and post.outcome = 'goes out' and post.reaches = 'members' and post.at >= date_trunc('day', now() at time zone house.time_zone) at time zone house.time_zone`);
  return rows[0]?.count ?? 0;
}

/** What is to be said of a list that takes no mail any more, and which has taken its place. */
async function closedWords(db: Queries, listId: string): Promise<Closed> {
  const [own] = await db.select({ label: season.label, current: season.current, successorKey: list.successorKey, listDomain: house.listDomain }).from(list).innerJoin(season, eq(season.id, list.seasonId)).innerJoin(house, sql`true`).where(eq(list.id, listId));
  const successor = own === undefined ? undefined : await successorOf(db, own.successorKey);
  return { seasonOver: own === undefined || own.current ? undefined : own.label, now: successor === undefined ? undefined : { title: successor.title, address: `${successor.name}@${own?.listDomain ?? ""}` } };
}

/** The list of the current season that has taken the place of an older one. */
export async function successorOf(db: Queries, key: string): Promise<{ id: string; title: string; name: string } | undefined> {
  if (key === "") return undefined;
  const [found] = await db.select({ id: list.id, title: list.title, name: list.name }).from(list).innerJoin(season, eq(season.id, list.seasonId)).where(and(eq(list.key, key), eq(season.current, true), isNull(list.closedAt)));
  return found;
}

async function nameBehind(db: Queries, address: string): Promise<string | undefined> {
  const subjects = db.select({ subject: fact.subject }).from(fact).where(and(eq(fact.kind, "address"), eq(fact.ref, address), isNull(fact.validUntil)));
  const [found] = await db.select({ value: fact.value }).from(fact).where(and(eq(fact.kind, "name"), isNull(fact.validUntil), sql`${fact.subject} in ${subjects}`)).limit(1);
  return typeof found?.value === "object" && "given" in found.value ? nameOf(found.value) : undefined;
}
