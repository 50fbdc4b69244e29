import type { Message } from "@amigo/language/message";
import { say, type Said } from "@amigo/language/say";
import { isInside } from "@amigo/core/address/isInside";
import { readAddress } from "@amigo/core/address/readAddress";
import type { Facts } from "@amigo/core/facts/fact";
import { indexFacts, type FactIndex } from "@amigo/core/facts/indexFacts";
import { applyEdit, type Edit, type StaffMember } from "@amigo/core/lists/edit";
import { listKeyParts } from "@amigo/core/lists/listKey";
import type { ListPoint } from "@amigo/core/lists/listPoint";
import { pointFault } from "@amigo/core/lists/pointFault";
import { listDeltas, type ListDelta } from "@amigo/core/lists/listDeltas";
import { rulesBroken } from "@amigo/core/lists/rulesBroken";
import { wantedLists, type WantedList } from "@amigo/core/lists/wantedLists";
import { boundSentence, isWithin } from "@amigo/core/posting/houseRules";
import { isAmigos } from "@amigo/core/posting/presets";
import { ruleFault, wordsOf } from "@amigo/core/posting/rules/allRules";
import { RULE_IDS } from "@amigo/core/posting/rules/rule";
import { checkAudience, checkCondition } from "@amigo/core/audience/checkAudience";
import { houseWords, type HouseWords } from "@amigo/core/audience/houseWords";
import { understoodAudience, understoodCondition } from "@amigo/core/lists/understood";
import { faultsOfName, isHard, nameFaultSentence } from "@amigo/core/naming/nameFault";
import { readPattern } from "@amigo/core/naming/pattern";
import { dayIn } from "@amigo/core/schedule/dayIn";
import { findCauses } from "@amigo/core/step/findCauses";
import type { StandingGuard } from "@amigo/core/step/guards/guard";
import { planRound } from "@amigo/core/step/planRound";
import type { Database, Queries } from "../db/connect";
import { notify } from "../events/events";
import { loadFacts } from "../facts/queries";
import { Refusal } from "../http/fault";
import { record } from "../events/record";
import {
  houseNaming,
  nameByConvention,
  nameMissing,
  type HouseNaming,
} from "../membership/nameWanted";
import { carryOut, type Actor, type CarriedOut } from "../change/carryOut";
import { outsideWords } from "../membership/outside";
import { countByList, countChanges } from "@amigo/core/step/netChanges";
import { guardStep } from "../change/guardStep";
import { recountOpen } from "../change/countRound";
import { describeCause } from "../change/storeCauses";
import { type Editor, refuseBeyondRights } from "./editRights";
import { storeDone } from "../change/storeDone";
import { noAddress } from "../texts/noAddress";
import { t } from "../texts/t";
import type { RoundTotals } from "../db/schema/rounds";
import { loadHouse, loadCurrentSeason } from "../db/houseQueries";
import { lockRounds } from "../change/roundQueries";
import type { RecipeValue } from "@amigo/core/lists/recipe";
import type { NamedList } from "@amigo/core/naming/nameLists";

/** What an edit would do today. */
export interface EditPlan {
  /** What it was planned on; something else by the time of doing it is refused. */
  version: number;
  causes: {
    kind: string;
    title: string;
    detail: string;
    joins: number;
    leaves: number;
    replaced: number;
  }[];
  totals: RoundTotals;
  guards: Said<StandingGuard>[];
  lists: (ListDelta & { joins: number; leaves: number })[];
}

