import { and, eq, isNull, sql } from "drizzle-orm";
import { nameOf } from "@amigo/core/facts/indexFacts";
import { PRESETS, type PresetId } from "@amigo/core/posting/presets";
import { verdict, type Closed, type Proof, type Verdict } from "@amigo/core/posting/verdict";
import type { Queries } from "../db/connect";
import { account, fact, house, list, listRole, membership, season } from "../db/schema";

/** Says what the rules of a list make of mail of one address, and by what name its sender goes. */
export async function judge(db: Queries, to: { id: string; preset: PresetId; closedAt: Date | null }, address: string, proof: Proof): Promise<{ verdict: Verdict; name: string }> {
  const [own] = await db.select({ name: account.name, role: account.role, siteId: account.siteId, listRole: listRole.role }).from(account)
    .leftJoin(listRole, and(eq(listRole.accountId, account.id), eq(listRole.listId, to.id))).where(and(eq(account.email, address), isNull(account.endedAt)));
  const [member] = await db.select({ id: membership.id }).from(membership).where(and(eq(membership.listId, to.id), eq(membership.address, address), isNull(membership.validUntil)));
  const name = own?.name ?? (await nameBehind(db, address)) ?? address;
  const sender = { name, isCoordinator: own?.role === "coordinator" || (own?.role === "site coordinator" && own.siteId !== null && own.siteId === (await siteOf(db, to.id))), listRole: own?.listRole ?? ("none" as const), isMember: member !== undefined };
  return { name, verdict: verdict(sender, proof, PRESETS[to.preset].rules, to.closedAt === null ? undefined : await closedWords(db, to.id)) };
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

async function siteOf(db: Queries, listId: string): Promise<number | null> {
  const [found] = await db.select({ siteId: list.siteId }).from(list).where(eq(list.id, listId));
  return found?.siteId ?? null;
}

async function nameBehind(db: Queries, address: string): Promise<string | undefined> {
  const subjects = db.select({ subject: fact.subject }).from(fact).where(and(eq(fact.kind, "address"), eq(fact.ref, address), isNull(fact.validUntil)));
  const [found] = await db.select({ value: fact.value }).from(fact).where(and(eq(fact.kind, "name"), isNull(fact.validUntil), sql`${fact.subject} in ${subjects}`)).limit(1);
  return typeof found?.value === "object" && "given" in found.value ? nameOf(found.value) : undefined;
}
