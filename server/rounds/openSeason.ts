import type { Facts } from "@amigo/core/facts/fact";
import { refused, Refused } from "../refused";
import { inTransaction } from "../db/inTransaction";
import { sharedIndex } from "@amigo/core/facts/indexFacts";
import { listDeltas } from "@amigo/core/lists/listDeltas";
import { nextSeason, type NextSeason, type SeasonPlanWanted } from "@amigo/core/lists/nextSeason";
import { wantedLists } from "@amigo/core/lists/sharedWanted";
import { dayIn } from "@amigo/core/schedule/dayIn";
import type { Cause } from "@amigo/core/step/cause";
import { ListBook, membersOf } from "@amigo/core/step/listMembers";
import type { Database, Queries } from "../db/connect";
import { notify } from "../events/events";
import { standingFacts } from "../facts/standing";
import { record } from "../events/record";
import { houseNaming, nameMissing } from "../membership/nameWanted";
import { carryOut, type Actor, type CarriedOut } from "../change/carryOut";
import { openRound } from "../change/openRound";
import { causeLines, type EditPlan } from "./planEdit";
import { storeDone } from "../change/storeDone";
import { t } from "../texts/t";
import type { RoundTotals } from "../db/schema/rounds";
import { loadHouse, loadCurrentSeason } from "../db/houseQueries";
import {
  findSeasonLabelled,
  dropOpenRound,
  endSeason,
  storeSeason,
  makeCurrent,
  closeLists,
} from "./seasonQueries";
import { moveLists } from "./queries";
import { lockRounds } from "../change/roundQueries";
import { listOpenKeys } from "../change/carryOutQueries";

/** What opening the next season would do. */
export interface SeasonPlan extends EditPlan {
  /** How many lists of the season that ends are closed by it. */
  closes: number;
  students: number;
  placed: number;
}

async function plan(tx: Queries, wanted: SeasonPlanWanted) {
  const current = await loadCurrentSeason(tx);
  const settings = await loadHouse(tx);
  if (current === undefined || settings === undefined)
    return refused(503, "not-set-up", t("shared.thisHouseHasNoCurrent"));
  const same = await findSeasonLabelled(tx, wanted.label);
  if (same !== undefined && (same.current || same.overOn !== null))
    return refused(
      409,
      "season/there",
      t("rounds.thereIsASeasonAlready", { label: wanted.label }),
      "label",
    );
  const names = new Set<string>();
  for (const { key, name } of wanted.cohorts) {
    if (name === null) continue;
    const found = `${key.slice(0, key.indexOf(":"))} ${name.toLowerCase()}`;
    if (names.has(found))
      return refused(422, "season/twice", t("rounds.twoOfThemWouldBe", { name }), "cohorts");
    names.add(found);
  }
  const today = dayIn(settings.timeZone, new Date());
  const stand = await standingFacts(tx, current.id);
  const next = nextSeason(stand, wanted, today);
  const before = wantedLists(sharedIndex(stand));
  const index = sharedIndex(next.facts);
  const after = wantedLists(index);
  const naming = { ...(await houseNaming(tx, current.id, today)), season: wanted.label };
  const members = membersOf(index, new ListBook([...after.values()].filter(({ open }) => open)));
  const joins = [...members.values()].reduce((sum, addresses) => sum + addresses.size, 0);
  const open = await listOpenKeys(tx, current.id);
  const closes = open.filter(({ key }) => !next.moved.has(key)).length;
  const causes = causesOf(current.label, wanted, next, before.size, stand);
  const lists = listDeltas(
    new Map([...before].filter(([key]) => next.moved.has(key))),
    after,
    nameMissing(after, index, naming),
  ).map((delta) => ({ ...delta, joins: members.get(delta.key)?.size ?? 0, leaves: 0 }));
  const totals: RoundTotals = {
    joins,
    leaves: 0,
    replaced: 0,
    lists: lists.length + closes,
    accepted: causes.length,
    held: 0,
  };
  return { current, same, today, next, lists, totals, causes, closes, joins };
}