/** An edit planned to the end: the facts it leads to, and everything that it does. */
async function plan(
  tx: Queries,
  edit: Edit,
  editor: Editor,
  asGranted = false,
  asked?: { edit: Edit; editor: Editor },
) {
  const current = await loadCurrentSeason(tx);
  const settings = await loadHouse(tx);
  if (current === undefined || settings === undefined)
    throw new Refusal(503, "not-set-up", t("shared.thisHouseHasNoCurrent"));
  const naming = await houseNaming(tx, current.id, dayIn(settings.timeZone, new Date()));
  const stand = await loadFacts(tx, current.id);
  const standing = indexFacts(stand);
  const facts = applyEdit(stand, edit, {
    origin: { from: "hand", by: editor.name, at: new Date().toISOString() },
    keptAsMade: t("rounds.addedWhenTheListWasMade"),
    season: current.label,
    codes: naming.codes,
    naming: naming.rules,
  });
  const after = indexFacts(facts);
  checkEdit(edit, standing, after, naming, settings.convention);
  if (!asGranted) await refuseBeyondRights(tx, edit, editor, standing, after, current.id);
  if (asked !== undefined)
    await refuseBeyondRights(tx, asked.edit, asked.editor, standing, after, current.id);
  checkRules(edit, standing, after, settings.insideDomain);
  checkKept(edit, after, settings.insideDomain);
  return {
    ...(await planFacts(tx, current.id, {
      stand,
      standing,
      facts,
      after,
      naming,
      insideDomain: settings.insideDomain,
    })),
    seasonId: current.id,
    version: current.version,
    stand,
    facts,
  };
}

/** Works out what going from some facts to others does: causes, changes, guards, and what becomes of each list. */
export async function planFacts(
  tx: Queries,
  seasonId: number,
  {
    stand,
    standing,
    facts,
    after,
    naming,
    insideDomain,
  }: {
    stand: Facts;
    standing: FactIndex;
    facts: Facts;
    after: FactIndex;
    naming: HouseNaming;
    insideDomain: string;
  },
) {
  const causes = findCauses(stand, facts);
  const { changes, index } = planRound(stand, causes);
  const all = causes.flatMap(({ key }) => changes.get(key) ?? []);
  const wanted = wantedLists(after);
  const before = wantedLists(standing);
  const deltas = listDeltas(before, wanted, nameMissing(wanted, after, naming), (key) =>
    freshlyBroken(key, before, wanted, standing, after, insideDomain),
  );
  const counts = countByList(all);
  const totals: RoundTotals = {
    ...countChanges(all),
    lists: new Set([...counts.keys(), ...deltas.map(({ key }) => key)]).size,
    accepted: causes.length,
    held: 0,
  };
  const guards = await guardStep(
    tx,
    seasonId,
    { changes: all, causes, stand, standing, all: index, after },
    [],
  );
  return {
    causes,
    changes,
    all,
    totals,
    guards,
    lists: deltas.map((delta) => ({
      ...delta,
      joins: counts.get(delta.key)?.joins ?? 0,
      leaves: counts.get(delta.key)?.leaves ?? 0,
    })),
  };
}

/** What it would do to edit recipes, lists or names, without doing it. */
export async function planEdit(
  db: Database,
  { editor, edit }: { editor: Editor; edit: Edit },
): Promise<EditPlan> {
  const { version, causes, changes, totals, guards, lists } = await plan(db, edit, editor);
  return { version, causes: causeLines(causes, changes), totals, guards, lists };
}

/** The causes of a plan, each with its changes counted. */
export function causeLines(
  causes: Awaited<ReturnType<typeof planFacts>>["causes"],
  changes: Awaited<ReturnType<typeof planFacts>>["changes"],
): EditPlan["causes"] {
  return causes.map((cause) => {
    const { joins, leaves, replaced } = describeCause(cause, changes.get(cause.key) ?? []);
    return {
      kind: cause.kind,
      title: say(cause.title),
      detail: say(cause.detail),
      joins,
      leaves,
      replaced,
    };
  });
}

/**
 * Edits recipes, lists or names as a round of its own, which is carried out at once and can be taken back.
 *
 * @throws Refusal 409 when something has changed since it was planned, 422 when a guard stands or the edit can not be
 */
