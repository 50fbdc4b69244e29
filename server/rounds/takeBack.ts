import { noSuch, refused, Refused } from "../refused";
import { inTransaction } from "../db/inTransaction";
import { kindOf } from "@amigo/core/facts/kinds/allKinds";
import { say, type Said } from "@amigo/language/say";
import type { Fact } from "@amigo/core/facts/fact";
import { wantedList } from "@amigo/core/lists/wantedLists";
import { indexFacts, sharedIndex } from "@amigo/core/facts/indexFacts";
import { nameOf, recipeNumber } from "@amigo/core/facts/factIndex";
import { findCauses } from "@amigo/core/step/findCauses";
import type { StandingGuard } from "@amigo/core/step/guards/guard";
import { planRound } from "@amigo/core/step/planRound";
import { takeBack as undo } from "@amigo/core/step/takeBack";
import type { Database, Queries } from "../db/connect";
import { notify } from "../events/events";
import { factsOfRound } from "../facts/queries";
import { standingFacts } from "../facts/standing";
import { record } from "../events/record";
import { carryOut, type Actor } from "../change/carryOut";
import { sharedAddresses } from "@amigo/core/identity/sharedAddresses";
import { sumChanges } from "@amigo/core/step/netChanges";
import { guardStep } from "../change/guardStep";
import { openRound } from "../change/openRound";
import { seasonToTakeBack, takeSeasonBack } from "./takeSeasonBack";
import { refuseGuards } from "./refuseGuards";
import { storeDone } from "../change/storeDone";
import { inStaffLanguage } from "../texts/inLanguage";
import { t } from "../texts/t";
import type { RoundTotals, round } from "../db/schema/rounds";
import { findRound, findUndoing } from "./queries";
import { lockRounds } from "../change/roundQueries";
import { loadCurrentSeason } from "../db/houseQueries";

/** How many causes are shown of what taking a round back would do. */
const SHOWN = 200;

/** What taking a round back would do today. */
export interface TakeBackPlan {
  /** The first of them; the totals count all. */
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
  /** What has changed since and is left alone, in sentences. */
  leftAlone: string[];
}

async function roundToTakeBack(tx: Queries, number: number) {
  const found = await findRound(tx, number);
  if (found === undefined) return noSuch("round");
  if (found.state !== "done")
    return refused(409, "round/not-done", t("rounds.roundWasNotCarriedOut", { number }));
  const later = await findUndoing(tx, number);
  if (later !== undefined)
    return refused(
      409,
      "round/taken-back",
      t("rounds.roundWasUndoneAlreadyBy", { number, later: later.number }),
    );
  return found;
}

async function plan(tx: Queries, found: typeof round.$inferSelect) {
  const { number } = found;
  const current = await loadCurrentSeason(tx);
  if (found.seasonId !== current?.id)
    return refused(
      409,
      "round/other-season",
      t("rounds.roundBelongsToAnotherSeason", {
        number,
        label: current?.label ?? t("rounds.theCurrentOne"),
      }),
    );
  const stand = await standingFacts(tx, found.seasonId);
  const { began, ended } = await factsOfRound(tx, found.seasonId, number);
  const { facts, left } = undo(stand, began, ended);
  const causes = findCauses(stand, facts);
  const standing = sharedIndex(stand);
  const { changes, index } = planRound(stand, causes);
  const sum = sumChanges(causes.flatMap(({ key }) => changes.get(key) ?? []));
  const totals: RoundTotals = {
    ...sum.counts,
    accepted: causes.length,
    held: 0,
  };
  const guards = await guardStep(
    tx,
    found.seasonId,
    { sum, causes, standing, all: index, shared: () => sharedAddresses(index) },
    [],
  );
  const everybody = indexFacts(
    new Map([...stand, ...[...began, ...ended].map((fact, at) => [`${at}`, fact] as const)]),
  );
  const leftAlone = [
    ...new Set(
      left.map(({ fact, why }) =>
        sentenceOf(
          fact,
          why,
          (id) =>
            everybody.cohorts.get(id)?.name ??
            wantedList(everybody, id)?.title ??
            everybody.recipes.get(recipeNumber(id))?.name ??
            nameOf(everybody.people.get(id)),
        ),
      ),
    ),
  ];
  return {
    seasonId: found.seasonId,
    stand,
    facts,
    causes,
    changes,
    totals,
    guards,
    leftAlone,
  };
}

