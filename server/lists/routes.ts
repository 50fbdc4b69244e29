import { and, asc, desc, eq, isNotNull, isNull, or, sql } from "drizzle-orm";
import type { Hono } from "hono";
import { audienceSentence } from "@amigo/core/audience/audienceSentence";
import { isInside } from "@amigo/core/address/isInside";
import { readAddress } from "@amigo/core/address/readAddress";
import { understoodAudience } from "@amigo/core/lists/understood";
import { POINT_WORDS } from "@amigo/core/lists/listPoint";
import { wantedList } from "@amigo/core/lists/wantedLists";
import { isHard, nameFaultSentence } from "@amigo/core/naming/nameFault";
import { PRESETS } from "@amigo/core/posting/presets";
import { ruleSentences } from "@amigo/core/posting/ruleSentences";
import { dayIn, instantAtEndOf } from "@amigo/core/schedule/dayIn";
import { fold } from "@amigo/core/text/fold";
import { deleteKept, findLists, getAllLists, getKept, getList, getListJournal, getMembers, postKept, postMembers, postPasted, postTry, putOwnShort, type ListPage } from "@amigo/contract/lists";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { account, greeting, house, journal, list, listAddress, listRole, membership, ownShortName, season, site } from "../db/schema";
import { houseIndex } from "../facts/standing";
import { Refusal } from "../http/fault";
import { findCaller, route } from "../http/route";
import { memberCount, openDifferences } from "../membership/counts";
import { loadList, type LoadedList } from "../membership/loadList";
import { houseNaming, nameByConvention } from "../membership/nameWanted";
import { listsOf } from "../membership/scope";
import { whoBelongs } from "../membership/whoBelongs";
import { judge, successorOf } from "../posting/judge";
import { EXPORT_FORMATS, exportLists } from "./exportLists";
import { filterMembers, keptOn, memberTable } from "./memberTable";
import { readPasted } from "./pasted";

const MEMBERS_AT_ONCE = 200;
const HITS = 12;
const MOST_EXPORTED = 2000;