export async function carryOutEdit(
  db: Database,
  {
    editor,
    edit,
    version,
    passed,
  }: { editor: Editor; edit: Edit; version: number; passed: Record<string, number> },
): Promise<CarriedOut & { round: number }> {
  return db.transaction(async (tx) => {
    await lockRounds(tx);
    const planned = await plan(tx, edit, editor);
    if (planned.version !== version)
      throw new Refusal(409, "edit/changed", t("rounds.somethingHasChangedSinceYou"));
    if (planned.causes.length === 0)
      throw new Refusal(409, "edit/nothing", t("rounds.thisChangesNothingEverythingIs"));
    refuseGuards(planned.guards, passed);
    return doEdit(tx, editor, planned);
  });
}

/** What a granted request does beside what its asker may: the edit with what is allowed, whose effect the decider has seen. Call it with the lock held. */
export async function carryOutGranted(
  tx: Queries,
  decider: Editor,
  edit: Edit,
  asker: string,
): Promise<CarriedOut & { round: number }> {
  return doEdit(tx, decider, await plan(tx, edit, { ...decider, name: asker }, true));
}

/** What granting would do, counted. `asked` is what the asker wants, where it is to be seen whether it is within what they may. */
export async function planGranted(
  tx: Queries,
  decider: Editor,
  edit: Edit,
  asked?: { edit: Edit; editor: Editor },
): Promise<Pick<EditPlan, "totals" | "lists">> {
  const { totals, lists } = await plan(tx, edit, decider, true, asked);
  return { totals, lists };
}

/** Takes people into the staff or out of it, as a round of its own; nothing where it changes nothing. Call it with the lock held. */
export async function changeStaff(
  tx: Queries,
  editor: Editor,
  people: readonly StaffMember[],
  gone: readonly string[],
): Promise<void> {
  const planned = await plan(tx, { what: "staff", people, gone, aliasUntil: "" }, editor, true);
  if (planned.causes.length > 0) await doEdit(tx, editor, planned);
}

async function doEdit(
  tx: Queries,
  { id, name }: Editor,
  planned: Awaited<ReturnType<typeof plan>>,
): Promise<CarriedOut & { round: number }> {
  const actor: Actor = { id: id === "" ? null : id, name };
  const number = await storeDone(tx, actor, planned);
  const done = await carryOut(
    tx,
    actor,
    { round: number, seasonId: planned.seasonId, words: t("rounds.round", { number }) },
    planned.stand,
    planned.facts,
  );
  const made = planned.lists.filter(({ what }) => what === "made").length;
  const parts = (["made", "opened", "closed", "renamed", "changed"] as const)
    .map((what) => ({ what, count: planned.lists.filter((list) => list.what === what).length }))
    .filter(({ count }) => count > 0)
    .map(({ what, count }) => `${count} ${what}`);
  await record(tx, {
    actorId: actor.id,
    actor: actor.name,
    action: "edit lists",
    sentence: t("rounds.changedInRound", {
      name: actor.name,
      title: planned.causes[0]?.title ?? t("rounds.theLists"),
      hasMore: planned.causes.length > 1,
      more: planned.causes.length - 1,
      number,
      count: parts.length,
      lists: parts.join(", "),
    }),
    before: { causes: planned.causes.map(({ key }) => key).slice(0, 200) },
    after: { made, lists: planned.lists.length },
  });
  await recountOpen(tx, planned.seasonId);
  await notify(tx, "rounds", "board", "house", "people");
  return { ...done, round: number };
}

/** @throws Refusal 422 when a guard stands whose count was not typed */
export function refuseGuards(
  guards: readonly Said<StandingGuard>[],
  passed: Record<string, number>,
): void {
  const standing = guards.find((guard) => passed[guard.id] !== guard.count);
  if (standing !== undefined)
    throw new Refusal(
      422,
      "round/guard",
      t("rounds.aSafetyCheckStopsThis", {
        about: standing.about,
        sentence: standing.sentence,
        count: standing.count,
      }),
      standing.id,
    );
}

