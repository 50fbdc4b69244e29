import { orRefuse } from "../http/fault";
import type { getList, getListJournal, ListPage } from "@amigo/contract/lists";
import { audienceSentence } from "@amigo/core/audience/audienceSentence";
import type { FactIndex } from "@amigo/core/facts/factIndex";
import { POINT_WORDS } from "@amigo/core/lists/listPoint";
import { understoodAudience } from "@amigo/core/lists/understood";
import { wantedList, type WantedList } from "@amigo/core/lists/wantedLists";
import { nameFaultSentence, isHard } from "@amigo/core/naming/nameFault";
import { boundSentence } from "@amigo/core/posting/houseRules";
import { brokenInvariants } from "@amigo/core/posting/invariants/allInvariants";
import { presetOf } from "@amigo/core/posting/presets";
import { wordsOf } from "@amigo/core/posting/rules/allRules";
import { RULE_IDS } from "@amigo/core/posting/rules/rule";
import { workingAddresses } from "@amigo/core/reach/reach";
import { dayIn } from "@amigo/core/schedule/dayIn";
import { day } from "@amigo/language/message";
import { say, said } from "@amigo/language/say";
import type { Caller } from "../callers/caller";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { houseAtHand } from "../facts/standing";
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
import { loadStopped } from "../membership/addressQueries";
import { insideDomains } from "../db/insideDomains";

/** Returns one list with its counts, rules and leads. */
export async function showList(
  { db }: Context,
  { params, caller }: Request<typeof getList>,
): Promise<Answer<typeof getList>> {
  return listPage(db, orRefuse(await loadList(db, params.id, caller, "seen")), caller);
}

/** Returns what was done with a list, newest first. */
export async function showListJournal(
  { db }: Context,
  { params, caller }: Request<typeof getListJournal>,
): Promise<Answer<typeof getListJournal>> {
  const found = orRefuse(await loadList(db, params.id, caller));
  const rows = await listListJournal(db, found.id);
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}

/** Returns everything about a list but its members. */
async function listPage(db: Queries, found: LoadedList, caller: Caller): Promise<ListPage> {
  const isOpen = found.closedAt === null;
  const index = await houseAtHand(db, found.seasonId);
  const [running, mine, seen, inside, head, breach, counts, pending] = await Promise.all([
    listRolesByName(db, found.id),
    findChangeable(db, found.id, caller),
    findVisible(db, found.id, caller),
    insideDomains(db),
    headOf(db, found, caller),
    found.isCurrent && isOpen ? breachOf(db, found, index) : null,
    countsOf(db, found),
    pendingOf(db, found),
  ]);
  return {
    ...head,
    ...rulesOf(found, index, running, inside),
    breach,
    ...counts,
    leads: namesWith(running, "lead"),
    helpers: namesWith(running, "helper"),
    may: {
      change: mine !== undefined && found.isCurrent,
      add:
        mine !== undefined &&
        isOpen &&
        !(found.rules.joining === "roster" && caller.role === "staff"),
      decide: mine !== undefined || running.some(({ id }) => id === caller.id),
      see: seen !== undefined,
    },
    ...pending,
  };
}

type Running = Awaited<ReturnType<typeof listRolesByName>>;

function namesWith(running: Running, wanted: "lead" | "helper"): string[] {
  return running.filter(({ role }) => role === wanted).map(({ name }) => name);
}

/** Returns what a list is called, where it stands, and what it became. */
async function headOf(db: Queries, found: LoadedList, caller: Caller) {
  const [aliases, watched, shortName] = await Promise.all([
    listAliases(db, found.id),
    findWatch(db, caller.id, found.id),
    findShortName(db, found.id, caller.id),
  ]);
  const successor =
    found.closedAt === null
      ? undefined
      : await successorOf(db, (await findSuccessor(db, found.id))[0]?.key ?? "");
  return {
    id: found.id,
    key: found.key,
    name: found.name,
    address: `${found.name}@${found.listDomain}`,
    aliases: aliases.map(({ name, until }) => ({ name, until: until ?? "" })),
    title: found.title,
    description: found.description,
    short: found.short,
    ownShort: shortName?.short ?? "",
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
  };
}

/** Returns for whom a list is and what its rules are, with the notes on them. */
function rulesOf(
  found: LoadedList,
  index: FactIndex,
  running: Running,
  insideDomains: readonly string[],
) {
  const wanted = wantedList(index, found.key);
  const recipe = found.recipeId === null ? undefined : index.recipes.get(found.recipeId);
  const broken =
    wanted === undefined || found.closedAt !== null
      ? []
      : brokenInvariants(
          {
            kind: found.kind,
            rules: found.rules,
            hasLead: running.some(({ role }) => role === "lead"),
            insideDomains,
          },
          index.invariantsOff,
        ).map(({ sentence }) => sentence);
  return {
    recipe:
      recipe === undefined || found.recipeId === null
        ? null
        : { id: found.recipeId, name: recipe.name },
    audience: found.audience,
    audienceSentence: audienceInWords(found.audience, wanted),
    preset: { id: found.preset, name: say(presetOf(found.preset, index.presets).name) },
    kind: found.kind,
    rules: found.rules,
    notes: wanted === undefined ? [] : notesOf(wanted, index),
    broken: said(broken),
    adding: found.adding,
    apart: found.apart.map((point) => ({ point, words: say(POINT_WORDS[point]) })),
  };
}

/** Returns an audience in words. What "this class" means on this list is known from the list as it is wanted. */
function audienceInWords(audience: string, wanted: WantedList | undefined): string {
  if (audience === "") return t("lists.thoseWhoArePutOn");
  const understood = understoodAudience(audience);
  return understood.ok
    ? say(audienceSentence(wanted?.audience ?? understood.audience))
    : say(understood.fault.sentence);
}

/** Returns how many addresses, people and families are on a list, who can't be reached, and how it differs from the roster. */
async function countsOf(db: Queries, found: LoadedList) {
  const [belonging, onIt, differences, stopped] = await Promise.all([
    whoBelongs(db, found),
    listMemberAddresses(db, found.id),
    openDifferences(db),
    loadStopped(db),
  ]);
  const members = new Set(onIt.map(({ address }) => address));
  const difference = differences.get(found.key);
  const reached = belonging.filter(({ addresses }) =>
    workingAddresses(addresses, stopped).some((address) => members.has(address)),
  );
  return {
    members: members.size,
    people: reached.length,
    families: new Set(reached.map(({ family }) => family)).size,
    unreachable: belonging
      .filter(({ addresses }) => workingAddresses(addresses, stopped).length === 0)
      .map(({ name, because, where }) => ({
        name,
        because: where === "" ? because : `${because} · ${where}`,
      })),
    joins: difference?.joins ?? 0,
    leaves: difference?.leaves ?? 0,
  };
}

/** Returns who was asked to join a list, who waits for a lead, and which requests about it are open. */
async function pendingOf(db: Queries, found: LoadedList) {
  const [asked, waiting, requests] = await Promise.all([
    countAsked(db, found.id),
    listWaiting(db, found.id),
    listOpenRequests(db, found.key),
  ]);
  const names = await namesBehind(
    db,
    found.seasonId,
    waiting.map(({ address }) => address),
  );
  return {
    asked: asked?.count ?? 0,
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
  index: FactIndex,
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