export function listRoutes(app: Hono, context: Context): void {
  const { db, desk } = context;

  route(app, context, findLists, async ({ query, caller }) => {
    const [own] = await db.select({ listDomain: house.listDomain }).from(house);
    const words = fold(query.q).split(" ").filter((word) => word !== "");
    const typed = query.q.trim().toLowerCase();
    const rows = await db.select({ id: list.id, name: list.name, title: list.title, short: list.short, own: ownShortName.short, members: memberCount() }).from(list).innerJoin(season, eq(season.id, list.seasonId)).leftJoin(ownShortName, and(eq(ownShortName.listId, list.id), eq(ownShortName.accountId, caller.id)))
      .where(and(isNull(list.closedAt), eq(season.current, true), or(listsOf(caller), eq(list.findable, "staff")))).orderBy(list.title).limit(5000);
    const isNamed = ({ short, own: mine }: { short: string; own: string | null }): boolean => typed !== "" && (mine === typed || short.split(",").some((name) => name.trim().toLowerCase() === typed));
    const found = rows.filter((row) => {
      const pieces = fold(`${row.title} ${row.name} ${row.short} ${row.own ?? ""}`).split(" ");
      return words.every((word) => pieces.some((piece) => piece.startsWith(word))) || row.name.startsWith(typed) || isNamed(row);
    });
    return found.sort((a, b) => Number(isNamed(b)) - Number(isNamed(a))).slice(0, HITS).map(({ id, name, title, members }) => ({ id, name, title, members, address: `${name}@${own?.listDomain ?? ""}` }));
  });

  route(app, context, getAllLists, async ({ query, caller }) => {
    const seasons = await db.select({ id: season.id, label: season.label, current: season.current }).from(season).where(or(eq(season.current, true), isNotNull(season.overOn))).orderBy(desc(season.label));
    const chosen = seasons.find(({ label, current }) => (query.season === "" ? current : label === query.season));
    const index = await houseIndex(db, chosen?.id ?? 0);
    const rows = await db.select({ id: list.id, key: list.key, title: list.title, name: list.name, site: site.name, recipeId: list.recipeId, closedAt: list.closedAt, apart: list.apart, members: memberCount() }).from(list).leftJoin(site, eq(site.id, list.siteId)).where(and(eq(list.seasonId, chosen?.id ?? 0), listsOf(caller))).orderBy(list.title);
    const leads = await db.select({ listId: listRole.listId, name: account.name }).from(listRole).innerJoin(account, eq(account.id, listRole.accountId)).where(eq(listRole.role, "lead")).orderBy(account.name);
    const byList = new Map<string, string[]>();
    for (const { listId, name } of leads) byList.set(listId, [...(byList.get(listId) ?? []), name]);
    return {
      seasons: seasons.map(({ label, current }) => ({ label, current })),
      lists: rows.map(({ recipeId, closedAt, apart, ...row }) => ({ ...row, site: row.site ?? "", recipe: index.recipes.get(recipeId ?? 0)?.name ?? "", leads: byList.get(row.id) ?? [], state: stateOf({ closedAt, isCurrent: chosen?.current ?? false }), apart: apart.length > 0 })),
    };
  });

  route(app, context, getList, async ({ params, caller }): Promise<ListPage> => listPage(db, await loadList(db, params.id, caller), caller.id));

  route(app, context, getMembers, async ({ params, query, caller }) => {
    const found = await loadList(db, params.id, caller);
    const [own] = await db.select({ timeZone: house.timeZone }).from(house);
    const members = filterMembers(await memberTable(db, found, query.on === "" ? undefined : instantAtEndOf(query.on, own?.timeZone ?? "UTC")), query.q);
    return { total: members.length, members: members.slice(query.from, query.from + MEMBERS_AT_ONCE) };
  });

  route(app, context, getKept, async ({ params, caller }) => keptOn(db, await loadList(db, params.id, caller), undefined));

  route(app, context, postKept, async ({ params, body, caller }) => {
    const found = await loadList(db, params.id, caller);
    const address = clean(body.address);
    if (body.side === "on") await refuseOutside(db, found, [address]);
    const { member } = await desk.run("keepAddress", { actor: { id: caller.id, name: caller.name }, keep: { listId: found.id, address, side: body.side, reason: body.reason, lastDay: body.lastDay } });
    return { address, member };
  });

  route(app, context, deleteKept, async ({ params, body, caller }) => {
    const found = await loadList(db, params.id, caller);
    return desk.run("letGo", { actor: { id: caller.id, name: caller.name }, listId: found.id, address: body.address });
  });

  route(app, context, postPasted, async ({ params, body, caller }) => readPasted(db, await loadList(db, params.id, caller), body.text));

  route(app, context, postMembers, async ({ params, body, caller }) => {
    const found = await loadList(db, params.id, caller);
    const addresses = body.addresses.map(clean);
    await refuseOutside(db, found, addresses);
    return desk.run("addMembers", { actor: { id: caller.id, name: caller.name }, wanted: { listId: found.id, addresses, how: body.how, reason: body.reason, lastDay: body.lastDay } });
  });

  route(app, context, putOwnShort, async ({ params, body, caller }) => {
    const found = await loadList(db, params.id, caller);
    await db.delete(ownShortName).where(and(eq(ownShortName.accountId, caller.id), or(eq(ownShortName.listId, found.id), eq(ownShortName.short, body.short))));
    if (body.short !== "") await db.insert(ownShortName).values({ accountId: caller.id, listId: found.id, short: body.short });
    return { short: body.short };
  });

  app.get("/api/lists/export/:format", async (http) => {
    const caller = await findCaller(http, context);
    if (caller === undefined) throw new Refusal(401, "signed-out", "You are not signed in, or your session has ended. Sign in again.");
    const format = EXPORT_FORMATS.find((known) => known === http.req.param("format"));
    if (format === undefined) throw new Refusal(400, "bad-request", `There is no such format; there are ${EXPORT_FORMATS.join(", ")}.`);
    const ids = (http.req.query("lists") ?? "").split(",").filter((id) => /^[0-9a-f-]{36}$/i.test(id)).slice(0, MOST_EXPORTED);
    if (ids.length === 0) throw new Refusal(400, "bad-request", "Name the lists to export, with commas between their ids.");
    const lists = [];
    for (const id of ids) {
      const found = await loadList(db, id, caller);
      lists.push({ title: found.title, address: `${found.name}@${found.listDomain}`, description: found.description, members: filterMembers(await memberTable(db, found, undefined), http.req.query("q") ?? "") });
    }
    const { bytes, type } = exportLists(lists, format);
    const name = lists.length === 1 ? (lists[0]?.address.split("@")[0] ?? "list") : `${lists.length}-lists`;
    return http.body(new Uint8Array(bytes), 200, { "Content-Type": type, "Content-Disposition": `attachment; filename="${name}.${format}"`, "Cache-Control": "no-store" });
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

/** Everything of a list but its members. */
async function listPage(db: Queries, found: LoadedList, asker: string): Promise<ListPage> {
  const belonging = await whoBelongs(db, found);
  const members = new Set((await db.select({ address: membership.address }).from(membership).where(and(eq(membership.listId, found.id), isNull(membership.validUntil)))).map(({ address }) => address));
  const leads = await db.select({ name: account.name }).from(listRole).innerJoin(account, eq(account.id, listRole.accountId)).where(and(eq(listRole.listId, found.id), eq(listRole.role, "lead"))).orderBy(account.name);
  const aliases = await db.select({ name: listAddress.name, until: listAddress.until }).from(listAddress).where(and(eq(listAddress.listId, found.id), eq(listAddress.kind, "alias"), sql`not ${listAddress.released}`, sql`${listAddress.until} >= current_date`)).orderBy(asc(listAddress.until));
  const difference = (await openDifferences(db)).get(found.key);
  const preset = PRESETS[found.preset];
  const index = await houseIndex(db, found.seasonId);
  const recipe = found.recipeId === null ? undefined : index.recipes.get(found.recipeId);
  const [own] = await db.select({ short: ownShortName.short }).from(ownShortName).where(and(eq(ownShortName.listId, found.id), eq(ownShortName.accountId, asker)));
  const [asked] = await db.select({ count: sql<number>`count(*)`.mapWith(Number) }).from(greeting).where(and(eq(greeting.listId, found.id), eq(greeting.kind, "ask"), isNull(greeting.answer)));
  const understood = understoodAudience(found.audience);
  // What "this class" is on this very list.
  const meant = wantedList(index, found.key)?.audience;
  const successor = found.closedAt === null ? undefined : await successorOf(db, (await db.select({ key: list.successorKey }).from(list).where(eq(list.id, found.id)))[0]?.key ?? "");
  const outside: ListPage["outside"] = found.insideOnly ? "none" : "any";
  return {
    id: found.id, key: found.key, name: found.name, address: `${found.name}@${found.listDomain}`, aliases: aliases.map(({ name, until }) => ({ name, until: until ?? "" })), title: found.title, description: found.description, short: found.short, ownShort: own?.short ?? "",
    cohort: found.cohort ?? "", site: found.site ?? "", season: found.season, state: stateOf(found), successor: successor === undefined ? null : { id: successor.id, title: successor.title, address: `${successor.name}@${found.listDomain}` },
    recipe: recipe === undefined || found.recipeId === null ? null : { id: found.recipeId, name: recipe.name }, audience: found.audience, audienceSentence: found.audience === "" ? "Those who are put on it by hand." : understood.ok ? audienceSentence(meant ?? understood.audience) : understood.fault.sentence,
    preset: preset.name, findable: found.findable, outside, leaving: found.leaving, adding: found.adding, welcome: found.welcome, apart: found.apart.map((point) => ({ point, words: POINT_WORDS[point] })), breach: found.isCurrent && found.closedAt === null ? await breachOf(db, found, index) : null, asked: asked?.count ?? 0,
    members: members.size, families: new Set(belonging.filter(({ addresses }) => addresses.some((address) => members.has(address))).map(({ family }) => family)).size,
    unreachable: belonging.filter(({ addresses }) => addresses.length === 0).map(({ name, because, where }) => ({ name, because: where === "" ? because : `${because} · ${where}` })),
    joins: difference?.joins ?? 0, leaves: difference?.leaves ?? 0, leads: leads.map(({ name }) => name), rules: ruleSentences(preset.rules, { findable: found.findable, outside, leaving: found.leaving }).map((sentence) => [...sentence]),
  };
}

/** How a list breaches the naming convention, with what it would be called. */
async function breachOf(db: Queries, found: LoadedList, index: Awaited<ReturnType<typeof houseIndex>>): Promise<ListPage["breach"]> {
  const wanted = wantedList(index, found.key);
  if (wanted === undefined) return null;
  const naming = await houseNaming(db, found.seasonId, dayIn(found.timeZone, new Date()));
  const [made] = nameByConvention([wanted], index, naming);
  if (made === undefined || made.name === "") return null;
  const [fault] = made.name === found.name ? made.faults : [];
  if (fault !== undefined) return { sentence: nameFaultSentence(fault, found.name, naming.rules), proposal: made.proposal };
  const wants = made.faults.some(isHard) ? made.proposal : made.name;
  return wants === found.name || found.recipeId === null ? null : { sentence: `By the convention this list would be called "${wants}".`, proposal: wants };
}

function stateOf({ closedAt, isCurrent }: { closedAt: Date | null; isCurrent: boolean }): ListPage["state"] {
  return closedAt === null ? "open" : isCurrent ? "closed" : "season over";
}

function clean(written: string): string {
  const read = readAddress(written, new Map());
  if (read.answer !== "clean") throw new Refusal(422, "keep/address", `"${written.slice(0, 100)}" is no address: ${read.answer === "probably" ? `did you mean ${read.address}?` : read.why}`, "address");
  return read.address;
}

/** @throws Refusal 422 when an outside address would come onto a list for inside addresses */
async function refuseOutside(db: Queries, found: LoadedList, addresses: readonly string[]): Promise<void> {
  if (!found.insideOnly) return;
  const [own] = await db.select({ insideDomain: house.insideDomain }).from(house);
  const outside = addresses.find((address) => !isInside(address, own?.insideDomain ?? ""));
  if (outside !== undefined) throw new Refusal(422, "keep/outside", `${outside} is outside the house, and this list takes inside addresses only. A coordinator can allow outside addresses in its rules.`, "address");
}