/** Refuses an edit that can't be carried out: texts that are not understood, names that no list may have. */
function checkEdit(
  edit: Edit,
  standing: FactIndex,
  after: FactIndex,
  naming: HouseNaming,
  convention: "advises" | "binds",
): void {
  const words = houseWords(after, naming.season);
  if (edit.what === "recipe" && edit.value !== null) checkRecipe(edit.value, after, words);
  if (edit.what === "house") checkHouse(edit, standing, after);
  if (edit.what === "names") checkRenaming(edit, after);
  if (edit.what === "lists") {
    for (const list of edit.lists) checkList(list, after);
    for (const { key, points } of edit.lists)
      if (typeof points.audience === "string" && points.audience !== "")
        checkAudienceText(
          points.audience,
          after.lists.has(key) && wantedLists(after).get(key)?.recipe !== undefined,
          words,
        );
  }
  checkNames(standing, after, naming, convention);
}

/** Refuses an audience that is not understood, or that names what the house doesn't have. */
function checkAudienceText(text: string, allowsThis: boolean, words: HouseWords): void {
  const parsed = understoodAudience(text);
  const [fault] = parsed.ok
    ? checkAudience(parsed.audience, words, allowsThis).filter(
        ({ isAmbiguous }) => isAmbiguous !== true,
      )
    : [parsed.fault];
  if (fault !== undefined)
    throw new Refusal(
      422,
      "edit/audience",
      t("rounds.theAudienceIsNotRight", { sign: fault.at + 1, sentence: fault.sentence }),
      "audience",
    );
}

/** Refuses a recipe whose audience, condition, pattern or posting rules are not right. */
function checkRecipe(value: RecipeValue, after: FactIndex, words: HouseWords): void {
  checkAudienceText(value.audience, value.each !== "house", words);
  const condition = understoodCondition(value.condition);
  const [fault] = condition.ok ? checkCondition(condition.condition) : [condition.fault];
  if (fault !== undefined)
    throw new Refusal(
      422,
      "edit/condition",
      t("rounds.theConditionIsNotRight", { sign: fault.at + 1, sentence: fault.sentence }),
      "condition",
    );
  const pattern = readPattern(value.pattern);
  if (!pattern.ok) throw new Refusal(422, "edit/pattern", pattern.fault.sentence, "pattern");
  if (!isAmigos(value.preset) && !after.presets.has(value.preset))
    throw new Refusal(
      422,
      "edit/point",
      t("rounds.thereAreNoPostingRules", { preset: value.preset }),
      "preset",
    );
  for (const rule of RULE_IDS) {
    const wrong = value[rule] === undefined ? undefined : ruleFault(rule, value[rule]);
    if (wrong !== undefined) throw new Refusal(422, "edit/point", wrong, rule);
  }
}

/** Refuses other names for lists that are not there, and patterns that can't be read. */
function checkRenaming(
  { names, patterns }: Extract<Edit, { what: "names" }>,
  after: FactIndex,
): void {
  const wanted = wantedLists(after);
  const strange = Object.keys(names).find((key) => !wanted.has(key));
  if (strange !== undefined)
    throw new Refusal(
      422,
      "edit/list",
      t("rounds.thereIsNoListThat", { key: strange.slice(0, 80) }),
      "names",
    );
  for (const text of Object.values(patterns)) {
    const pattern = readPattern(text);
    if (!pattern.ok)
      throw new Refusal(
        422,
        "edit/pattern",
        t("rounds.isBroken", { title: text, broken: pattern.fault.sentence }),
        "pattern",
      );
  }
}

