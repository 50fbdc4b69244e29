import { and, eq, ne, sql } from "drizzle-orm";
import type { Hono } from "hono";
import { said, say } from "@amigo/language/say";
import { partsOf } from "@amigo/core/audience/audience";
import { audienceSentence } from "@amigo/core/audience/audienceSentence";
import { becauseOf } from "@amigo/core/audience/becauseOf";
import { bindAudience, type This } from "@amigo/core/audience/bindAudience";
import { checkAudience } from "@amigo/core/audience/checkAudience";
import { completeAudience } from "@amigo/core/audience/completeAudience";
import { houseWords, type HouseWords } from "@amigo/core/audience/houseWords";
import { parseAudience } from "@amigo/core/audience/parseAudience";
import { whoBelongs } from "@amigo/core/audience/whoBelongs";
import { nameOf, type FactIndex } from "@amigo/core/facts/indexFacts";
import type { CohortValue } from "@amigo/core/facts/fact";
import { listKeyParts } from "@amigo/core/lists/listKey";
import type { Each } from "@amigo/core/lists/recipe";
import { proposeSeason } from "@amigo/core/lists/nextSeason";
import { wantedLists } from "@amigo/core/lists/wantedLists";
import { faultsOfName, nameFaultSentence } from "@amigo/core/naming/nameFault";
import { readPattern } from "@amigo/core/naming/pattern";
import { BOUND_RULES, boundKey, boundOf, type HouseRules } from "@amigo/core/posting/houseRules";
import { PRESETS } from "@amigo/core/posting/presets";
import { LIST_KINDS, RULE_IDS, type RuleId } from "@amigo/core/posting/rules/rule";
import { staffId } from "@amigo/core/step/carryByHand";
import type { Caller } from "../callers/caller";
import { proposeShortForms } from "@amigo/core/naming/shortForm";
import { dayIn } from "@amigo/core/schedule/dayIn";
import { fold } from "@amigo/core/text/fold";
import {
  getMaking,
  getNaming,
  getNextSeason,
  getAudienceWords,
  postAudienceTry,
  postEdit,
  postEditPlan,
  postNamesTry,
  postSeason,
  postSeasonPlan,
  putNaming,
} from "@amigo/contract/edits";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { loadFacts } from "../facts/queries";
import { houseIndex, standingIndex } from "../facts/standing";
import { Refusal } from "../http/fault";
import { route } from "../http/route";
import { refuseStale, versionOf } from "../http/version";
import { record } from "../journal/record";
import { editorOf } from "../rounds/reach";
import { knownPeople } from "../membership/knownPeople";
import { houseNaming, nameByConvention } from "../membership/nameWanted";
import { t } from "../texts/t";
import { accountInForce } from "../callers/inForce";
import { house, season } from "../db/schema/house";
import { account } from "../db/schema/accounts";

const FIRST = 8;

