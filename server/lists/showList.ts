import { eq, desc, and, isNull, sql, asc } from "drizzle-orm";
import { type getList, type getListJournal, type ListPage } from "@amigo/contract/lists";
import { audienceSentence } from "@amigo/core/audience/audienceSentence";
import type { FactIndex } from "@amigo/core/facts/indexFacts";
import { POINT_WORDS } from "@amigo/core/lists/listPoint";
import { understoodAudience } from "@amigo/core/lists/understood";
import { wantedList, type WantedList } from "@amigo/core/lists/wantedLists";
import { nameFaultSentence, isHard } from "@amigo/core/naming/nameFault";
import { boundSentence } from "@amigo/core/posting/houseRules";
import { brokenInvariants } from "@amigo/core/posting/invariants/allInvariants";
import { presetOf } from "@amigo/core/posting/presets";
import { wordsOf } from "@amigo/core/posting/rules/allRules";
import { RULE_IDS } from "@amigo/core/posting/rules/rule";
import { dayIn } from "@amigo/core/schedule/dayIn";
import { day } from "@amigo/language/message";
import { say, said } from "@amigo/language/say";
import type { Caller } from "../callers/caller";
import { accountInForce } from "../callers/inForce";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { account } from "../db/schema/accounts";
import { house } from "../db/schema/house";
import { journal } from "../db/schema/journal";
import {
  membership,
  listRole,
  listAddress,
  list,
  ownShortName,
  greeting,
} from "../db/schema/lists";
import { watch } from "../db/schema/notes";
import { request } from "../db/schema/requests";
import { houseIndex } from "../facts/standing";
import type { Request, Answer } from "../http/handler";
import { openDifferences } from "../membership/counts";
import { loadList, type LoadedList } from "../membership/loadList";
import { houseNaming, nameByConvention } from "../membership/nameWanted";
import { namesBehind } from "../membership/namesBehind";
import { changeableBy, listsOf } from "../membership/scope";
import { whoBelongs } from "../membership/whoBelongs";
import { successorOf } from "../posting/judge";
import { t } from "../texts/t";
import { stateOf } from "./stateOf";

export async function showList(
  { db }: Context,
  { params, caller }: Request<typeof getList>,
): Promise<Answer<typeof getList>> {
  return listPage(db, await loadList(db, params.id, caller, "seen"), caller);
}

export async function showListJournal(
  { db }: Context,
  { params, caller }: Request<typeof getListJournal>,
): Promise<Answer<typeof getListJournal>> {
  const found = await loadList(db, params.id, caller);
  const rows = await db
    .select({ id: journal.id, at: journal.at, actor: journal.actor, sentence: journal.sentence })
    .from(journal)
    .where(eq(journal.listId, found.id))
    .orderBy(desc(journal.id))
    .limit(100);
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}