/** Bounds must leave something allowed, and what is usual within it; presets must be what can be, and not be taken away while something has them. */
function checkHouse(
  { bounds, presets }: Extract<Edit, { what: "house" }>,
  standing: FactIndex,
  after: FactIndex,
): void {
  for (const [key, bound] of Object.entries(bounds)) {
    const rule = RULE_IDS.find((id) => key.endsWith(` ${id}`));
    if (bound === null || rule === undefined) continue;
    const bad =
      ruleFault(rule, bound.usual) ??
      bound.allowed
        .split("|")
        .map((value) => ruleFault(rule, value))
        .find((fault) => fault !== undefined);
    if (bad !== undefined) throw new Refusal(422, "edit/bound", bad, key);
    if (!isWithin(rule, bound.usual, bound))
      throw new Refusal(
        422,
        "edit/bound",
        t("rounds.whatIsUsualMustBe", { rule: wordsOf(rule, bound.usual) }),
        key,
      );
  }
  for (const [id, preset] of Object.entries(presets)) {
    if (isAmigos(id))
      throw new Refusal(422, "edit/preset", t("rounds.thisPresetIsAmigosOwn"), "presets");
    const bad =
      preset === null
        ? undefined
        : RULE_IDS.map((rule) =>
            preset[rule] === undefined ? undefined : ruleFault(rule, preset[rule]),
          ).find((fault) => fault !== undefined);
    if (bad !== undefined) throw new Refusal(422, "edit/preset", bad, "presets");
    const user =
      preset === null && standing.presets.has(id)
        ? [...wantedLists(after).values()].find((list) => list.open && list.preset === id)
        : undefined;
    if (user !== undefined)
      throw new Refusal(
        409,
        "edit/preset",
        t("rounds.hasThesePostingRulesGive", { title: user.title }),
        "presets",
      );
  }
}

/** A list that somebody edits is one that a recipe can make, or one with an id of its own; what is said of it must be what can be. */
function checkList(
  { key, points, keep = [] }: Extract<Edit, { what: "lists" }>["lists"][number],
  after: FactIndex,
): void {
  const parts = listKeyParts(key);
  const isKnown =
    parts === undefined
      ? /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/.test(key)
      : after.recipes.has(parts.recipe) &&
        (after.cohorts.has(parts.of) || /^(site|level):|^house$/.test(parts.of));
  if (!isKnown)
    throw new Refusal(
      422,
      "edit/list",
      t("rounds.thereIsNoListAnd", { key: key.slice(0, 80) }),
      "lists",
    );
  if (parts === undefined && !(after.lists.get(key)?.has("title") ?? false))
    throw new Refusal(422, "edit/list", t("rounds.giveTheListADisplay"), "title");
  for (const [point, value] of Object.entries(points) as [ListPoint, string | null][]) {
    const fault =
      value === null
        ? undefined
        : pointFault(point, value, {
            isStaff: (id) => after.people.get(id)?.role === "staff",
            isPreset: (id) => isAmigos(id) || after.presets.has(id),
          });
    if (fault !== undefined) throw new Refusal(422, "edit/point", fault, point);
  }
  for (const address of keep) {
    const read = readAddress(address, new Map());
    if (read.answer !== "clean" || read.address !== address)
      throw new Refusal(422, "edit/address", noAddress(address, read), "keep");
  }
}

/** What is wrong between the rules of a list that was not wrong before, of what is refused. */
function freshlyBroken(
  key: string,
  before: ReadonlyMap<string, WantedList>,
  wanted: ReadonlyMap<string, WantedList>,
  standing: FactIndex,
  after: FactIndex,
  insideDomain: string,
): Message[] {
  const [old, now] = [before.get(key), wanted.get(key)];
  if (now === undefined) return [];
  const were = new Set(
    old === undefined
      ? []
      : rulesBroken(old, standing, insideDomain).map(({ sentence }) => say(sentence)),
  );
  return rulesBroken(now, after, insideDomain)
    .filter(({ invariant, sentence }) => invariant.refuses && !were.has(say(sentence)))
    .map(({ sentence }) => sentence);
}