export function editRoutes(app: Hono, context: Context): void {
  const { db, desk } = context;

  route(app, context, postEditPlan, async ({ body, caller }) =>
    said(await desk.run("planEdit", { editor: editorOf(caller), edit: body.edit })),
  );
  route(app, context, postEdit, async ({ body, caller, long }) =>
    desk.run("carryOutEdit", { editor: editorOf(caller), ...body }, long),
  );

  route(app, context, getMaking, async ({ caller }) => {
    const current = await currentSeason(db);
    const index = await houseIndex(db, current.id);
    const [own] = await db
      .select({ insideDomain: house.insideDomain, listDomain: house.listDomain })
      .from(house);
    const staff = await db
      .select({ id: account.id, name: account.name })
      .from(account)
      .where(and(accountInForce, ne(account.role, "helper")))
      .orderBy(account.name);
    const presets = [
      ...Object.entries(PRESETS).map(([id, preset]) => ({ id, ...preset, own: false })),
      ...[...index.presets].map(([id, preset]) => ({ id, ...preset, own: true })),
    ];
    const bounds = LIST_KINDS.flatMap((kind) =>
      BOUND_RULES.map((rule) => [boundKey(kind, rule), boundOf(kind, rule, index.bounds)] as const),
    ).filter(([key, bound]) => {
      const widest = boundOf("guardians", ruleIn(key), NO_BOUNDS);
      return (
        key.includes(" outside") || bound.allowed !== widest.allowed || bound.usual !== widest.usual
      );
    });
    return {
      staff: staff.map(({ id, name }) => ({ id: staffId(id), name })),
      self: staffId(caller.id),
      presets: said(presets),
      bounds: Object.fromEntries(bounds),
      invariantsOff: [...index.invariantsOff],
      recipes: [...index.recipes].map(([id, { name, each, leads }]) => ({ id, name, each, leads })),
      insideDomain: own?.insideDomain ?? "",
      listDomain: own?.listDomain ?? "",
      everything: caller.role === "coordinator",
    };
  });

  /** The house as somebody may know it: its facts, the people whom they may know, undefined for all, and the names of both. */
  async function knownHouse(caller: Caller) {
    const current = await currentSeason(db);
    const index = await standingIndex(db, current.id);
    const known =
      caller.role === "coordinator" ? undefined : (await knownPeople(db, caller)).people;
    const words =
      known === undefined
        ? wordsOf(index, current.label)
        : houseWords(
            { ...index, people: new Map([...index.people].filter(([id]) => known.has(id))) },
            current.label,
          );
    return { index, known, words };
  }

  route(app, context, getAudienceWords, async ({ caller }) => {
    const { words } = await knownHouse(caller);
    return {
      cohorts: words.cohorts
        .map(({ name, kind }) => ({ name, kind }))
        .sort((a, b) => a.name.localeCompare(b.name, "en")),
      sites: words.sites,
      levels: words.levels,
      columns: words.columns,
    };
  });

  route(app, context, postAudienceTry, async ({ body, caller }) => {
    const { index, known, words } = await knownHouse(caller);
    const completions = completeAudience(
      body.text.slice(0, body.cursor ?? body.text.length),
      words,
    );
    const parsed = parseAudience(body.text);
    const nothing = { sentence: "", example: "", people: 0, addresses: 0, first: [], completions };
    if (!parsed.ok)
      return {
        ...nothing,
        faults:
          body.text.trim() === ""
            ? []
            : [{ ...said(parsed.fault), proposal: parsed.fault.proposal ?? null }],
      };
    const faults = checkAudience(
      parsed.audience,
      words,
      body.each !== "" && body.each !== "house",
      body.text,
    ).map((fault) => ({ ...said(fault), proposal: fault.proposal ?? null }));
    const example = exampleOf(
      body.each,
      words,
      index.cohorts.get(listKeyParts(body.list)?.of ?? ""),
    );
    const all = whoBelongs(bindAudience(parsed.audience, example), index);
    // Who is on no list that the asker sees is not told, neither by name nor by number.
    const found = known === undefined ? all : all.filter(({ person }) => known.has(person.id));
    // Nor whether a single child is one of them: only whole classes, sites and levels are measured against what they lead.
    const reachesOthers =
      known !== undefined &&
      [...partsOf(parsed.audience)].some(
        (part) =>
          part.op === "group" &&
          whoBelongs(bindAudience({ ...part, where: undefined }, example), index).some(
            ({ person }) => !known.has(person.id),
          ),
      );
    if (reachesOthers)
      faults.push({
        at: 0,
        length: body.text.length,
        sentence: t("edits.itReachesPeopleWhoAre"),
        proposal: null,
      });
    return {
      faults,
      completions,
      sentence: say(audienceSentence(parsed.audience)),
      example: example?.name ?? "",
      people: found.length,
      addresses: new Set(found.flatMap(({ person }) => [...person.addresses])).size,
      first: found.slice(0, FIRST).map(({ person, reason }) => ({
        name: nameOf(person),
        because: say(becauseOf(reason, index)),
        reached: person.addresses.size > 0,
      })),
    };
  });

  route(app, context, postNamesTry, async ({ body }) => {
    const current = await currentSeason(db);
    const standing = await standingIndex(db, current.id);
    const recipes = new Map(
      [...standing.recipes].map(([id, value]) => [
        id,
        { ...value, pattern: body.patterns[id] ?? value.pattern },
      ]),
    );
    const shorts = new Map(standing.shorts);
    for (const [name, short] of Object.entries(body.shorts)) {
      if (short === null || short === "") shorts.delete(fold(name));
      else shorts.set(fold(name), short);
    }
    const index: FactIndex = { ...standing, recipes, shorts };
    const lists = [...wantedLists(index).values()].filter(
      ({ open, name }) => open && name !== undefined,
    );
    const naming = await houseNaming(db, current.id, await today(db));
    const named = new Map(
      nameByConvention(
        lists.filter(({ recipe }) => recipe !== undefined),
        index,
        naming,
      ).map((own) => [own.key, own]),
    );
    const names = [
      ...new Set([
        ...[...index.cohorts.values()].map(({ name }) => name),
        ...[...recipes.values()].map(({ label }) => label),
      ]),
    ].sort((a, b) => a.localeCompare(b, "en"));
    const proposed = proposeShortForms(names, shorts);
    return {
      rows: lists
        .map(({ key, title, site, recipe, name = "" }) => {
          const own = named.get(key) ?? {
            name,
            proposal: name,
            faults: faultsOfName(name, naming.rules),
          };
          return {
            key,
            title,
            site,
            recipe: recipe ?? null,
            now: name,
            made: own.name,
            proposal: own.proposal,
            faults: own.faults.map((fault) => ({
              fault,
              sentence: say(nameFaultSentence(fault, own.name, naming.rules)),
            })),
          };
        })
        .sort((a, b) => a.site.localeCompare(b.site, "en") || a.title.localeCompare(b.title, "en")),
      shorts: names.map((name) => ({
        name,
        short: shorts.get(fold(name)) ?? proposed.get(fold(name)) ?? "",
        chosen: shorts.has(fold(name)),
      })),
      faults: [...recipes].flatMap(([recipe, { pattern }]) => {
        const read = readPattern(pattern);
        return read.ok
          ? []
          : [{ recipe, ...said(read.fault), proposal: read.fault.proposal ?? null }];
      }),
    };
  });

  route(app, context, getNaming, async () => {
    const own = await namingSettings(db);
    return { ...own, version: versionOf(own) };
  });

  route(app, context, putNaming, async ({ body: { version, ...body }, caller }) => {
    const wanted = { ...body, reserved: [...new Set(body.reserved.filter((name) => name !== ""))] };
    await db.transaction(async (tx) => {
      await tx.select({ id: house.id }).from(house).for("update");
      const before = await namingSettings(tx);
      refuseStale(before, version);
      await tx.update(house).set({
        nameLimit: wanted.nameLimit,
        reservedNames: wanted.reserved,
        convention: wanted.convention,
      });
      await record(tx, {
        actorId: caller.id,
        actor: caller.name,
        action: "change naming",
        sentence: t("edits.changedTheNamingRulesThe", {
          name: caller.name,
          convention: wanted.convention,
          nameLimit: wanted.nameLimit,
        }),
        before,
        after: wanted,
      });
    });
    return { ...wanted, version: versionOf(wanted) };
  });

  route(app, context, getNextSeason, async () => {
    const current = await currentSeason(db);
    const facts = await loadFacts(db, current.id);
    const index = await standingIndex(db, current.id);
    return {
      current: current.label,
      wanted: proposeSeason(facts, current.label),
      cohorts: [...index.cohorts]
        .map(([key, { name, kind, site }]) => ({
          key,
          name,
          kind,
          site,
          students: index.enrolled.get(key)?.size ?? 0,
        }))
        .sort(
          (a, b) =>
            a.kind.localeCompare(b.kind) ||
            a.site.localeCompare(b.site, "en") ||
            a.name.localeCompare(b.name, "en"),
        ),
    };
  });

  route(app, context, postSeasonPlan, async ({ body }) => said(await desk.run("planSeason", body)));
  route(app, context, postSeason, async ({ body, caller, long }) =>
    desk.run("openSeason", { actor: { id: caller.id, name: caller.name }, ...body }, long),
  );
}