/** What it would do to take a round back, without doing it. */
export async function planTakeBack(db: Queries, number: number): Promise<TakeBackPlan | Refused> {
  const found = await roundToTakeBack(db, number);
  if (found instanceof Refused) return found;
  if (found.opensAfter !== null) {
    const season = await seasonToTakeBack(db, {
      round: number,
      seasonId: found.seasonId,
      opensAfter: found.opensAfter,
    });
    if (season instanceof Refused) return season;
    const { from, to, lists } = season;
    const detail = t("rounds.isUndoneIsCurrentAgain", { from, lists });
    return {
      causes: [
        {
          kind: "season",
          title: t("rounds.season2", { to }),
          detail,
          joins: 0,
          leaves: 0,
          replaced: 0,
        },
      ],
      totals: { joins: 0, leaves: 0, replaced: 0, lists, accepted: 1, held: 0 },
      guards: [],
      leftAlone: [],
    };
  }
  const planned = await plan(db, found);
  if (planned instanceof Refused) return planned;
  const { causes, changes, totals, guards, leftAlone } = planned;
  const of = (key: string, kind: string): number =>
    (changes.get(key) ?? []).filter((change) => change.kind === kind).length;
  return {
    causes: causes.slice(0, SHOWN).map(({ key, kind, title, detail }) => ({
      kind,
      title: say(title),
      detail: say(detail),
      joins: of(key, "joins"),
      leaves: of(key, "leaves"),
      replaced: of(key, "replaced"),
    })),
    totals,
    guards,
    leftAlone,
  };
}

/**
 * Takes a past round back by a new round, computed against today: what has changed since is left alone and
 * named. What the sources still say of it comes back held, with its history.
 *
 * Refused with 409 when it was taken back already, or none of it is left to undo; 422 when a guard stands.
 */
export async function takeBack(
  db: Database,
  { actor, wanted }: { actor: Actor; wanted: { round: number; passed: Record<string, number> } },
): Promise<
  { round: number; lists: number; joins: number; leaves: number; next: number | null } | Refused
> {
  return inTransaction(db, async (tx) => {
    await lockRounds(tx);
    const found = await roundToTakeBack(tx, wanted.round);
    if (found instanceof Refused) return found;
    if (found.opensAfter !== null)
      return {
        joins: 0,
        leaves: 0,
        next: null,
        ...(await takeSeasonBack(tx, actor, {
          round: wanted.round,
          seasonId: found.seasonId,
          opensAfter: found.opensAfter,
        })),
      };
    const planned = await plan(tx, found);
    if (planned instanceof Refused) return planned;
    const { seasonId, stand, facts, causes, changes, totals, guards, leftAlone } = planned;
    if (causes.length === 0)
      return refused(
        409,
        "round/nothing-left",
        t("rounds.nothingOfRoundStandsAny", { round: wanted.round }),
      );
    const wrong = refuseGuards(guards, wanted.passed);
    if (wrong instanceof Refused) return wrong;
    const number = await storeDone(tx, actor, {
      seasonId,
      causes,
      changes,
      totals,
      takesBack: { round: wanted.round, leftAlone },
    });
    const done = await carryOut(
      tx,
      actor,
      {
        round: number,
        seasonId,
        words: () => t("rounds.roundWhichTakesBackRound", { number, round: wanted.round }),
      },
      stand,
      facts,
    );
    await record(tx, {
      actorId: actor.id,
      actor: actor.name,
      action: "take back",
      sentence: () =>
        t("rounds.tookBackRoundByRound", {
          name: actor.name,
          round: wanted.round,
          number,
          lists: done.lists,
          joins: done.joins,
          leaves: done.leaves,
        }),
      before: { round: wanted.round },
      after: { round: number, leftAlone },
    });
    const next = await openRound(tx);
    await notify(tx, "rounds", "board", "people");
    return {
      round: number,
      lists: done.lists,
      joins: done.joins,
      leaves: done.leaves,
      next: next.number,
    };
  });
}

function sentenceOf(
  fact: Fact,
  why: "changed since" | "has no owner now",
  name: (id: string) => string,
): string {
  // Stored with the round, so in the language of the house.
  return inStaffLanguage(() => {
    const what = say(kindOf(fact).called(fact, name));
    return why === "changed since"
      ? t("rounds.changedSinceSoItStays", { what })
      : t("rounds.notBroughtBackForWhom", { what });
  });
}
