import { and, desc, eq, gt, isNull, lte, or } from "drizzle-orm";
import type { Hono } from "hono";
import { readAddress } from "@amigo/core/address/readAddress";
import { PRESETS } from "@amigo/core/posting/presets";
import { ruleSentences } from "@amigo/core/posting/ruleSentences";
import { fold } from "@amigo/core/text/fold";
import { instantAtEndOf } from "@amigo/core/schedule/dayIn";
import { deleteKept, findLists, getKept, getList, getListJournal, getMembers, postKept, postTry, type Kept, type ListPage, type Member } from "@amigo/contract/lists";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { account, cohort, fact, house, journal, list, listRole, membership } from "../db/schema";
import { heldAt } from "../facts/queries";
import { Refusal } from "../http/fault";
import { route } from "../http/route";
import { judge } from "../posting/judge";
import { listKey } from "../membership/recipeLists";
import { memberCount, openDifferences } from "../membership/counts";
import { loadList } from "../membership/loadList";
import { listsOf } from "../membership/scope";
import { whoBelongs, type Belonging } from "../membership/whoBelongs";

const MEMBERS_AT_ONCE = 200;

export function listRoutes(app: Hono, context: Context): void {
  const { db, desk } = context;

  route(app, context, findLists, async ({ query, caller }) => {
    const [own] = await db.select({ listDomain: house.listDomain }).from(house);
    const words = fold(query.q).split(" ").filter((word) => word !== "");
    const rows = await db.select({ id: list.id, name: list.name, title: list.title, members: memberCount() }).from(list).leftJoin(cohort, eq(cohort.id, list.cohortId)).where(and(isNull(list.closedAt), listsOf(caller))).orderBy(list.title).limit(5000);
    return rows.filter(({ name, title }) => {
      const pieces = fold(`${title} ${name}`).split(" ");
      return words.every((word) => pieces.some((piece) => piece.startsWith(word))) || name.startsWith(query.q.toLowerCase());
    }).slice(0, 12).map((row) => ({ ...row, address: `${row.name}@${own?.listDomain ?? ""}` }));
  });

  route(app, context, getList, async ({ params, caller }): Promise<ListPage> => {
    const found = await loadList(db, params.id, caller);
    const belonging = await whoBelongs(db, found);
    const members = await db.select({ address: membership.address }).from(membership).where(and(eq(membership.listId, found.id), isNull(membership.validUntil)));
    const leads = await db.select({ name: account.name }).from(listRole).innerJoin(account, eq(account.id, listRole.accountId)).where(and(eq(listRole.listId, found.id), eq(listRole.role, "lead"))).orderBy(account.name);
    const difference = (await openDifferences(db)).get(listKey(found.recipeId ?? 0, found.cohortKey));
    const preset = PRESETS[found.preset];
    const onList = new Set(members.map(({ address }) => address));
    return {
      id: found.id, name: found.name, address: `${found.name}@${found.listDomain}`, title: found.title, cohort: found.cohort, site: found.site ?? "", season: found.season,
      recipe: found.recipe, preset: preset.name, members: members.length, families: new Set(belonging.filter(({ addresses }) => addresses.some((address) => onList.has(address))).map(({ family }) => family)).size,
      unreachable: belonging.filter(({ addresses }) => addresses.length === 0).map(({ name, because, where }) => ({ name, because: where === "" ? because : `${because} · ${where}` })),
      joins: difference?.joins ?? 0, leaves: difference?.leaves ?? 0, leads: leads.map(({ name }) => name), rules: ruleSentences(preset.rules).map((sentence) => [...sentence]),
    };
  });

  route(app, context, getMembers, async ({ params, query, caller }) => {
    const found = await loadList(db, params.id, caller);
    const [own] = await db.select({ timeZone: house.timeZone }).from(house);
    const instant = query.on === "" ? undefined : instantAtEndOf(query.on, own?.timeZone ?? "UTC");
    const byAddress = groupByAddress(await whoBelongs(db, found, instant));
    const kept = new Map((await keptOn(db, found.id, instant)).map((entry) => [entry.address, entry]));
    const onIt = instant === undefined ? isNull(membership.validUntil) : and(lte(membership.validFrom, instant), or(isNull(membership.validUntil), gt(membership.validUntil, instant)));
    const rows = await db.select({ address: membership.address, since: membership.validFrom }).from(membership).where(and(eq(membership.listId, found.id), onIt)).orderBy(membership.address);
    const words = fold(query.q).split(" ").filter((word) => word !== "");
    const members = rows.map(({ address, since }): Member => ({ address, since: since.toISOString(), kept: keptWords(kept.get(address)), people: (byAddress.get(address) ?? []).map(({ name, because, where }) => ({ name, because, where })) }))
      .filter(({ address, people }) => { const text = fold(`${address} ${people.map(({ name, because }) => `${name} ${because}`).join(" ")}`); return words.every((word) => text.includes(word)); })
      .sort((a, b) => (a.people[0]?.name ?? a.address).localeCompare(b.people[0]?.name ?? b.address, "en"));
    return { total: members.length, members: members.slice(query.from, query.from + MEMBERS_AT_ONCE) };
  });

  route(app, context, getKept, async ({ params, caller }) => keptOn(db, (await loadList(db, params.id, caller)).id, undefined));

  route(app, context, postKept, async ({ params, body, caller }) => {
    const found = await loadList(db, params.id, caller);
    const read = readAddress(body.address, new Map());
    if (read.answer !== "clean") throw new Refusal(422, "keep/address", `This is no address: ${read.answer === "probably" ? `did you mean ${read.address}?` : read.why}`, "address");
    const { member } = await desk.run("keepAddress", { actor: { id: caller.id, name: caller.name }, keep: { listId: found.id, address: read.address, side: body.side, reason: body.reason, lastDay: body.lastDay } });
    return { address: read.address, member };
  });

  route(app, context, deleteKept, async ({ params, body, caller }) => {
    const found = await loadList(db, params.id, caller);
    return desk.run("letGo", { actor: { id: caller.id, name: caller.name }, listId: found.id, address: body.address });
  });

  route(app, context, getListJournal, async ({ params, caller }) => {
    const found = await loadList(db, params.id, caller);
    const rows = await db.select({ id: journal.id, at: journal.at, actor: journal.actor, sentence: journal.sentence }).from(journal).where(eq(journal.listId, found.id)).orderBy(desc(journal.id)).limit(100);
    return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
  });

  route(app, context, postTry, async ({ params, body, caller }) => {
    const found = await loadList(db, params.id, caller);
    const read = readAddress(body.address, new Map());
    if (read.answer === "unusable") throw new Refusal(422, "try/address", `This is no address: ${read.why}`, "address");
    const { verdict, name } = await judge(db, found, read.address, body.signedIn ? "signed-in" : "claimed");
    return { outcome: verdict.outcome, who: name, reasons: verdict.reasons.map(({ sentence }) => sentence) };
  });
}

/** Addresses that were kept on or off a list, now or at an instant. */
async function keptOn(db: Queries, listId: string, instant: Date | undefined): Promise<Kept[]> {
  const rows = await db.select({ ref: fact.ref, value: fact.value, at: fact.validFrom }).from(fact).where(and(eq(fact.subject, listId), eq(fact.kind, "kept"), heldAt(instant))).orderBy(desc(fact.validFrom));
  return rows.flatMap(({ ref, value, at }) => (typeof value === "object" && "side" in value ? [{ address: ref, at: at.toISOString(), ...value }] : []));
}

function keptWords(entry: Kept | undefined): string {
  return entry?.side !== "on" ? "" : `kept on by ${entry.by}${entry.lastDay === "" ? "" : ` until ${entry.lastDay}`}: ${entry.reason}`;
}

function groupByAddress(belonging: readonly Belonging[]): Map<string, Belonging[]> {
  const groups = new Map<string, Belonging[]>();
  for (const own of belonging) for (const address of own.addresses) groups.set(address, [...(groups.get(address) ?? []), own]);
  return groups;
}
