import { inOrder } from "@amigo/language/inOrder";
import { sql, type SQL } from "drizzle-orm";
import { each } from "@amigo/language/message";
import type { Fact, FactKind } from "@amigo/core/facts/fact";
import { touches, whenRenewed } from "@amigo/core/facts/indexFacts";
import { reachByCohort } from "@amigo/core/reach/reachByCohort";
import {
  isSameStopped,
  wholeReach,
  type WholeReach,
  type Reached,
  type Stopped,
  type Unreached,
} from "@amigo/core/reach/reach";
import { nameOf, type FactIndex } from "@amigo/core/facts/factIndex";
import type { Reach, Trouble } from "@amigo/contract/mail";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { standingIndex } from "../facts/standing";
import { loadStopped } from "../membership/addressQueries";
import { seenIds } from "../membership/scope";
import { listCounts } from "../people/queries";
import { describeOrigins } from "../facts/describeOrigins";
import { t } from "../texts/t";
import type { addressTrouble } from "../db/schema/deliveries";
import { loadCurrentSeason } from "../db/houseQueries";
import { listTroubles, countReachByWeek, listAddressFacts } from "./queries";

/** Who can be reached of those whom the asker sees. */
export async function reachOf(db: Queries, caller: Caller): Promise<Omit<Reach, "brakes">> {
  const current = await loadCurrentSeason(db);
  const seasonId = current?.id ?? 0;
  const index = await standingIndex(db, seasonId);
  const within = await seenIds(db, caller, seasonId);
  const stopped = await loadStopped(db);
  const { students, unreached } = reachWithin(index, stopped, within);
  const now = { students, reached: students - unreached.size };
  return {
    ...now,
    classes: reachByClass(index, unreached, countsWithin(index, stopped, within)),
    weeks: await weeksOf(db, seasonId, { index, stopped, within }, now),
    troubles: await describeTroubles(db, seasonId, index, await listTroubles(db), within),
  };
}

/** Returns the students whom the asker sees, counted, and who of them can't be reached. */
function reachWithin(
  index: FactIndex,
  stopped: Stopped,
  within: ReadonlySet<string> | undefined,
): WholeReach {
  const whole = wholeReach(index, stopped);
  if (within === undefined) return whole;
  const isStudent = (id: string): boolean => index.people.get(id)?.role === "student";
  return {
    students: [...within].filter(isStudent).length,
    unreached: new Map([...whole.unreached].filter(([id]) => within.has(id))),
  };
}

/** Returns how many students of each class the asker sees. */
function countsWithin(
  index: FactIndex,
  stopped: Stopped,
  within: ReadonlySet<string> | undefined,
): ReadonlyMap<string, number> {
  if (within === undefined)
    return new Map(
      [...reachByCohort(index, stopped)].map(([key, { students }]) => [key, students]),
    );
  return new Map(
    [...index.enrolled].map(([key, ids]) => [key, [...ids].filter((id) => within.has(id)).length]),
  );
}

/** Returns, for each class, its students, how many can be reached, and why the others can't. */
function reachByClass(
  index: FactIndex,
  unreached: ReadonlyMap<string, Unreached>,
  counts: ReadonlyMap<string, number>,
): Reach["classes"] {
  const missing = new Map<string, Reach["classes"][number]["missing"]>();
  for (const [id, why] of unreached) {
    const student = index.people.get(id);
    for (const key of student?.cohorts ?? []) {
      const row = { id, name: nameOf(student), why: unreachedInWords(why) };
      const there = missing.get(key);
      if (there === undefined) missing.set(key, [row]);
      else there.push(row);
    }
  }
  return [...counts]
    .flatMap(([key, students]) => {
      const cohort = index.cohorts.get(key);
      if (cohort?.kind !== "class" || students === 0) return [];
      const theirs = [...(missing.get(key) ?? [])].sort((one, other) =>
        inOrder(one.name, other.name),
      );
      return [
        {
          ...{ name: cohort.name, site: cohort.site, students },
          reached: students - theirs.length,
          missing: theirs,
        },
      ];
    })
    .sort((one, other) => inOrder(one.site, other.site) || inOrder(one.name, other.name));
}