const NO_BOUNDS: HouseRules = new Map();

function ruleIn(key: string): RuleId {
  return RULE_IDS.find((id) => key.endsWith(` ${id}`)) ?? "writers";
}

async function currentSeason(db: Queries): Promise<{ id: number; label: string }> {
  const [current] = await db
    .select({ id: season.id, label: season.label })
    .from(season)
    .where(eq(season.current, true));
  if (current === undefined)
    throw new Refusal(503, "not-set-up", t("shared.thisHouseHasNoCurrent"));
  return current;
}

async function today(db: Queries): Promise<string> {
  const [own] = await db.select({ timeZone: sql<string>`${house.timeZone}` }).from(house);
  return dayIn(own?.timeZone ?? "UTC", new Date());
}

const WORDS = new WeakMap<FactIndex, HouseWords>();

/** The names of the house, gathered once for as long as nothing changes. */
function wordsOf(index: FactIndex, label: string): HouseWords {
  const known = WORDS.get(index) ?? houseWords(index, label);
  WORDS.set(index, known);
  return known;
}

/** What "this" stands for while an audience is typed: the list's own class, in a recipe the first that it would be for. */
function exampleOf(
  each: Each | "",
  words: HouseWords,
  own: CohortValue | undefined,
): This | undefined {
  if (own !== undefined) return { kind: own.kind, name: own.name };
  if (each === "" || each === "house") return undefined;
  const name =
    each === "site"
      ? words.sites[0]
      : each === "level"
        ? words.levels[0]
        : words.cohorts.find(({ kind }) => kind === each)?.name;
  return name === undefined ? undefined : { kind: each, name };
}

async function namingSettings(db: Queries) {
  const [own] = await db
    .select({
      nameLimit: house.nameLimit,
      reserved: house.reservedNames,
      convention: house.convention,
    })
    .from(house);
  if (own === undefined) throw new Refusal(503, "not-set-up", t("shared.thisHouseIsNotSet"));
  return own;
}
