import { refused, Refused } from "../refused";
import { inTransaction } from "../db/inTransaction";
import { factDifference } from "@amigo/core/facts/factDifference";
import { kindOf } from "@amigo/core/facts/kinds/allKinds";
import { houseOfLists } from "@amigo/core/lists/rulesBroken";
import { checkEdit } from "./checkEdit";
import { checkKept, checkRules, freshlyBroken } from "./checkRules";
import { say, type Said } from "@amigo/language/say";
import type { Facts } from "@amigo/core/facts/fact";
import { indexFrom, sharedIndex } from "@amigo/core/facts/indexFacts";
import type { FactIndex } from "@amigo/core/facts/factIndex";
import { applyEdit, type Edit, type StaffMember } from "@amigo/core/lists/edit";
import { listDeltas, type ListDelta } from "@amigo/core/lists/listDeltas";
import { dayIn } from "@amigo/core/schedule/dayIn";
import { findCauses } from "@amigo/core/step/findCauses";
import type { StandingGuard } from "@amigo/core/step/guards/guard";
import { planRound } from "@amigo/core/step/planRound";
import { refuseGuards } from "./refuseGuards";
import type { Database, Queries } from "../db/connect";
import { notify } from "../events/events";
import { standingFacts } from "../facts/standing";
import { refuse } from "../http/fault";
import { record } from "../events/record";
import { houseNaming, nameMissing, type HouseNaming } from "../membership/nameWanted";
import { carryOut, type Actor, type CarriedOut } from "../change/carryOut";
import { sharedAddresses } from "@amigo/core/identity/sharedAddresses";
import { sumChanges } from "@amigo/core/step/netChanges";
import { guardStep } from "../change/guardStep";
import { recountOpen } from "../change/countRound";
import { describeCause } from "../change/storeCauses";
import { type Editor, checkRights } from "./editRights";
import { storeDone } from "../change/storeDone";
import { inStaffLanguage } from "../texts/inLanguage";
import { t } from "../texts/t";
import type { RoundTotals } from "../db/schema/rounds";
import { loadHouse, loadCurrentSeason } from "../db/houseQueries";
import { lockRounds } from "../change/roundQueries";
import { insideDomains } from "../db/insideDomains";

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
    return refused(503, "not-set-up", t("shared.thisHouseHasNoCurrent"));
  const naming = await houseNaming(tx, current.id, dayIn(settings.timeZone, new Date()));
  const stand = await standingFacts(tx, current.id);
  const standing = sharedIndex(stand);
  const facts = applyEdit(stand, edit, {
    origin: { from: "hand", by: editor.name, at: new Date().toISOString() },
    keptAsMade: inStaffLanguage(() => t("rounds.addedWhenTheListWasMade")),
    season: current.label,
    codes: naming.codes,
    naming: naming.rules,
  });
  const after = indexFrom(stand, facts);
  refuse(checkEdit(edit, standing, after, naming, settings.convention));
  if (!asGranted) refuse(await checkRights(tx, edit, editor, standing, after, current.id));
  if (asked !== undefined)
    refuse(await checkRights(tx, asked.edit, asked.editor, standing, after, current.id));
  const domains = { insideDomains: await insideDomains(tx) };
  refuse(checkRules(edit, standing, after, domains.insideDomains));
  refuse(checkKept(edit, after, domains.insideDomains));
  const planned = { stand, standing, facts, after, naming, ...domains };
  return {
    ...(await planFacts(tx, current.id, planned)),
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
    insideDomains,
  }: {
    stand: Facts;
    standing: FactIndex;
    facts: Facts;
    after: FactIndex;
    naming: HouseNaming;
    insideDomains: readonly string[];
  },
) {
  const difference = factDifference(stand, facts);
  const causes = findCauses(stand, facts, difference);
  const { changes, index } = planRound(stand, causes);
  const all = causes.flatMap(({ key }) => changes.get(key) ?? []);
  const [was, is] = [houseOfLists(standing), houseOfLists(after)];
  // Of a list that stays as it is nothing new is wrong, unless somebody else leads it or other rules hold.
  const isListsAlone = [...difference.added, ...difference.removed].every(
    (fact) => kindOf(fact).about === "list",
  );
  const isSame = (key: string): boolean => isListsAlone && was.lists.get(key) === is.lists.get(key);
  const deltas = listDeltas(was.lists, is.lists, nameMissing(is.lists, after, naming), (key) =>
    isSame(key) ? [] : freshlyBroken(key, was, is, insideDomains),
  );
  const sum = sumChanges(all);
  const counts = sum.byList;
  const totals: RoundTotals = {
    ...sum.counts,
    lists: new Set([...counts.keys(), ...deltas.map(({ key }) => key)]).size,
    accepted: causes.length,
    held: 0,
  };
  const guards = await guardStep(
    tx,
    seasonId,
    { sum, causes, standing, all: index, shared: () => sharedAddresses(after) },
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
): Promise<EditPlan | Refused> {
  const planned = await plan(db, edit, editor);
  if (planned instanceof Refused) return planned;
  const { version, causes, changes, totals, guards, lists } = planned;
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
 * Refused with 409 when something has changed since it was planned, 422 when a guard stands or the edit can't be.
 */
export async function carryOutEdit(
  db: Database,
  {
    editor,
    edit,
    version,
    passed,
  }: { editor: Editor; edit: Edit; version: number; passed: Record<string, number> },
): Promise<(CarriedOut & { round: number }) | Refused> {
  return inTransaction(db, async (tx) => {
    await lockRounds(tx);
    const planned = await plan(tx, edit, editor);
    if (planned instanceof Refused) return planned;
    if (planned.version !== version)
      return refused(409, "edit/changed", t("rounds.somethingHasChangedSinceYou"));
    if (planned.causes.length === 0)
      return refused(409, "edit/nothing", t("rounds.thisChangesNothingEverythingIs"));
    const wrong = refuseGuards(planned.guards, passed);
    if (wrong instanceof Refused) return wrong;
    return doEdit(tx, editor, planned);
  });
}

/** What a granted request does beside what its asker may: the edit with what is allowed, whose effect the decider has seen. Call it with the lock held. */
export async function carryOutGranted(
  tx: Queries,
  decider: Editor,
  edit: Edit,
  asker: string,
): Promise<(CarriedOut & { round: number }) | Refused> {
  const planned = await plan(tx, edit, { ...decider, name: asker }, true);
  return planned instanceof Refused ? planned : doEdit(tx, decider, planned);
}

/** What granting would do, counted. `asked` is what the asker wants, where it is to be seen whether it is within what they may. */
export async function planGranted(
  tx: Queries,
  decider: Editor,
  edit: Edit,
  asked?: { edit: Edit; editor: Editor },
): Promise<Pick<EditPlan, "totals" | "lists"> | Refused> {
  const planned = await plan(tx, edit, decider, true, asked);
  if (planned instanceof Refused) return planned;
  const { totals, lists } = planned;
  return { totals, lists };
}

/** Takes people into the staff or out of it, as a round of its own; nothing where it changes nothing. Call it with the lock held. */
export async function changeStaff(
  tx: Queries,
  editor: Editor,
  people: readonly StaffMember[],
  gone: readonly string[],
): Promise<Refused | undefined> {
  const planned = await plan(tx, { what: "staff", people, gone, aliasUntil: "" }, editor, true);
  if (planned instanceof Refused) return planned;
  if (planned.causes.length > 0) await doEdit(tx, editor, planned);
}

async function doEdit(
  tx: Queries,
  { id, name }: Editor,
  planned: Exclude<Awaited<ReturnType<typeof plan>>, Refused>,
): Promise<CarriedOut & { round: number }> {
  const actor: Actor = { id: id === "" ? null : id, name };
  const number = await storeDone(tx, actor, planned);
  const done = await carryOut(
    tx,
    actor,
    { round: number, seasonId: planned.seasonId, words: () => t("rounds.round", { number }) },
    planned.stand,
    planned.facts,
  );
  const made = planned.lists.filter(({ what }) => what === "made").length;
  const parts = (["made", "opened", "closed", "renamed", "changed"] as const)
    .map((what) => ({ what, count: planned.lists.filter((list) => list.what === what).length }))
    .filter(({ count }) => count > 0);
  await record(tx, {
    actorId: actor.id,
    actor: actor.name,
    action: "edit lists",
    sentence: () =>
      t("rounds.changedInRound", {
        name: actor.name,
        title: planned.causes[0]?.title ?? t("rounds.theLists"),
        hasMore: planned.causes.length > 1,
        more: planned.causes.length - 1,
        number,
        count: parts.length,
        lists: parts.map((part) => t("rounds.listsThatWere", part)).join(", "),
      }),
    before: { causes: planned.causes.map(({ key }) => key).slice(0, 200) },
    after: { made, lists: planned.lists.length },
  });
  await recountOpen(tx, planned.seasonId);
  await notify(tx, "rounds", "board", "house", "people");
  return { ...done, round: number };
}
