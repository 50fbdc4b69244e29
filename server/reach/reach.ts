import { inOrder } from "@amigo/language/inOrder";
import { sql } from "drizzle-orm";
import { each } from "@amigo/language/message";
import type { Fact } from "@amigo/core/facts/fact";
import {
  countReached,
  whyUnreached,
  type Reached,
  type Stopped,
  type Unreached,
} from "@amigo/core/reach/reach";
import { nameOf, type FactIndex, type Person } from "@amigo/core/facts/factIndex";
import type { Reach, Trouble } from "@amigo/contract/mail";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { standingIndex } from "../facts/standing";
import { loadStopped } from "../membership/addressQueries";
import { peopleOf } from "../membership/scope";
import { listCounts } from "../people/queries";
import { describeOrigins } from "../facts/describeOrigins";
import { t } from "../texts/t";
import type { addressTrouble } from "../db/schema/deliveries";
import { loadCurrentSeason } from "../db/houseQueries";
import { listTroubles, listIds, countReachByWeek, listAddressFacts } from "./queries";

/** Who can be reached of those whom the asker sees. */
export async function reachOf(db: Queries, caller: Caller): Promise<Omit<Reach, "brakes">> {
  const current = await loadCurrentSeason(db);
  const seasonId = current?.id ?? 0;
  const index = await standingIndex(db, seasonId);
  const within = await seenIds(db, caller, seasonId);
  const stopped = await loadStopped(db);
  const students = [...index.people.values()].filter(
    ({ role, id }) => role === "student" && (within === undefined || within.has(id)),
  );
  const now = countReached(students, index, stopped);
  return {
    ...now,
    classes: reachByClass(students, index, stopped),
    weeks: await weeksOf(db, seasonId, within, now),
    troubles: await describeTroubles(db, seasonId, index, await listTroubles(db), within),
  };
}

/** Returns, for each class, its students, how many can be reached, and why the others can't. */
function reachByClass(
  students: readonly Person[],
  index: FactIndex,
  stopped: Stopped,
): Reach["classes"] {
  const classes = new Map<string, Reach["classes"][number]>();
  for (const student of students) {
    const why = whyUnreached(student, index, stopped);
    for (const key of student.cohorts) {
      const cohort = index.cohorts.get(key);
      if (cohort?.kind !== "class") continue;
      const row = classes.get(key) ?? {
        name: cohort.name,
        site: cohort.site,
        students: 0,
        reached: 0,
        missing: [],
      };
      classes.set(key, row);
      row.students++;
      if (why === undefined) row.reached++;
      else row.missing.push({ id: student.id, name: nameOf(student), why: unreachedInWords(why) });
    }
  }
  return [...classes.values()].sort(
    (one, other) => inOrder(one.site, other.site) || inOrder(one.name, other.name),
  );
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

async function seenIds(
  db: Queries,
  caller: Caller,
  seasonId: number,
): Promise<Set<string> | undefined> {
  const within = peopleOf(caller, seasonId);
  if (within === undefined) return undefined;
  const { rows } = await listIds(db, within);
  return new Set(rows.map(({ id }) => id));
}

/** How many students there were in each of the last weeks, and how many of them could be reached; this week as things are now. */
async function weeksOf(
  db: Queries,
  seasonId: number,
  within: ReadonlySet<string> | undefined,
  now: Reached,
): Promise<Reach["weeks"]> {
  const only =
    within === undefined
      ? sql``
      : sql`and student.subject in (select json_array_elements_text(${JSON.stringify([...within])}::json))`;
  const { rows } = await countReachByWeek(db, seasonId, only);
  const today = rows.pop();
  return today === undefined ? [] : [...rows, { day: today.day, ...now }];
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