function unreachedInWords(unreached: Unreached): string {
  switch (unreached.why) {
    case "no guardian":
      return t("shared.noGuardianIsKnown");
    case "no address":
      return t("reach.noAddress", {
        guardians: each(unreached.guardians.map((guardian) => nameOf(guardian))),
        count: unreached.guardians.length,
      });
    case "mail comes back":
      return t("reach.mailToComesBack", { addresses: each(unreached.addresses) });
  }
}

type Week = Reach["weeks"][number];

/** For how long the weeks of a school in which nothing has changed are shown again, in milliseconds. */
const WEEKS_KEPT = 5 * 60_000;

/** The last weeks as they were counted, as long as everybody stands as they do: it's much work, and whoever looks at Reach asks. */
const WEEKS = new WeakMap<FactIndex, CountedWeeks>();

interface CountedWeeks {
  at: number;
  stopped: Stopped;
  weeks: Promise<Week[]>;
  failed: boolean;
}

/** Facts by which somebody can be reached. */
const REACHING: ReadonlySet<FactKind> = new Set(["student", "tie", "address"]);

whenRenewed((below, index, difference) => {
  const known = WEEKS.get(below);
  if (known !== undefined && !touches(difference, REACHING)) WEEKS.set(index, known);
});

/** How many students there were in each of the last weeks, and how many of them could be reached; this week as things are now. */
async function weeksOf(
  db: Queries,
  seasonId: number,
  {
    index,
    stopped,
    within,
  }: { index: FactIndex; stopped: Stopped; within: ReadonlySet<string> | undefined },
  now: Reached,
): Promise<Week[]> {
  const weeks =
    within === undefined
      ? await weeksOfAll(db, seasonId, index, stopped)
      : await countWeeks(
          db,
          seasonId,
          sql`and student.subject in (select json_array_elements_text(${JSON.stringify([...within])}::json))`,
        );
  const today = weeks.at(-1);
  return today === undefined ? [] : [...weeks.slice(0, -1), { day: today.day, ...now }];
}

/** The same of the whole school; whoever asks while they are counted waits for that. */
function weeksOfAll(
  db: Queries,
  seasonId: number,
  index: FactIndex,
  stopped: Stopped,
): Promise<Week[]> {
  const known = WEEKS.get(index);
  if (
    known?.failed === false &&
    Date.now() - known.at < WEEKS_KEPT &&
    isSameStopped(known.stopped, stopped)
  )
    return known.weeks;
  const counted = {
    ...{ at: Date.now(), stopped, failed: false },
    weeks: countWeeks(db, seasonId, sql``),
  };
  WEEKS.set(index, counted);
  // An index that was made from this one meanwhile has the very same.
  counted.weeks.catch(() => (counted.failed = true));
  return counted.weeks;
}

async function countWeeks(db: Queries, seasonId: number, only: SQL): Promise<Week[]> {
  return (await countReachByWeek(db, seasonId, only)).rows;
}

async function describeTroubles(
  db: Queries,
  seasonId: number,
  index: FactIndex,
  rows: readonly (typeof addressTrouble.$inferSelect)[],
  within: ReadonlySet<string> | undefined,
): Promise<Trouble[]> {
  if (rows.length === 0) return [];
  const addresses = rows.map(({ address }) => address);
  const facts = (await listAddressFacts(db, seasonId, addresses)) as Fact[];
  const describe = await describeOrigins(
    db,
    facts.map(({ origin }) => origin),
  );
  const counts = await listCounts(db, addresses);
  return rows.flatMap(({ address, state, sort, words, lastAt }) => {
    const foundFacts = facts.filter(
      ({ ref, subject }) => ref === address && (within === undefined || within.has(subject)),
    );
    if (within !== undefined && foundFacts.length === 0) return [];
    const [first] = foundFacts;
    const at = first === undefined ? undefined : describe(first.origin);
    const people = foundFacts.flatMap(({ subject }) => {
      const person = index.people.get(subject);
      return person === undefined
        ? []
        : [
            {
              id: subject,
              name: nameOf(person),
              detail:
                person.role === "guardian"
                  ? t("shared.guardianOf", {
                      students: each(
                        [...person.ties.keys()].map((id) => nameOf(index.people.get(id))),
                      ),
                    })
                  : person.role,
            },
          ];
    });
    return [
      {
        address,
        state,
        sort,
        words,
        since: lastAt.toISOString(),
        lists: counts.get(address) ?? 0,
        people,
        where: at?.text ?? "",
        source: at?.source ?? null,
      },
    ];
  });
}