/** The rules of a list must be within those of the house, and must not contradict each other. */
function checkRules(edit: Edit, standing: FactIndex, after: FactIndex, insideDomain: string): void {
  if (edit.what !== "lists" && edit.what !== "recipe") return;
  const before = wantedLists(standing);
  const wanted = wantedLists(after);
  const isTouched = (list: WantedList): boolean =>
    edit.what === "recipe"
      ? list.recipe === edit.recipe
      : edit.lists.some(({ key }) => key === list.key);
  for (const list of wanted.values()) {
    if (!list.open || !isTouched(list)) continue;
    const were = new Set(
      before.get(list.key)?.refused.map(({ rule, chosen }) => `${rule} ${chosen}`),
    );
    const refused = list.refused.find(({ rule, chosen }) => !were.has(`${rule} ${chosen}`));
    if (refused !== undefined)
      throw new Refusal(
        422,
        "edit/house-rule",
        t("rounds.aCoordinatorCanChangeThat", {
          title: list.title,
          kind: boundSentence(list.kind, refused.rule, refused.bound),
          rule: wordsOf(refused.rule, refused.chosen),
        }),
        refused.rule,
      );
    const [broken] = freshlyBroken(list.key, before, wanted, standing, after, insideDomain);
    if (broken !== undefined)
      throw new Refusal(422, "edit/invariant", t("rounds.isBroken", { title: list.title, broken }));
  }
}

/** Addresses that are put on a list by hand must be such as its rules take. */
function checkKept(edit: Edit, after: FactIndex, insideDomain: string): void {
  if (edit.what !== "lists" || edit.lists.every(({ keep = [] }) => keep.length === 0)) return;
  const guardians = new Set(
    [...after.people.values()].flatMap(({ role, addresses }) =>
      role === "guardian" ? [...addresses] : [],
    ),
  );
  const wanted = wantedLists(after);
  for (const { key, keep = [] } of edit.lists) {
    const rules = wanted.get(key)?.rules;
    if (rules === undefined || rules.outside === "any") continue;
    const strange = keep.filter(
      (address) =>
        !isInside(address, insideDomain) &&
        !(rules.outside === "guardians" && guardians.has(address)),
    );
    if (strange[0] !== undefined)
      throw new Refusal(
        422,
        "edit/outside",
        t("rounds.outsideYourDomainsAnd", {
          first: strange[0],
          more: strange.length - 1,
          why: outsideWords(rules),
        }),
        "outside",
      );
  }
}

/** Refuses a new name that no list may have, or, where the convention binds, that it doesn't make. */
function checkNames(
  standing: FactIndex,
  after: FactIndex,
  naming: HouseNaming,
  convention: "advises" | "binds",
): void {
  const before = wantedLists(standing);
  const wanted = wantedLists(after);
  const titles = new Map<string, string>();
  const byConvention =
    convention === "binds"
      ? new Map(nameByConvention(wanted.values(), after, naming).map((made) => [made.key, made]))
      : undefined;
  for (const { key, name, title, open } of wanted.values()) {
    if (name === undefined || !open) continue;
    const twin = titles.get(name);
    if (twin !== undefined)
      throw new Refusal(
        422,
        "edit/name",
        t("rounds.bothAndWouldBeCalled", { twin, title, name }),
        "name",
      );
    titles.set(name, title);
    if (before.get(key)?.name === name && before.get(key)?.open === true) continue;
    checkNewName({ key, name, title }, after, naming, byConvention?.get(key));
  }
}

/** Refuses a new name of a list that is malformed, another list's, or not what the convention makes. */
function checkNewName(
  { key, name, title }: { key: string; name: string; title: string },
  after: FactIndex,
  { rules }: HouseNaming,
  made: NamedList | undefined,
): void {
  const [fault] = faultsOfName(name, rules).filter(isHard);
  if (fault !== undefined)
    throw new Refusal(422, "edit/name", nameFaultSentence(fault, name, rules), "name");
  const holder = rules.heldBy(name);
  if (holder !== undefined && holder.key !== key && after.aliases.get(key)?.has(name) !== true)
    throw new Refusal(
      422,
      "edit/name",
      t("rounds.isBroken", {
        title,
        broken: nameFaultSentence(holder.now ? "taken" : "recent", name, rules),
      }),
      "name",
    );
  const allowed = after.exemptions.get(key)?.get("convention")?.allowed;
  if (made !== undefined && name !== made.name && name !== made.proposal && name !== allowed)
    throw new Refusal(
      422,
      "edit/convention",
      t("rounds.theHousesConventionBindsIs", { title, proposal: made.proposal }),
      "convention",
    );
}