/** The season's beginning as causes: the season itself, and what becomes of each class. */
function causesOf(
  label: string,
  wanted: SeasonPlanWanted,
  next: NextSeason,
  lists: number,
  stand: Facts,
): Cause[] {
  const index = sharedIndex(stand);
  const one = (key: string, title: string, detail: string, kind: Cause["kind"]): Cause => ({
    key: `season ${key}`,
    kind,
    subject: key,
    title,
    detail,
    sentence: `${title}: ${detail}`,
    group: "",
    adds: [],
    removes: [],
  });
  const people =
    wanted.students === "left for the roster"
      ? t("rounds.leftForTheRosterTo")
      : wanted.students === "one level up"
        ? t("rounds.oneLevelUp")
        : t("rounds.asTheyAre");
  return [
    one(
      wanted.label,
      t("rounds.season", { label: wanted.label }),
      t("rounds.beginsWithOfOverOr", { students: next.students, people, lists, label }),
      "season",
    ),
    ...wanted.cohorts.flatMap(({ key, name, students }) => {
      const value = index.cohorts.get(key);
      if (value === undefined) return [];
      const to = index.cohorts.get(students)?.name;
      const becomes =
        name === null
          ? "dropped"
          : name === value.name
            ? t("rounds.carriedOver")
            : t("rounds.carriedOverAs", { name });
      const going =
        to === undefined || (wanted.students === "left for the roster" && value.kind === "class")
          ? t("rounds.withoutItsStudents")
          : students === key
            ? t("rounds.withItsStudents")
            : t("rounds.itsStudentsGoTo", { to });
      return [
        one(
          key,
          value.name,
          name === null && to === undefined ? becomes : `${becomes}, ${going}`,
          "cohort",
        ),
      ];
    }),
  ];
}

/** What opening the next season would do, without doing it. */
export async function planSeason(
  db: Database,
  wanted: SeasonPlanWanted,
): Promise<SeasonPlan | Refused> {
  const planned = await plan(db, wanted);
  if (planned instanceof Refused) return planned;
  const { current, causes, totals, lists, closes, next } = planned;
  return {
    version: current.version,
    causes: causeLines(causes, new Map()),
    totals,
    guards: [],
    lists,
    closes,
    students: next.students,
    placed: next.placed,
  };
}

/**
 * Opens the next season as one round: people and classes taken along as wanted, lists made with the new season in
 * their names, the lists of the season before closed and told which has taken their place.
 *
 * Refused with 409 when something has changed since it was planned, or the season is there already.
 */
export async function openSeason(
  db: Database,
  { actor, wanted, version }: { actor: Actor; wanted: SeasonPlanWanted; version: number },
): Promise<(CarriedOut & { round: number }) | Refused> {
  return inTransaction(db, async (tx) => {
    await lockRounds(tx);
    const planned = await plan(tx, wanted);
    if (planned instanceof Refused) return planned;
    const { current, same, today, next, totals, causes } = planned;
    if (current.version !== version)
      return refused(409, "edit/changed", t("rounds.somethingHasChangedSinceYou"));
    await dropOpenRound(tx);
    await endSeason(tx, today, current.id);
    const [opened] =
      same === undefined ? await storeSeason(tx, wanted.label) : await makeCurrent(tx, same.id);
    if (opened === undefined) throw new Error("the season was not made");
    const number = await storeDone(tx, actor, {
      seasonId: opened.id,
      causes,
      changes: new Map(),
      totals,
      opensAfter: current.id,
    });
    await moveLists(tx, current.id, opened.id, next.moved);
    const successors = JSON.stringify(
      [...next.successors].map(([key, successor]) => ({ key, successor })),
    );
    await closeLists(tx, number, successors, current.id);
    const done = await carryOut(
      tx,
      actor,
      { round: number, seasonId: opened.id, words: () => t("rounds.round", { number }) },
      new Map(),
      next.facts,
    );
    await record(tx, {
      actorId: actor.id,
      actor: actor.name,
      action: "open season",
      sentence: () =>
        t("rounds.openedTheSeasonInRound", {
          name: actor.name,
          label: wanted.label,
          number,
          listsMade: done.listsMade,
          before: current.label,
        }),
      before: { season: current.label },
      after: { season: wanted.label, students: next.students },
    });
    await openRound(tx);
    await notify(tx, "rounds", "board", "house", "people", "sources");
    return { ...done, round: number };
  });
}
