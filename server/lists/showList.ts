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
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { houseIndex } from "../facts/standing";
import type { Request, Answer } from "../http/handler";
import { openDifferences } from "../membership/counts";
import { loadList, type LoadedList } from "../membership/loadList";
import { houseNaming, nameByConvention } from "../membership/nameWanted";
import { namesBehind } from "../membership/namesBehind";
import { whoBelongs } from "../membership/whoBelongs";
import { successorOf } from "../posting/judge";
import { t } from "../texts/t";
import { stateOf } from "./stateOf";
import {
  findChangeable,
  listListJournal,
  listRolesByName,
  listAliases,
  findVisible,
  findWatch,
  findShortName,
  countAsked,
  findSuccessor,
  listWaiting,
  listOpenRequests,
} from "./queries";
import { listMemberAddresses } from "../membership/queries";
import { loadHouse } from "../db/houseQueries";

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
  const rows = await listListJournal(db, found.id);
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}

/** Everything of a list but its members. */
async function listPage(db: Queries, found: LoadedList, caller: Caller): Promise<ListPage> {
  const belonging = await whoBelongs(db, found);
  const members = new Set((await listMemberAddresses(db, found.id)).map(({ address }) => address));
  const running = await listRolesByName(db, found.id);
  const named = (role: "lead" | "helper"): string[] =>
    running.filter((own) => own.role === role).map(({ name }) => name);
  const aliases = await listAliases(db, found.id);
  const difference = (await openDifferences(db)).get(found.key);
  const index = await houseIndex(db, found.seasonId);
  const settings = await loadHouse(db);
  const mine = await findChangeable(db, found.id, caller);
  const seen = await findVisible(db, found.id, caller);
  const watched = await findWatch(db, caller.id, found.id);
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
  const own = await findShortName(db, found.id, caller.id);
  const asked = await countAsked(db, found.id);
  const understood = understoodAudience(found.audience);
  // What "this class" is on this very list.
  const meant = wanted?.audience;
  const successor =
    found.closedAt === null
      ? undefined
      : await successorOf(db, (await findSuccessor(db, found.id))[0]?.key ?? "");
  const waiting = await listWaiting(db, found.id);
  const names = await namesBehind(
    db,
    found.seasonId,
    waiting.map(({ address }) => address),
  );
  const requests = await listOpenRequests(db, found.key);
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