/** Everything of a list but its members. */
async function listPage(db: Queries, found: LoadedList, caller: Caller): Promise<ListPage> {
  const belonging = await whoBelongs(db, found);
  const members = new Set(
    (
      await db
        .select({ address: membership.address })
        .from(membership)
        .where(and(eq(membership.listId, found.id), isNull(membership.validUntil)))
    ).map(({ address }) => address),
  );
  const running = await db
    .select({ id: account.id, name: account.name, role: listRole.role })
    .from(listRole)
    .innerJoin(account, eq(account.id, listRole.accountId))
    .where(and(eq(listRole.listId, found.id), accountInForce))
    .orderBy(account.name);
  const named = (role: "lead" | "helper"): string[] =>
    running.filter((own) => own.role === role).map(({ name }) => name);
  const aliases = await db
    .select({ name: listAddress.name, until: listAddress.until })
    .from(listAddress)
    .where(
      and(
        eq(listAddress.listId, found.id),
        eq(listAddress.kind, "alias"),
        sql`not ${listAddress.released}`,
        sql`${listAddress.until} >= current_date`,
      ),
    )
    .orderBy(asc(listAddress.until));
  const difference = (await openDifferences(db)).get(found.key);
  const index = await houseIndex(db, found.seasonId);
  const [settings] = await db.select({ insideDomain: house.insideDomain }).from(house);
  const [mine] = await db
    .select({ id: list.id })
    .from(list)
    .where(and(eq(list.id, found.id), changeableBy(caller)));
  const [seen] = await db
    .select({ id: list.id })
    .from(list)
    .where(and(eq(list.id, found.id), listsOf(caller)));
  const [watched] = await db
    .select({ about: watch.about })
    .from(watch)
    .where(and(eq(watch.accountId, caller.id), eq(watch.what, "list"), eq(watch.about, found.id)));
  const wanted = wantedList(index, found.key);
  const broken =
    wanted === undefined || found.closedAt !== null
      ? []
      : brokenInvariants(
          {
            kind: found.kind,
            rules: found.rules,
            hasLead: running.some(({ role }) => role === "lead"),
            insideDomain: settings?.insideDomain ?? "",
          },
          index.invariantsOff,
        ).map(({ sentence }) => sentence);
  const recipe = found.recipeId === null ? undefined : index.recipes.get(found.recipeId);
  const [own] = await db
    .select({ short: ownShortName.short })
    .from(ownShortName)
    .where(and(eq(ownShortName.listId, found.id), eq(ownShortName.accountId, caller.id)));
  const [asked] = await db
    .select({ count: sql<number>`count(*)`.mapWith(Number) })
    .from(greeting)
    .where(and(eq(greeting.listId, found.id), eq(greeting.kind, "ask"), isNull(greeting.answer)));
  const understood = understoodAudience(found.audience);
  // What "this class" is on this very list.
  const meant = wanted?.audience;
  const successor =
    found.closedAt === null
      ? undefined
      : await successorOf(
          db,
          (await db.select({ key: list.successorKey }).from(list).where(eq(list.id, found.id)))[0]
            ?.key ?? "",
        );
  const waiting = await db
    .select({
      id: greeting.id,
      address: greeting.address,
      by: greeting.by,
      reason: greeting.reason,
      at: greeting.at,
    })
    .from(greeting)
    .where(and(eq(greeting.listId, found.id), eq(greeting.kind, "agree"), isNull(greeting.answer)))
    .orderBy(asc(greeting.at));
  const names = await namesBehind(
    db,
    found.seasonId,
    waiting.map(({ address }) => address),
  );
  const requests = await db
    .select({ id: request.id, sentence: request.sentence, by: account.name, at: request.at })
    .from(request)
    .innerJoin(account, eq(account.id, request.accountId))
    .where(and(eq(request.list, found.key), eq(request.state, "open")));
  return {
    id: found.id,
    key: found.key,
    name: found.name,
    address: `${found.name}@${found.listDomain}`,
    aliases: aliases.map(({ name, until }) => ({ name, until: until ?? "" })),
    title: found.title,
    description: found.description,
    short: found.short,
    ownShort: own?.short ?? "",
    watching: watched !== undefined,
    cohort: found.cohort ?? "",
    site: found.site ?? "",
    season: found.season,
    state: stateOf(found),
    successor:
      successor === undefined
        ? null
        : {
            id: successor.id,
            title: successor.title,
            address: `${successor.name}@${found.listDomain}`,
          },
    recipe:
      recipe === undefined || found.recipeId === null
        ? null
        : { id: found.recipeId, name: recipe.name },
    audience: found.audience,
    audienceSentence:
      found.audience === ""
        ? t("lists.thoseWhoArePutOn")
        : understood.ok
          ? say(audienceSentence(meant ?? understood.audience))
          : say(understood.fault.sentence),
    preset: { id: found.preset, name: say(presetOf(found.preset, index.presets).name) },
    kind: found.kind,
    rules: found.rules,
    notes: wanted === undefined ? [] : notesOf(wanted, index),
    broken: said(broken),
    adding: found.adding,
    apart: found.apart.map((point) => ({ point, words: say(POINT_WORDS[point]) })),
    breach: found.isCurrent && found.closedAt === null ? await breachOf(db, found, index) : null,
    asked: asked?.count ?? 0,
    members: members.size,
    people: belonging.filter(({ addresses }) => addresses.some((address) => members.has(address)))
      .length,
    families: new Set(
      belonging
        .filter(({ addresses }) => addresses.some((address) => members.has(address)))
        .map(({ family }) => family),
    ).size,
    unreachable: belonging
      .filter(({ addresses }) => addresses.length === 0)
      .map(({ name, because, where }) => ({
        name,
        because: where === "" ? because : `${because} · ${where}`,
      })),
    joins: difference?.joins ?? 0,
    leaves: difference?.leaves ?? 0,
    leads: named("lead"),
    helpers: named("helper"),
    may: {
      change: mine !== undefined && found.isCurrent,
      add:
        mine !== undefined &&
        found.closedAt === null &&
        !(found.rules.joining === "roster" && caller.role === "staff"),
      decide: mine !== undefined || running.some(({ id }) => id === caller.id),
      see: seen !== undefined,
    },
    waiting: waiting.map(({ at, ...row }) => ({
      ...row,
      name: names.get(row.address)?.name ?? "",
      at: at.toISOString(),
    })),
    requests: requests.map(({ at, ...row }) => ({ ...row, at: at.toISOString() })),
  };
}

/** What stands beside the rules of a list: the house rule that keeps it from what was chosen, and what somebody has allowed it. */
function notesOf(wanted: WantedList, index: FactIndex): ListPage["notes"] {
  const allowed = [...(index.exemptions.get(wanted.key) ?? [])].flatMap(([ref, { by, until }]) => {
    const rule = RULE_IDS.find((id) => id === ref);
    return rule === undefined
      ? []
      : [{ rule, sentence: t("lists.allowedBy", { by, until: day(until) }) }];
  });
  const refused = wanted.refused.map(({ rule, chosen, bound }) => ({
    rule,
    sentence: t("lists.wasChosen", {
      kind: boundSentence(wanted.kind, rule, bound),
      rule: wordsOf(rule, chosen),
    }),
  }));
  return [...allowed, ...refused];
}

/** How a list breaches the naming convention, with what it would be called. */
async function breachOf(
  db: Queries,
  found: LoadedList,
  index: Awaited<ReturnType<typeof houseIndex>>,
): Promise<ListPage["breach"]> {
  const wanted = wantedList(index, found.key);
  if (wanted === undefined) return null;
  const naming = await houseNaming(db, found.seasonId, dayIn(found.timeZone, new Date()));
  const [made] = nameByConvention([wanted], index, naming);
  if (made === undefined || made.name === "") return null;
  const [fault] = made.name === found.name ? made.faults : [];
  if (fault !== undefined)
    return {
      sentence: say(nameFaultSentence(fault, found.name, naming.rules)),
      proposal: made.proposal,
    };
  const wants = made.faults.some(isHard) ? made.proposal : made.name;
  return wants === found.name || found.recipeId === null
    ? null
    : { sentence: t("lists.byTheConventionThisList", { wants }), proposal: wants };
}
