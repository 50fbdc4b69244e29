import { Refused, refused } from "../refused";
import { inTransaction } from "../db/inTransaction";
import { inArray, sql } from "drizzle-orm";
import { applyCauses } from "@amigo/core/step/applyCauses";
import type { Database, Queries } from "../db/connect";
import { notify } from "../events/events";
import { standingFacts } from "../facts/standing";
import { record } from "../events/record";
import { carryOut, type Actor } from "../change/carryOut";
import { openRound } from "../change/openRound";
import { refuseGuards } from "./refuseGuards";
import { t } from "../texts/t";
import { cause } from "../db/schema/rounds";
import { markDone, findRoundWithCloser } from "./queries";
import { lockRounds, keepDerived } from "../change/roundQueries";
import { listChosenCauses, removeOtherCauses } from "./causeQueries";

/** What was done by bringing lists in step. */
export interface StepOutcome {
  round: number;
  lists: number;
  joins: number;
  leaves: number;
  /** The round that now holds what was held, or null. */
  next: number | null;
}

/** What somebody wants carried out, of a round as they saw it. */
export interface WantedStep {
  round: number;
  version: number;
  /** The counts that were typed for the guards that stand, by the guard's id. */
  passed: Record<string, number>;
  /** Positions of accepted causes to which it is limited; the others stay open. */
  only?: readonly number[];
}

/**
 * Carries out what is accepted of the open round, in one transaction: facts, classes, lists and
 * memberships, journalled. Pressed twice, or by two people at once, it happens once.
 *
 * Refused with 409 when the round was carried out or has changed meanwhile, 422 when a guard stands.
 */
export async function bringInStep(
  db: Database,
  { actor, wanted }: { actor: Actor; wanted: WantedStep },
): Promise<StepOutcome | Refused> {
  return inTransaction(db, async (tx) => {
    await lockRounds(tx);
    return stepInside(tx, actor, wanted);
  });
}

/** The same, in a transaction that holds the lock already. */
export async function stepInside(
  tx: Queries,
  actor: Actor,
  wanted: WantedStep,
): Promise<StepOutcome | Refused> {
  const found = await checkRound(tx, wanted);
  if (found instanceof Refused) return found;
  const stand = await standingFacts(tx, found.seasonId);
  const isChosen =
    wanted.only === undefined ? sql`true` : inArray(cause.position, [...wanted.only]);
  const accepted = await listChosenCauses(tx, found.number, isChosen);
  if (accepted.length === 0)
    return refused(422, "round/nothing-accepted", t("rounds.everyCauseOfThisRound"));
  const done = await carryOut(
    tx,
    actor,
    {
      round: found.number,
      seasonId: found.seasonId,
      words: () => t("rounds.round", { number: found.number }),
    },
    stand,
    applyCauses(stand, accepted),
  );
  const sentence = () =>
    t("rounds.broughtInStepInRound", {
      name: actor.name,
      lists: done.lists,
      number: found.number,
      joins: done.joins,
      leaves: done.leaves,
    });
  await record(tx, {
    actorId: actor.id,
    actor: actor.name,
    action: "bring in step",
    sentence,
    before: { causes: accepted.length },
    after: { joins: done.joins, leaves: done.leaves, listsMade: done.listsMade },
  });
  // What was not chosen was not decided either: it comes back open, not held.
  if (wanted.only !== undefined) await removeOtherCauses(tx, found.number, isChosen);
  await markDone(tx, actor.id, actor.name, found.number);
  const next = await openNext(
    tx,
    found.seasonId,
    found.accepted === accepted.length && found.held === 0,
  );
  await notify(tx, "rounds", "board", "people");
  return { round: found.number, lists: done.lists, joins: done.joins, leaves: done.leaves, next };
}

/** Opens the next round with what was left; a round that left nothing needs no second look. */
async function openNext(
  tx: Queries,
  seasonId: number,
  leftNothing: boolean,
): Promise<number | null> {
  if (!leftNothing) return (await openRound(tx)).number;
  await keepDerived(tx, seasonId);
  return null;
}

async function checkRound(tx: Queries, wanted: WantedStep) {
  const found = await findRoundWithCloser(tx, wanted.round);
  if (found === undefined)
    return refused(404, "not-found", t("rounds.thereIsNoRound", { round: wanted.round }));
  const by = found.closedBy ?? found.closedByName;
  if (found.state === "done")
    return refused(
      409,
      "round/done",
      t("rounds.roundWasAlreadyCarriedOut", { number: found.number, by }),
    );
  if (found.state === "dropped")
    return refused(
      409,
      "round/dropped",
      t("rounds.roundIsNoLongerNeeded", { number: found.number }),
    );
  if (found.version !== wanted.version)
    return refused(409, "round/changed", t("rounds.thisRoundHasChangedSince"));
  const wrong = refuseGuards(found.guards, wanted.passed);
  if (wrong instanceof Refused) return wrong;
  return { ...found, accepted: found.totals.accepted, held: found.totals.held };
}
