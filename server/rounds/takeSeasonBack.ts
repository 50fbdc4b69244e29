import { Refused, refused } from "../refused";
import type { Queries } from "../db/connect";
import { notify } from "../events/events";
import { storeFacts } from "../facts/queries";
import { standingFacts } from "../facts/standing";
import { record } from "../events/record";
import type { Actor } from "../change/carryOut";
import { openRound } from "../change/openRound";
import { storeDone } from "../change/storeDone";
import { t } from "../texts/t";
import {
  dropOpenRound,
  listListsByHand,
  releaseNames,
  closeSeasonLists,
  markSeasonCohortsGone,
  unopenSeason,
  reopenSeason,
  reopenLists,
  listRoundsAfter,
  findAnyFact,
  countClosedBy,
} from "./seasonQueries";
import { findSeason } from "../change/guardQueries";
import { endSeasonMemberships } from "../change/membershipQueries";
import { moveLists } from "./queries";

/**
 * Takes the opening of a season back as one: its lists are closed and their names free, the season before is current
 * again with its lists open.
 *
 * Refused with 409 when something was carried out in the new season since.
 */
export async function takeSeasonBack(
  tx: Queries,
  actor: Actor,
  opening: { round: number; seasonId: number; opensAfter: number },
): Promise<{ round: number; lists: number } | Refused> {
  const opened = await seasonToTakeBack(tx, opening);
  if (opened instanceof Refused) return opened;
  const { from, to } = opened;
  const number = await storeDone(tx, actor, {
    seasonId: opening.opensAfter,
    causes: [],
    changes: new Map(),
    totals: { joins: 0, leaves: 0, replaced: 0, lists: 0, accepted: 0, held: 0 },
    takesBack: { round: opening.round, leftAlone: [] },
  });
  await dropOpenRound(tx);
  const moved = await listListsByHand(tx, opening.seasonId);
  await moveLists(tx, opening.seasonId, opening.opensAfter, new Set(moved.map(({ key }) => key)));
  await releaseNames(tx, opening.seasonId);
  await endSeasonMemberships(tx, number, opening.seasonId);
  await closeSeasonLists(tx, opening.seasonId);
  await markSeasonCohortsGone(tx, opening.seasonId);
  await storeFacts(
    tx,
    opening.seasonId,
    number,
    await standingFacts(tx, opening.seasonId),
    new Map(),
  );
  await unopenSeason(tx, opening.seasonId);
  await reopenSeason(tx, opening.opensAfter);
  const reopened = await reopenLists(tx, opening.opensAfter, opening.round);
  await record(tx, {
    actorId: actor.id,
    actor: actor.name,
    action: "take back",
    sentence: () =>
      t("rounds.tookBackTheOpeningOf", {
        name: actor.name,
        to,
        number,
        from,
        reopened: reopened.length,
      }),
    before: { season: to },
    after: { season: from },
  });
  await openRound(tx);
  await notify(tx, "rounds", "board", "house", "people", "sources");
  return { round: number, lists: reopened.length };
}

/** The names of the two seasons, where nothing stands against taking the opening back. */
export async function seasonToTakeBack(
  tx: Queries,
  opening: { round: number; seasonId: number; opensAfter: number },
): Promise<{ from: string; to: string; lists: number } | Refused> {
  const later = await listRoundsAfter(tx, opening.seasonId, opening.round);
  if (later.length > 0)
    return refused(
      409,
      "season/used",
      t("rounds.carriedOutInTheNew", {
        count: later.length,
        numbers: later.map(({ number }) => number).join(", "),
      }),
    );
  const to = await findSeason(tx, opening.seasonId);
  const from = await findSeason(tx, opening.opensAfter);
  if (to?.current !== true) return refused(409, "season/past", t("rounds.aLaterSeasonIsCurrent"));
  const kept = await findAnyFact(tx, opening.opensAfter);
  if (kept === undefined)
    return refused(
      409,
      "season/removed",
      t("rounds.theRosterOfWasRemoved", { label: from?.label ?? t("rounds.theSeasonBefore") }),
    );
  const lists = await countClosedBy(tx, opening.opensAfter, opening.round);
  return { from: from?.label ?? "", to: to.label, lists: lists?.count ?? 0 };
}
